import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { passNotes } from '../patterns/pass';
import { NOTHING_HEARD } from '../song/resolve';
import type { PartTake } from '../song/schema';
import { openSong } from '../song/song-file';
import { requestAgain } from './asking';
import { draft } from './draft';

describe('the demo song', () => {
  const opened = openSong(JSON.parse(readFileSync(resolve('app/public/demo/barometer-falling.json'), 'utf8')));
  if (!opened.ok) throw new Error(opened.reason);
  const { score, ledger } = opened.song;
  const { takes } = ledger;

  it('is drafted again note for note from what its takes were asked', () => {
    const drafted = Object.values(takes).filter(({ origin }) => origin.how === 'drafted');
    const different = drafted.filter((take) => {
      const again = draft(requestAgain({ score, takes }, take)!, 0);
      const stored = take.of === 'part' ? take.notes.map(({ id: _id, ...note }) => note) : take.chords;
      return (
        !again.ok ||
        JSON.stringify(again.content.of === 'part' ? again.content.notes : again.content.chords) !==
          JSON.stringify(stored)
      );
    });
    expect(different.map(({ id }) => id)).toEqual([]);
    expect(drafted.length).toBeGreaterThan(100);
  });

  it('has loops for the guitar of its bridge, whose first pass is stored as it comes out', () => {
    const loops = Object.values(takes).filter((take) => take.of === 'part' && take.pattern !== undefined);
    expect(loops.map(({ id }) => id)).toEqual(['bridge-guitar-loops']);
    const [take] = loops as PartTake[];
    const section = score.sections.find(({ id }) => id === take!.section)!;
    expect(passNotes({ score, takes, heard: NOTHING_HEARD }, section, take!, 0)).toEqual(take!.notes);
  });

  it('has five sections and six parts', () => {
    expect(opened.song.score.sections).toHaveLength(5);
    expect(opened.song.score.parts).toHaveLength(6);
  });
});

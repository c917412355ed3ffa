import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { openSong } from '../song/song-file';
import { requestAgain } from './asking';
import { draft } from './draft';

describe('the demo song', () => {
  const opened = openSong(JSON.parse(readFileSync(resolve('app/public/demo/barometer-falling.json'), 'utf8')));
  if (!opened.ok) throw new Error(opened.reason);
  const { score, ledger } = opened.song;
  const { takes } = ledger;

  it('is drafted again note for note from what its takes were asked', () => {
    const different = Object.values(takes).filter((take) => {
      const again = draft(requestAgain({ score, takes }, take)!, 0);
      const stored = take.of === 'part' ? take.notes.map(({ id: _id, ...note }) => note) : take.chords;
      return (
        !again.ok ||
        JSON.stringify(again.content.of === 'part' ? again.content.notes : again.content.chords) !==
          JSON.stringify(stored)
      );
    });
    expect(different.map(({ id }) => id)).toEqual([]);
    expect(Object.keys(takes).length).toBeGreaterThan(100);
  });

  it('has five sections and six parts', () => {
    expect(opened.song.score.sections).toHaveLength(5);
    expect(opened.song.score.parts).toHaveLength(6);
  });
});

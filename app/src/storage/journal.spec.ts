import { remark } from '@fendro/core/song/edit';
import type { Song } from '@fendro/core/song/schema';
import { choicesOf } from '@fendro/core/song/section';
import { scoreWith } from '@fendro/core/testing/scores';
import { clearJournal, journalledSongs, keepJournal, readJournal } from './journal';

const { song } = scoreWith(1, 0);
const ids = Object.keys(song.ledger.takes);
const all = { clock: 4, takes: ids, heardFrom: 0 };

describe('the journal', () => {
  beforeEach(() => {
    localStorage.clear();
  });

  it('keeps what the database does not have, song by song', () => {
    const heard = [
      { take: ids[0]!, section: 'section-1', at: 1 },
      { take: ids[1]!, section: 'section-1', at: 2 },
    ];
    const logged: Song = { ...song, ledger: { ...song.ledger, heard } };
    keepJournal(logged, { clock: 7, takes: [ids[2]!], heardFrom: 1 });
    keepJournal({ ...song, id: 'other' }, all);
    expect(readJournal(song.id)).toMatchObject({
      clock: 7,
      version: song.version,
      score: song.score,
      heardFrom: 1,
      heard: [heard[1]],
      takes: ids,
      made: { [ids[2]!]: song.ledger.takes[ids[2]!] },
    });
    expect(journalledSongs().sort()).toEqual(['other', song.id].sort());
    clearJournal(song.id);
    expect(readJournal(song.id)).toBeNull();
    expect(journalledSongs()).toEqual(['other']);
  });

  it('leaves takes out that nobody chose, heard or judged, where there is no room for all', () => {
    const room = jest.spyOn(Storage.prototype, 'setItem');
    room.mockImplementationOnce(() => {
      throw new DOMException('full', 'QuotaExceededError');
    });
    const judged: Song = { ...song, score: remark(song.score, ids.at(-1)!, { verdict: 'kept' }) };
    keepJournal(judged, all);
    room.mockRestore();
    const kept = new Set(Object.keys(readJournal(song.id)!.made));
    const wanted = new Set([...song.score.sections.flatMap(choicesOf), ids.at(-1)!]);
    expect(kept).toEqual(wanted);
    expect(wanted.size).toBeLessThan(ids.length);
  });

  it('leaves the last entry where there is no room at all', () => {
    keepJournal(song, all);
    const room = jest.spyOn(Storage.prototype, 'setItem').mockImplementation(() => {
      throw new DOMException('full', 'QuotaExceededError');
    });
    keepJournal(song, { ...all, clock: 5 });
    room.mockRestore();
    expect(readJournal(song.id)!.clock).toBe(4);
  });

  it('is none where it cannot be read', () => {
    keepJournal(song, all);
    for (const broken of ['{', '{"clock":"late"}', 'null']) {
      localStorage.setItem(`fendro journal ${song.id}`, broken);
      expect(readJournal(song.id)).toBeNull();
    }
  });
});

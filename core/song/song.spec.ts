import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import * as fc from 'fast-check';
import { scoreWith } from '../testing/scores';
import { isUsual, resetWord, stepWord, wordFor, WORDS_OF_ROLE } from './brief-words';
import { DEFAULT_BRIEFS } from './briefs';
import { addSection, choose, freeName, insertOccurrence, moveOccurrence, remark, removeOccurrence, removePart, verdictOf } from './edit';
import { prunedTakes } from './prune';
import { layOut, songTicks, soundingId } from './resolve';
import { HARMONY, ROLES } from './schema';
import { openSong } from './song-file';

const { score, takes, song } = scoreWith(1, 0);

describe('edits', () => {
  it('move occurrences without losing any', () => {
    fc.assert(fc.property(fc.constantFrom(...score.order), fc.nat(2), ({ id }, to) => {
      const moved = moveOccurrence(score, id, to);
      expect(moved.order.map((occurrence) => occurrence.id).sort()).toEqual(score.order.map((occurrence) => occurrence.id).sort());
      expect(moved.order[to]!.id).toBe(id);
      expect(songTicks(moved)).toBe(songTicks(score));
    }));
  });

  it('keep a section for as long as it sounds somewhere, and the last one always', () => {
    const once = removeOccurrence(score, 'occurrence-1');
    expect(once.sections).toHaveLength(2);
    const gone = removeOccurrence(once, 'occurrence-3');
    expect(gone.sections.map(({ id }) => id)).toEqual(['section-2']);
    expect(removeOccurrence(gone, 'occurrence-2')).toBe(gone);
    expect(removeOccurrence(score, 'nobody')).toBe(score);
  });

  it('add sections after the one in view', () => {
    const section = { ...score.sections[0]!, id: 'new', name: freeName(score, 'Verse') };
    const added = addSection(score, section, 'occurrence-9', 'occurrence-1');
    expect(added.order.map(({ section: id }) => id)).toEqual(['section-1', 'new', 'section-2', 'section-1']);
    expect(section.name).toBe('Verse 2');
    expect(insertOccurrence(score, { id: 'x', section: 'section-2' }).order.at(-1)!.id).toBe('x');
  });

  it('choose, judge and remove without touching the rest', () => {
    const chosen = choose(score, 'section-1', HARMONY, null);
    expect(chosen.sections[0]!.harmony).toBeNull();
    expect(chosen.sections[1]).toBe(score.sections[1]);
    expect(verdictOf(remark(score, 'take', { verdict: 'kept' }), 'take')).toBe('kept');
    expect(removePart(score, 'part-1').sections.every(({ chosen: lines }) => !('part-1' in lines))).toBe(true);
  });

  it('lay sections out one after the other', () => {
    const placed = layOut(score);
    placed.slice(1).forEach((place, index) => expect(place.start).toBe(placed[index]!.start + placed[index]!.length));
    expect(soundingId(score.sections[0]!, 'part-1', { 'section-1': { 'part-1': 'heard' } })).toBe('heard');
  });
});

describe('song files', () => {
  it('open as they were saved', () => {
    expect(openSong(JSON.parse(JSON.stringify(song)))).toEqual({ ok: true, song, setAside: [] });
  });

  it('set a damaged take aside, name it and open the rest', () => {
    const id = song.score.sections[0]!.chosen['part-1']!;
    const damaged = { ...song, ledger: { ...song.ledger, takes: { ...song.ledger.takes, [id]: { broken: true } } } };
    const opened = openSong(damaged);
    if (!opened.ok) throw new Error(opened.reason);
    expect(opened.setAside).toEqual([id]);
    expect(opened.song.score.sections[0]!.chosen['part-1']).toBeNull();
    expect(Object.keys(opened.song.ledger.takes)).toHaveLength(Object.keys(song.ledger.takes).length - 1);
  });

  it('of version 1 open as the same music', () => {
    const opened = openSong(JSON.parse(readFileSync(join(__dirname, 'samples/version-1.json'), 'utf8')));
    if (!opened.ok) throw new Error(opened.reason);
    expect(opened.setAside).toEqual([]);
    expect(opened.song.version).toBe(2);
    expect(opened.song.score.sections[0]).toMatchObject({ ground: {}, heldBars: [], chordSetting: { family: 'keyboard' }, harmonyBrief: { under: null } });
    expect(Object.keys(opened.song.ledger.takes).length).toBeGreaterThan(5);
    expect(openSong({ format: 'fendro-song', version: 1 })).toMatchObject({ ok: false, reason: expect.stringContaining('damaged') as string });
  });

  it('are refused in words when they are newer, damaged or something else', () => {
    expect(openSong({ ...song, version: 99 })).toMatchObject({ ok: false, reason: expect.stringContaining('newer Fendro') as string });
    expect(openSong({ ...song, score: { ...song.score, ground: { ...song.score.ground, tempo: 9999 } } })).toMatchObject({ ok: false, reason: expect.stringContaining('tempo') as string });
    expect(openSong('weather')).toMatchObject({ ok: false });
  });

  it('let go only of takes that nobody heard, chose or judged, keeping what others were made from', () => {
    const kept = prunedTakes(score, { takes, heard: [{ take: 'section-1-part-2-1', at: 0 }] });
    expect(kept['section-1-part-2-1']).toBeDefined();
    expect(kept['section-1-part-3-1']).toBeUndefined();
    expect(kept[score.sections[0]!.harmony!]).toBeDefined();
  });
});

describe('the words of a brief', () => {
  const limits = { low: 20, high: 110 };
  it('step up and down and back to their usual', () => {
    for (const role of ROLES) {
      for (const word of WORDS_OF_ROLE[role]) {
        const usual = DEFAULT_BRIEFS[role];
        const up = { ...usual, ...stepWord(usual, word, 1, limits) };
        expect(wordFor(usual, word)).not.toBe('');
        expect(isUsual(up, word, usual)).toBe(role === 'drums' && word === 'register');
        expect(isUsual({ ...up, ...resetWord(word, usual) }, word, usual)).toBe(true);
      }
    }
  });

  it('stay inside what the instrument plays', () => {
    const brief = { ...DEFAULT_BRIEFS.melody, low: 60, high: 79 };
    expect(stepWord(brief, 'register', 1, { low: 60, high: 80 })).toEqual({ low: 61, high: 80 });
    expect(stepWord(brief, 'register', -1, { low: 60, high: 80 })).toEqual({ low: 60, high: 79 });
    expect(stepWord({ ...brief, adventure: 90 }, 'adventure', 1, limits)).toEqual({});
  });
});

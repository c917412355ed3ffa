import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import * as fc from 'fast-check';
import { scoreWith } from '../testing/scores';
import { isUsual, resetWord, stepWord, wordFor } from './brief-words';
import {
  addSection,
  choose,
  freeName,
  insertOccurrence,
  moveOccurrence,
  remark,
  removeOccurrence,
  removePart,
  verdictOf,
} from './edit';
import { surplusTakes, unheardTakes } from './prune';
import { withFreshSections } from './fresh-sections';
import { layOut, partTake, songTicks, soundingId } from './resolve';
import { ASPECTS, HARMONY, ROLES, SONG_VERSION, type Song } from './schema';
import { openSong } from './song-file';
import { roleOf } from './roles';
import { choicesOf, chosenId } from './section';

const { score, takes, song } = scoreWith(1, 0);
let serial = 0;

describe('edits', () => {
  it('move occurrences without losing any', () => {
    fc.assert(
      fc.property(fc.constantFrom(...score.order), fc.nat(2), ({ id }, to) => {
        const moved = moveOccurrence(score, id, to);
        expect(moved.order.map((occurrence) => occurrence.id).sort()).toEqual(
          score.order.map((occurrence) => occurrence.id).sort(),
        );
        expect(moved.order[to]!.id).toBe(id);
        expect(songTicks(moved)).toBe(songTicks(score));
      }),
    );
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
    const id = chosenId(song.score.sections[0]!, 'part-1')!;
    const damaged = { ...song, ledger: { ...song.ledger, takes: { ...song.ledger.takes, [id]: { broken: true } } } };
    const opened = openSong(damaged);
    if (!opened.ok) throw new Error(opened.reason);
    expect(opened.setAside).toEqual([id]);
    expect(chosenId(opened.song.score.sections[0]!, 'part-1')).toBeNull();
    expect(Object.keys(opened.song.ledger.takes)).toHaveLength(Object.keys(song.ledger.takes).length - 1);
  });

  const sample = (version: number): unknown =>
    JSON.parse(readFileSync(join(__dirname, `samples/version-${version}.json`), 'utf8'));

  it('of version 1 open as the same music', () => {
    const opened = openSong(sample(1));
    if (!opened.ok) throw new Error(opened.reason);
    expect(opened.setAside).toEqual([]);
    expect(opened.song.version).toBe(SONG_VERSION);
    expect(opened.song.score.sections[0]).toMatchObject({
      ground: {},
      holds: {},
      chordSetting: { family: 'keyboard' },
      harmonyBrief: { under: null },
    });
    expect(Object.keys(opened.song.ledger.takes).length).toBeGreaterThan(5);
    expect(openSong({ format: 'fendro-song', version: 1 })).toMatchObject({
      ok: false,
      reason: expect.stringContaining('damaged') as string,
    });
  });

  it('of version 2 open with every setting there, names that were too long shortened, sections under ids of their own', () => {
    const opened = openSong(sample(2));
    if (!opened.ok) throw new Error(opened.reason);
    expect(opened.setAside).toEqual([]);
    const { score: carried, ledger, hearing } = opened.song;
    expect(carried.title).toHaveLength(120);
    expect(carried.sections.map(({ id, name }) => [id, name.length <= 60])).toEqual([
      ['section-1-of-song-of-version-2', true],
      ['section-2-of-song-of-version-2', true],
    ]);
    expect(carried.parts[0]).toMatchObject({ swaps: {}, brief: { time: null, way: null, pickup: 0 } });
    expect(hearing).toEqual({});
    for (const section of carried.sections)
      expect(choicesOf(section).every((id) => ledger.takes[id]?.section === section.id)).toBe(true);
    expect(Object.keys(ledger.takes)).toHaveLength(13);
    // Takes may be carried over twice: storage writes them again one by one.
    expect(openSong({ ...(JSON.parse(JSON.stringify(opened.song)) as object), version: 2 })).toEqual(opened);
  });

  it('of version 5 open bound to a plan without motifs, their chords in no form', () => {
    const opened = openSong(sample(5));
    if (!opened.ok) throw new Error(opened.reason);
    expect(opened.setAside).toEqual([]);
    const { score: carried, ledger } = opened.song;
    expect(carried.motifs).toEqual([]);
    for (const section of carried.sections)
      expect(section).toMatchObject({
        plan: { bound: true, motif: null, use: 'states' },
        harmonyBrief: { form: null },
      });
    const chords = Object.values(ledger.takes).filter(({ of }) => of === 'harmony');
    expect(chords.map(({ origin }) => origin.asking?.harmonyBrief?.form)).toEqual(chords.map(() => null));
    expect(openSong({ ...(JSON.parse(JSON.stringify(opened.song)) as object), version: 5 })).toEqual(opened);
  });

  it('of version 6 open with held bars as holds of the chords that stood there, the logbook with its sections', () => {
    const opened = openSong(sample(6));
    if (!opened.ok) throw new Error(opened.reason);
    expect(opened.setAside).toEqual([]);
    const { score: carried, ledger } = opened.song;
    expect(carried.sections.map(({ holds }) => holds)).toEqual([
      { harmony: [{ take: 'section-1-harmony-0', aspects: ['rhythm', 'pitch', 'dynamics'], bars: [1, 2], notes: [] }] },
      {},
    ]);
    expect(ledger.heard.map(({ take, section, at }) => [ledger.takes[take]?.section === section, at])).toEqual([
      [true, 1000],
      [true, 2000],
    ]);
    expect(openSong({ ...(JSON.parse(JSON.stringify(opened.song)) as object), version: 6 })).toEqual(opened);
  });

  it('of version 7 open with sections that are no versions of each other, and all that was held', () => {
    const opened = openSong(sample(7));
    if (!opened.ok) throw new Error(opened.reason);
    expect(opened.setAside).toEqual([]);
    const { sections } = opened.song.score;
    expect(sections.map(({ version }) => version)).toEqual(sections.map(() => null));
    expect(sections[0]!.holds).toEqual({
      'part-1': [{ take: 'section-1-part-1-0', aspects: ['rhythm', 'pitch', 'dynamics'], bars: [0], notes: [3] }],
    });
    expect(openSong({ ...(JSON.parse(JSON.stringify(opened.song)) as object), version: 7 })).toEqual(opened);
  });

  it('of version 8 open with the same notes, of which none is left to chance, struck again or bent', () => {
    const old = sample(8) as { ledger: { takes: Record<string, { notes?: object[] }> } };
    const opened = openSong(old);
    if (!opened.ok) throw new Error(opened.reason);
    expect(opened.setAside).toEqual([]);
    expect(opened.song.score.sections.filter(({ version }) => version !== null)).toHaveLength(2);
    for (const [id, take] of Object.entries(opened.song.ledger.takes))
      if (take.of === 'part') expect(take.notes).toEqual(old.ledger.takes[id]!.notes);
    expect(openSong({ ...(JSON.parse(JSON.stringify(opened.song)) as object), version: 8 })).toEqual(opened);
  });

  it('of version 9 open with all that moves, rests and is bent, and with nothing new in the mix', () => {
    const old = sample(9) as { score: Song['score']; ledger: { takes: object } };
    const opened = openSong(old);
    if (!opened.ok) throw new Error(opened.reason);
    expect(opened.setAside).toEqual([]);
    expect(opened.song.score).toEqual(old.score);
    expect(opened.song.ledger.takes).toEqual(old.ledger.takes);
    const [place] = opened.song.score.order;
    expect([place!.lift, Object.keys(place!.rests ?? {}), Object.keys(place!.moves ?? {})]).toEqual([
      2,
      [expect.any(String)],
      [expect.any(String)],
    ]);
  });

  it('of version 10 open with the mix as it was, and with nothing that goes on by itself', () => {
    const old = sample(10) as { score: Song['score']; ledger: { takes: object; heard: object } };
    const opened = openSong(old);
    if (!opened.ok) throw new Error(opened.reason);
    expect(opened.setAside).toEqual([]);
    expect(opened.song.score).toEqual(old.score);
    expect(opened.song.ledger).toEqual(old.ledger);
    const [first, second] = opened.song.score.parts;
    expect([first!.tone, first!.octave, second!.layers, opened.song.score.master]).toEqual([
      { brightness: 20, attack: -10, room: 40 },
      1,
      [{ instrument: 'nylon-guitar', octave: 0, level: 60 }],
      90,
    ]);
  });

  it('of version 11 open with what goes on by itself, is treated and was caught, and with nothing dealt', () => {
    const old = sample(11) as { score: Song['score']; ledger: { takes: object; heard: object } };
    const opened = openSong(old);
    if (!opened.ok) throw new Error(opened.reason);
    expect(opened.setAside).toEqual([]);
    expect(opened.song.score).toEqual(old.score);
    expect(opened.song.ledger).toEqual(old.ledger);
    const takes = Object.values(opened.song.ledger.takes).filter((take) => take.of === 'part');
    expect(takes.flatMap(({ pattern }) => (pattern ? [pattern.of] : []))).toEqual(['drawn', 'loops']);
    expect(takes.filter(({ treated }) => treated).map(({ id }) => id)).toEqual(['caught-bass']);
    expect(opened.song.score.parts[0]!.treatments).toHaveLength(2);
    expect(opened.song.ledger.heard).toMatchObject([{ pass: 2 }]);
  });

  it('of version 12 open with what is dealt and leans by itself', () => {
    const old = sample(12) as { score: Song['score']; ledger: { takes: object; heard: object } };
    const opened = openSong(old);
    if (!opened.ok) throw new Error(opened.reason);
    expect(opened.setAside).toEqual([]);
    expect(opened.song.score).toEqual(old.score);
    expect(opened.song.ledger).toEqual(old.ledger);
    const [first, second] = opened.song.score.parts;
    expect(first!.deals).toEqual({ way: 'in turn', to: [first!.id, second!.id] });
    expect(first!.brief.leans).toMatchObject([{ goes: 'slowly', name: 'busier', then: 'comes back' }]);
    expect(opened.song.ledger.takes['share-of-second']).toMatchObject({ part: second!.id, dealt: true });
  });

  it('of version 13 open with what was played by hand, and without guides', () => {
    const old = sample(13) as { score: Song['score']; ledger: { takes: object; heard: object } };
    const opened = openSong(old);
    if (!opened.ok) throw new Error(opened.reason);
    expect(opened.setAside).toEqual([]);
    expect(opened.song.score).toEqual(old.score);
    expect(opened.song.ledger).toEqual(old.ledger);
    expect(opened.song.score.guides).toBeUndefined();
    expect(opened.song.ledger.takes['played-1']).toMatchObject({
      origin: { how: 'played', from: 'round 2' },
      notes: [{ nudge: 12, bend: [{ value: 0 }, { value: 100 }] }, { nudge: -7 }],
    });
  });

  it('of version 3 open with what every take lies over beside what it was made from, and ids for all notes', () => {
    const opened = openSong(sample(3));
    if (!opened.ok) throw new Error(opened.reason);
    expect(opened.setAside).toEqual([]);
    const { takes: carried } = opened.song.ledger;
    const parts = Object.values(carried).filter((take) => take.of === 'part');
    for (const { id: take, notes, origin, over } of parts) {
      expect(notes.map(({ id }) => id)).toEqual(notes.map((_, index) => index));
      expect([take, over === null]).toEqual([take, origin.how === 'edited']);
      if (origin.how === 'drafted') expect(over!.harmony).toBe(origin.asking!.harmony);
      if (origin.how === 'voiced') expect(origin.asking).toBeNull();
      if (origin.how !== 'fitted') continue;
      // It follows the chords that were typed, and was drafted to those before.
      expect(over!.harmony).toBe('typed-chords');
      expect(origin.asking).toEqual(carried[origin.parents[0]!]!.origin.asking);
      expect(origin.asking!.harmony).not.toBe('typed-chords');
    }
    expect(new Set(parts.map(({ origin }) => origin.how))).toEqual(new Set(['drafted', 'fitted', 'voiced', 'edited']));
    expect(openSong({ ...(JSON.parse(JSON.stringify(opened.song)) as object), version: 3 })).toEqual(opened);
  });

  it('of version 4 open with an attempt for every stage, none where nothing was drafted, and sources that say their kind', () => {
    const opened = openSong(sample(4));
    if (!opened.ok) throw new Error(opened.reason);
    expect(opened.setAside).toEqual([]);
    const { score: carried, ledger } = opened.song;
    for (const { origin } of Object.values(ledger.takes)) {
      expect(origin.attempts === null).toBe(origin.asking === null);
      if (origin.attempts) expect(new Set(Object.values(origin.attempts)).size).toBe(1);
    }
    expect(ledger.takes['intro-bass-40']!.origin.attempts).toEqual({ plan: 40, rhythm: 40, pitch: 40, dynamics: 40 });
    const sources = carried.sections.flatMap(({ chosen }) => Object.values(chosen));
    expect(sources.every((source) => source === null || ledger.takes[source.take]?.of === 'part')).toBe(true);
    expect(sources.some((source) => source?.of === 'take')).toBe(true);
    expect(openSong({ ...(JSON.parse(JSON.stringify(opened.song)) as object), version: 4 })).toEqual(opened);
  });

  it('are refused in words when they are newer, damaged or something else, and at once', () => {
    expect(openSong({ ...song, version: 99 })).toMatchObject({
      ok: false,
      reason: expect.stringContaining('newer Fendro') as string,
    });
    expect(
      openSong({ ...song, score: { ...song.score, ground: { ...song.score.ground, tempo: 9999 } } }),
    ).toMatchObject({ ok: false, reason: expect.stringContaining('tempo') as string });
    expect(openSong('weather')).toMatchObject({ ok: false });
    // A number of no version must not be counted up to: that would never end.
    for (const version of [0, -1, Number.MIN_SAFE_INTEGER])
      expect(openSong({ ...song, version })).toMatchObject({
        ok: false,
        reason: expect.stringContaining('not a Fendro song') as string,
      });
  });

  it.each(['hasOwnProperty', '__proto__', 'constructor', 'toString'])('never take “%s” for a take', (name) => {
    const source = { of: 'take' as const, take: name };
    const chosen = JSON.parse(`{"${name}":${JSON.stringify(source)}}`) as Record<string, typeof source>;
    const odd = {
      ...song,
      score: {
        ...song.score,
        sections: song.score.sections.map((section) => ({ ...section, chosen: { ...chosen, 'part-1': source } })),
      },
    };
    expect(openSong(odd)).toMatchObject({ ok: false, reason: expect.stringContaining('damaged') as string });
    expect(partTake(song.ledger.takes, name)).toBeNull();
    expect(soundingId({ ...score.sections[0]!, chosen: {} }, name, {})).toBeNull();
    expect(verdictOf(score, name)).toBeNull();
  });

  it('remember what was heard, as far as it is there', () => {
    const [section] = song.score.sections;
    const heard = `${section!.id}-part-1-1`;
    const opened = openSong(
      JSON.parse(
        JSON.stringify({
          ...song,
          hearing: { [section!.id]: { 'part-1': heard, 'part-2': 'gone' }, nowhere: { 'part-1': heard } },
        }),
      ),
    );
    expect(opened.ok && opened.song.hearing).toEqual({ [section!.id]: { 'part-1': heard } });
  });

  it('under fresh section ids are the same song', () => {
    const fresh = withFreshSections(
      {
        ...song,
        hearing: { 'section-1': { 'part-1': 'section-1-part-1-1' } },
        ledger: { ...song.ledger, heard: [{ take: 'section-1-part-1-1', section: 'section-1', at: 1 }] },
      },
      (kind) => `${kind}-fresh-${serial++}`,
    );
    expect(fresh.score.sections.map(({ id }) => id)).not.toContain('section-1');
    expect(fresh.ledger.heard[0]!.section).toBe(fresh.score.sections[0]!.id);
    expect(layOut(fresh.score).map(({ length, section: { name } }) => [length, name])).toEqual(
      layOut(song.score).map(({ length, section: { name } }) => [length, name]),
    );
    const opened = openSong(JSON.parse(JSON.stringify(fresh)));
    expect(opened).toEqual({ ok: true, song: fresh, setAside: [] });
  });
});

describe('takes that nobody heard', () => {
  it('are those neither heard, chosen nor judged, and nothing was made from', () => {
    const unheard = unheardTakes(
      score,
      { takes, heard: [{ take: 'section-1-part-2-1', section: 'section-1', at: 0 }] },
      { 'section-1': { 'part-4': 'section-1-part-4-1' } },
    );
    const holds = { 'part-3': [{ take: 'section-1-part-3-1', aspects: ASPECTS, bars: [0], notes: [] }] };
    const holding = { ...score, sections: score.sections.map((section) => ({ ...section, holds })) };
    expect(unheardTakes(holding, { takes, heard: [] }, {})).not.toContain('section-1-part-3-1');
    expect(unheard).toContain('section-1-part-3-1');
    for (const id of ['section-1-part-2-1', 'section-1-part-4-1', score.sections[0]!.harmony!])
      expect(unheard).not.toContain(id);
  });

  it('beyond a number of them are surplus, the oldest first', () => {
    const unheard = unheardTakes(score, song.ledger, {});
    expect(unheard.length).toBeGreaterThan(3);
    expect(surplusTakes(score, song.ledger, {}, unheard.length)).toEqual([]);
    expect(surplusTakes(score, song.ledger, {}, unheard.length - 2)).toEqual(unheard.slice(0, 2));
  });
});

describe('the words of a brief', () => {
  const limits = { low: 20, high: 110 };
  it('step up and down and back to their usual', () => {
    for (const role of ROLES) {
      for (const word of roleOf(role).words) {
        const usual = roleOf(role).brief;
        const up = { ...usual, ...stepWord(usual, word, 1, limits) };
        expect(wordFor(usual, word)).not.toBe('');
        expect(isUsual(up, word, usual)).toBe(role === 'drums' && word === 'register');
        expect(isUsual({ ...up, ...resetWord(word, usual) }, word, usual)).toBe(true);
      }
    }
  });

  it('stay inside what the instrument plays', () => {
    const brief = { ...roleOf('melody').brief, low: 60, high: 79 };
    expect(stepWord(brief, 'register', 1, { low: 60, high: 80 })).toEqual({ low: 61, high: 80 });
    expect(stepWord(brief, 'register', -1, { low: 60, high: 80 })).toEqual({ low: 60, high: 79 });
    expect(stepWord({ ...brief, adventure: 90 }, 'adventure', 1, limits)).toEqual({});
  });
});

import * as fc from 'fast-check';
import { draft } from '../compose/draft';
import { ENGINE } from '../compose/engine';
import { typeChords } from '../song/chord-typing';
import { followGround, refitChord } from '../song/follow-ground';
import { NOTHING_HEARD } from '../song/resolve';
import { ROLES, type ChordSpan, type Note, type PartTake, type Role } from '../song/schema';
import { isDrumRole, roleOf } from '../song/roles';
import { scoreWith } from '../testing/scores';
import { chordMask, chordSymbol, sameChord, type Chord } from '../theory/chord';
import { keyMask, tonicsFor } from '../theory/key';
import { METRES } from '../theory/metre';
import { inMask } from '../theory/pitch';
import { readChord } from '../theory/read-chord';
import { clashes, fitNotes, type FitLimits } from '../song/fit';
import { musicOf } from '../testing/sounding';
import { fittedTakes } from '../song/follow-chords';
import { writtenNotes } from './written';
import { chosenId } from '../song/section';

const key = { tonic: 0, scale: 'major' };
const typed = (text: string): ChordSpan[] => typeChords([], 0, text, { key, metre: METRES[2]!, length: 7680 });
const limits = (role: Role): FitLimits => ({ role, low: roleOf(role).brief.low, high: roleOf(role).brief.high });
const LINES = [
  'C | Am | F | G',
  'C Am | F G7 | Em | C',
  'Cm | Ab | Fm | Bb7',
  'Dm7 G7 | Cmaj7 | F#m7b5 | B7',
  'Db | Gb | Ab7 | Db',
];
const ground = { ...scoreWith(1, 0).score.ground };

/** A part drafted to one progression. */
function drafted(role: Role, chords: readonly ChordSpan[], seed: number): readonly Note[] {
  const result = draft(
    {
      asking: {
        engine: ENGINE,
        ground,
        bars: 4,
        kind: 'verse',
        role,
        brief: { ...roleOf(role).brief, adventure: 0 },
        beside: [],
      },
      seed,
      chords,
      beside: [],
    },
    0,
  );
  if (!result.ok || result.content.of !== 'part') throw new Error('no draft');
  return result.content.notes;
}

describe('fitting notes to other chords', () => {
  const cases = () =>
    fc.tuple(fc.constantFrom(...ROLES), fc.constantFrom(...LINES), fc.constantFrom(...LINES), fc.integer());

  it('keeps every onset, every drum and every note under a chord that stays', () => {
    fc.assert(
      fc.property(cases(), ([role, from, to, seed]) => {
        const [old, next] = [typed(from), typed(to)];
        const notes = drafted(role, old, seed);
        const fitted = fitNotes(notes, { chords: old, key }, { chords: next, key }, limits(role));
        const starts = (list: readonly Note[]) => new Set(list.map(({ start }) => start));
        for (const start of starts(notes)) expect(starts(fitted)).toContain(start);
        if (isDrumRole(role) || from === to) expect(fitted).toBe(notes);
        for (const note of fitted) expect(note.duration).toBeGreaterThan(0);
      }),
      { numRuns: 60 },
    );
  });

  it('puts chord notes on chord notes and keeps all others in the chord or the scale', () => {
    fc.assert(
      fc.property(cases(), ([role, from, to, seed]) => {
        if (isDrumRole(role)) return;
        const [old, next] = [typed(from), typed(to)];
        for (const { start, pitch } of fitNotes(
          drafted(role, old, seed),
          { chords: old, key },
          { chords: next, key },
          limits(role),
        )) {
          const [before, chord] = [old, next].map(
            (list) => (list.findLast((span) => span.start <= start) ?? list[0]!).chord!,
          ) as [Chord, Chord];
          if (sameChord(before, chord)) continue;
          expect(inMask(chordMask(chord) | keyMask(key), pitch)).toBe(true);
        }
      }),
      { numRuns: 60 },
    );
  });

  it('moves by least motion: never further than to the nearest octave of the same function', () => {
    const [old, next] = [typed('C | C | C | C'), typed('Am | F | G | Em')];
    const notes = drafted('comping', old, 3);
    const fitted = fitNotes(notes, { chords: old, key }, { chords: next, key }, limits('comping'));
    fitted.forEach((note, index) => {
      if (fitted.length === notes.length) expect(Math.abs(note.pitch - notes[index]!.pitch)).toBeLessThanOrEqual(12);
    });
  });

  it('gives a held bass the root of a chord that comes in mid-bar', () => {
    const notes = [{ start: 0, duration: 1920, pitch: 36, velocity: 80 }];
    expect(
      fitNotes(notes, { chords: typed('C'), key }, { chords: typed('C F'), key }, limits('bass')).map(
        ({ start, duration, pitch }) => [start, duration, pitch % 12],
      ),
    ).toEqual([
      [0, 960, 0],
      [960, 960, 5],
    ]);
  });

  it('leaves a melody note that belongs to the new chord too', () => {
    const notes = [{ start: 0, duration: 480, pitch: 64, velocity: 80 }];
    expect(fitNotes(notes, { chords: typed('C'), key }, { chords: typed('Am'), key }, limits('melody'))).toBe(notes);
  });

  it('marks what rubs', () => {
    const rubs = [
      { start: 0, duration: 480, pitch: 65, velocity: 80 },
      { start: 480, duration: 480, pitch: 64, velocity: 80 },
      { start: 960, duration: 480, pitch: 69, velocity: 80 },
    ];
    expect(clashes(rubs, typed('C'), () => true)).toEqual([0]);
  });
});

describe('parts over other chords', () => {
  const { score, takes } = scoreWith(4, 0);
  const section = score.sections[0]!;
  const other = {
    ...takes[section.harmony!]!,
    id: 'other',
    chords: typeChords([], 0, 'Fm | Bb7', { key, metre: METRES[2]!, length: 3840 }),
  };
  const all = { ...takes, other } as typeof takes;
  const heard = { [section.id]: { harmony: 'other' } };

  it('follow while other chords are heard, without a new take', () => {
    for (const part of score.parts) {
      const notes = writtenNotes(musicOf(score, all, heard), section, part.id);
      expect(writtenNotes(musicOf(score, all, heard), section, part.id)).toBe(notes);
      if (part.role === 'drums') expect(notes).toBe(writtenNotes(musicOf(score, all, NOTHING_HEARD), section, part.id));
    }
  });

  it('become takes when the change is chosen, which then sound as they are', () => {
    let serial = 0;
    const made = fittedTakes(musicOf(score, all, heard), section, () => `fit-${serial++}`);
    expect(made.length).toBeGreaterThan(2);
    for (const take of made) {
      expect(take.origin).toMatchObject({ how: 'fitted', parents: [chosenId(section, take.part)] });
      expect(take.notes).toBe(writtenNotes(musicOf(score, all, heard), section, take.part));
      expect(
        writtenNotes(
          musicOf(score, { ...all, [take.id]: take }, { [section.id]: { harmony: 'other', [take.part]: take.id } }),
          section,
          take.part,
        ),
      ).toBe(take.notes);
    }
  });

  it('never moves what lies over no chords, such as what was brought in', () => {
    const id = chosenId(section, 'part-1')!;
    const imported = { ...all, [id]: { ...(all[id] as PartTake), over: null } };
    expect(writtenNotes(musicOf(score, imported, heard), section, 'part-1')).toBe(
      (imported[id] as { notes: readonly Note[] }).notes,
    );
  });
});

describe('a change of key or scale', () => {
  const { score, takes } = scoreWith(4, 0);
  let serial = 0;
  const follow = (change: object, how: 'move' | 'refit' | 'stay') =>
    followGround(score, takes, NOTHING_HEARD, { section: null, change }, how, () => `followed-${serial++}`);

  it('moves all by one interval and never drums', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 11 }), (pitchClass) => {
        const tonic = tonicsFor('major')[pitchClass]!;
        const moved = follow({ tonic }, 'move');
        if (tonic === 0) {
          expect(moved.takes).toEqual([]);
          return;
        }
        const made = Object.fromEntries(moved.takes.map((take) => [take.id, take]));
        for (const section of moved.score.sections) {
          const before = score.sections.find(({ id }) => id === section.id)!;
          for (const part of score.parts) {
            const [old, next] = [takes[chosenId(before, part.id)!]!, made[chosenId(section, part.id)!]];
            if (part.role === 'drums') expect(chosenId(section, part.id)).toBe(chosenId(before, part.id));
            else if (old.of === 'part' && next?.of === 'part')
              for (const [index, note] of next.notes.entries())
                expect((note.pitch - old.notes[index]!.pitch - pitchClass + 24) % 12).toBe(0);
          }
        }
      }),
    );
  });

  it('re-fits notes and chords of the key to the other scale', () => {
    const refit = follow({ scale: 'minor' }, 'refit');
    const mask = keyMask({ tonic: 0, scale: 'minor' });
    for (const take of refit.takes) {
      if (take.of !== 'part') continue;
      const old = takes[take.origin.parents[0]!]!;
      take.notes.forEach((note, index) => {
        if (old.of === 'part' && inMask(keyMask(key), old.notes[index]!.pitch))
          expect(inMask(mask, note.pitch)).toBe(true);
      });
    }
    const read = (text: string) => {
      const reading = readChord(text);
      if (!reading.ok || !reading.chord) throw new Error(text);
      return reading.chord;
    };
    const toMinor = (text: string) => chordSymbol(refitChord(read(text), key, { tonic: 0, scale: 'minor' }));
    expect(['C', 'Am7', 'Em', 'G/B'].map(toMinor)).toEqual(['Cm', 'A♭maj7', 'E♭', 'Gm/B♭']);
  });

  it('leaves all as it is, and can concern one section only', () => {
    expect(follow({ tonic: 2 }, 'stay').takes).toEqual([]);
    const one = followGround(
      score,
      takes,
      NOTHING_HEARD,
      { section: 'section-2', change: { tonic: 2 } },
      'move',
      () => `one-${serial++}`,
    );
    expect(one.score.sections[0]).toBe(score.sections[0]);
    expect(one.score.sections[1]!.ground).toEqual({ tonic: 2 });
    expect(one.takes.every(({ section }) => section === 'section-2')).toBe(true);
  });
});

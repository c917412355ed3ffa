import * as fc from 'fast-check';
import { draft } from './draft';
import { ENGINE } from './engine';
import { isPlayable } from '../voicing/guitar';
import { typeChords } from '../song/chord-typing';
import type { Brief, ChordSpan, Note, PartTake, Role } from '../song/schema';
import { groundFor } from '../styles/band';
import { STYLES } from '../styles/styles';
import { chordMask } from '../theory/chord';
import { METRES, metricalWeight, WEIGHT } from '../theory/metre';
import { inMask, pitchClassOf } from '../theory/pitch';
import { rounds } from '../testing/rounds';
import { roleOf } from '../song/roles';
import { looseTake } from '../song/take';

const style = STYLES[0]!;
const ground = { ...groundFor(style, { tonic: 0, scale: 'major' }), metre: METRES[2]! };
const CHORDS = typeChords([], 0, 'C | Am7 | F | G7 | C/E | Dm7 | Gsus4 G | C', {
  key: { tonic: 0, scale: 'major' },
  metre: METRES[2]!,
  length: 8 * 1920,
});
const take = (part: string, notes: readonly Note[]): PartTake =>
  looseTake({ id: part, section: 's', length: 15_360 }, part, notes, { how: 'imported' });

function notesOf(
  role: Role,
  seed: number,
  change: Partial<Brief> = {},
  beside: readonly PartTake[] = [],
  chords: readonly ChordSpan[] = CHORDS,
): readonly Note[] {
  const result = draft(
    {
      asking: {
        engine: ENGINE,
        ground,
        bars: 8,
        kind: 'verse',
        role,
        brief: { ...roleOf(role).brief, adventure: 0, ...change },
        beside: [],
      },
      seed,
      chords,
      beside,
    },
    0,
  );
  if (!result.ok || result.content.of !== 'part') throw new Error(result.ok ? 'not a part' : result.reason);
  return result.content.notes;
}
const at = (notes: readonly Note[], start: number): number[] =>
  notes.filter((note) => note.start === start).map(({ pitch }) => pitch);
const starts = (notes: readonly Note[]): number[] => [...new Set(notes.map(({ start }) => start))];
const chordOf = (start: number) => CHORDS.findLast((span) => span.start <= start)!.chord!;
const seeds = () => fc.integer({ min: 1, max: 100_000 });

describe('counter-melodies', () => {
  it('never run in parallel fifths or octaves with the line they answer, and are consonant with it on the beats', () => {
    let consonant = 0;
    let beats = 0;
    fc.assert(
      fc.property(seeds(), (seed) => {
        const lead = notesOf('melody', seed);
        const answer = notesOf('counter', seed, {}, [take('lead', lead)]);
        const leadAt = (moment: number) =>
          lead.findLast(({ start, duration }) => start <= moment && moment < start + duration)?.pitch;
        answer.slice(1).forEach((note, index) => {
          const [a, b, before, after] = [
            answer[index]!.pitch,
            note.pitch,
            leadAt(answer[index]!.start),
            leadAt(note.start),
          ];
          if (before === undefined || after === undefined) return;
          const interval = (x: number, y: number): number => {
            const size = Math.abs(x - y) % 12;
            return Math.min(size, 12 - size);
          };
          const parallel =
            interval(a, before) === interval(b, after) &&
            [0, 5].includes(interval(b, after)) &&
            Math.sign(b - a) === Math.sign(after - before) &&
            b !== a;
          expect(parallel).toBe(false);
        });
        for (const { start, pitch } of answer) {
          const above = leadAt(start);
          if (above === undefined || metricalWeight(METRES[2]!, start) < WEIGHT.beat) continue;
          beats++;
          if ([0, 3, 4, 5, 7, 8, 9].includes(Math.abs(pitch - above) % 12)) consonant++;
        }
      }),
      { numRuns: rounds(60) },
    );
    expect(consonant / beats).toBeGreaterThan(0.85);
  });

  it('move where the line rests: more of their onsets fall between its own', () => {
    let own = 0;
    let shared = 0;
    for (let seed = 1; seed <= 40; seed++) {
      const lead = notesOf('melody', seed);
      const taken = new Set(starts(lead));
      for (const start of starts(notesOf('counter', seed, {}, [take('lead', lead)])))
        if (taken.has(start)) shared++;
        else own++;
    }
    expect(own).toBeGreaterThan(shared);
  });
});

describe('riffs', () => {
  it('say one rhythm again in every bar or two, on notes of each chord or of the scale', () => {
    fc.assert(
      fc.property(seeds(), (seed) => {
        const notes = notesOf('ostinato', seed);
        const rhythm = (bar: number): string =>
          starts(notes)
            .filter((start) => Math.floor(start / 1920) === bar)
            .map((start) => start % 1920)
            .join();
        expect(rhythm(2)).toBe(rhythm(0));
        expect(rhythm(3)).toBe(rhythm(1));
      }),
      { numRuns: rounds(40) },
    );
  });
});

describe('guitars', () => {
  /** The frets of a stroke, guessed from its pitches on neighbouring strings. */
  const held = (pitches: readonly number[]): boolean => {
    const open = [40, 45, 50, 55, 59, 64];
    for (let first = 0; first + pitches.length <= 6; first++) {
      const frets: (number | null)[] = [null, null, null, null, null, null];
      [...pitches]
        .sort((a, b) => a - b)
        .forEach((pitch, string) => {
          frets[first + string] = pitch - open[first + string]!;
        });
      if (frets.every((fret) => fret === null || fret >= 0) && isPlayable(frets)) return true;
    }
    return false;
  };

  it('strum shapes that a hand can hold, down from the low strings and up from the high ones', () => {
    fc.assert(
      fc.property(seeds(), (seed) => {
        const notes = notesOf('strum', seed);
        for (const start of starts(notes)) {
          const stroke = notes.filter((note) => note.start === start);
          expect(held(stroke.map(({ pitch }) => pitch))).toBe(true);
          for (const { pitch } of stroke) expect(inMask(chordMask(chordOf(start)), pitch)).toBe(true);
          const nudges = stroke.map(({ nudge }) => nudge ?? 0);
          expect([nudges.toSorted((a, b) => a - b), nudges.toSorted((a, b) => b - a)]).toContainEqual(nudges);
        }
        // The bass of a slash chord lies lowest when it arrives.
        expect(Math.min(...at(notes, 4 * 1920)) % 12).toBe(4);
      }),
      { numRuns: rounds(40) },
    );
  });

  it('pick strings of one shape, the thumb on its bass', () => {
    fc.assert(
      fc.property(seeds(), (seed) => {
        const notes = notesOf('picking', seed);
        for (const { start } of CHORDS) expect(at(notes, start).length).toBeGreaterThan(0);
        for (const { start, pitch } of notes) expect(inMask(chordMask(chordOf(start)), pitch)).toBe(true);
      }),
      { numRuns: rounds(40) },
    );
  });
});

describe('ensembles', () => {
  it('move together, each voice under the one above, none too close', () => {
    fc.assert(
      fc.property(seeds(), fc.integer({ min: 2, max: 4 }), (seed, voices) => {
        const notes = notesOf('ensemble', seed, { voices });
        for (const start of starts(notes)) {
          const stack = at(notes, start).sort((a, b) => a - b);
          expect(stack.length).toBeLessThanOrEqual(voices);
          stack.slice(1).forEach((pitch, index) => expect(pitch - stack[index]!).toBeGreaterThanOrEqual(3));
        }
      }),
      { numRuns: rounds(40) },
    );
  });
});

describe('the ways of a bass', () => {
  const bass = (way: Brief['way'], seed: number) => notesOf('bass', seed, { way, syncopation: 0 });
  const rootAt = (start: number): number => {
    const chord = chordOf(start);
    return pitchClassOf(chord.bass ?? chord.root);
  };

  it('roots and octaves strike nothing but roots, octaves both low and high', () => {
    fc.assert(
      fc.property(seeds(), (seed) => {
        for (const way of ['roots', 'octaves'] as const)
          for (const { start, pitch } of bass(way, seed)) expect(pitch % 12).toBe(rootAt(start));
        const octaves = bass('octaves', seed).map(({ pitch }) => pitch);
        expect(octaves.slice(1).some((pitch, index) => Math.abs(pitch - octaves[index]!) === 12)).toBe(true);
      }),
      { numRuns: rounds(20) },
    );
  });

  it('walking goes in quarters, a root on every arrival', () => {
    fc.assert(
      fc.property(seeds(), (seed) => {
        const notes = bass('walking', seed);
        expect(starts(notes).every((start) => start % 480 === 0)).toBe(true);
        expect(notes.length).toBeGreaterThanOrEqual(8 * 4 - 1);
        for (const { start } of CHORDS) expect(at(notes, start).map((pitch) => pitch % 12)).toEqual([rootAt(start)]);
      }),
      { numRuns: rounds(20) },
    );
  });

  it('arpeggiated stays in the chord, a pedal on the key’s root, whatever the chords do', () => {
    fc.assert(
      fc.property(seeds(), (seed) => {
        for (const { start, pitch } of bass('arpeggiated', seed))
          expect(inMask(chordMask(chordOf(start)), pitch)).toBe(true);
        for (const { pitch } of bass('pedal', seed)) expect(pitch % 12).toBe(0);
      }),
      { numRuns: rounds(20) },
    );
  });

  it('differ from one another, and from what the style has', () => {
    const said = [null, 'roots', 'octaves', 'walking', 'arpeggiated', 'syncopated', 'latin', 'pedal'] as const;
    expect(
      new Set(said.map((way) => JSON.stringify(bass(way, 5).map(({ start, pitch }) => [start, pitch])))).size,
    ).toBe(said.length);
  });
});

describe('settings of a brief', () => {
  const mean = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0) / values.length;

  it('length: clipped, as it comes, tied over', () => {
    const lengths = [0, 60, 100].map((length) =>
      mean(notesOf('melody', 9, { length }).map(({ duration }) => duration)),
    );
    expect(lengths[0]).toBeLessThan(lengths[1]!);
    expect(lengths[1]).toBeLessThan(lengths[2]!);
  });

  it('voices: never more together than asked', () => {
    for (const role of ['comping', 'pad'] as const)
      for (const voices of [1, 2, 3, 5]) {
        const notes = notesOf(role, 4, { voices });
        for (const start of starts(notes)) expect(at(notes, start).length).toBeLessThanOrEqual(voices);
      }
  });

  it('grid: onsets stand on eighths, sixteenths or triplets as asked', () => {
    const off = (grid: Brief['grid'], step: number) =>
      notesOf('melody', 5, { grid, busyness: 7 }).filter(({ start }) => start % step !== 0).length;
    expect(off('eighths', 240)).toBe(0);
    expect(off('sixteenths', 120)).toBe(0);
    expect(off('triplets', 160)).toBe(0);
    expect(notesOf('melody', 5, { grid: 'triplets', busyness: 8 }).some(({ start }) => start % 240 !== 0)).toBe(true);
  });

  it('dynamics: all alike at 0 %, wider the more', () => {
    const spread = (dynamics: number): number => {
      const velocities = notesOf('bass', 3, { dynamics }).map(({ velocity }) => velocity);
      return Math.max(...velocities) - Math.min(...velocities);
    };
    expect(spread(0)).toBe(0);
    expect(spread(100)).toBeGreaterThan(spread(40));
  });

  it('rolls: none at 0 %, some when asked', () => {
    const rolls = (amount: number) =>
      notesOf('drums', 3, { rolls: amount }).filter(({ start }) => start % 120 !== 0).length;
    expect(rolls(0)).toBe(0);
    expect(rolls(100)).toBeGreaterThan(2);
  });
});

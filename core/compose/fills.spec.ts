import * as fc from 'fast-check';
import type { Note } from '../song/schema';
import { DRUM_KEYS, type DrumVoice } from '../song/style';
import { styleOf, STYLES } from '../styles/styles';
import { barTicks, METRES, type Metre } from '../theory/metre';
import { partRequests } from '../testing/arbitrary';
import { draft } from './draft';
import { inTime } from './drum-time';
import { allFills, FILL_LENGTHS, placeFill, type FillLength } from './fills';
import { rounds } from '../testing/rounds';

const COMMON = METRES.find(({ beats, unit }) => beats === 4 && unit === 4)!;
const hats = (metre: Metre, bars: number): Note[] =>
  Array.from({ length: (bars * barTicks(metre)) / 240 }, (_, index) => ({
    start: index * 240,
    duration: 120,
    pitch: DRUM_KEYS['closed hat'],
    velocity: 70,
  }));

describe('fills', () => {
  const fills = allFills(styleOf('soul'));

  it('begin with those of the style, and every style brings several', () => {
    expect(fills.slice(0, 3).every(({ style }) => style === 'Soul')).toBe(true);
    expect(new Set(fills.map(({ id }) => id)).size).toBe(fills.length);
    expect(fills.length).toBeGreaterThanOrEqual(2 * STYLES.length);
  });

  it('lead up to the bar line and leave everything before and after as it was', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...fills),
        fc.constantFrom(...FILL_LENGTHS),
        fc.constantFrom(...METRES),
        fc.integer({ min: 2, max: 4 }),
        (fill, bars, metre, at) => {
          const bar = barTicks(metre);
          const [notes, end, length] = [hats(metre, 4), at * bar, 4 * bar];
          const placed = placeFill(notes, fill, bars, end, { metre, loudness: 88, length });
          const from = end - bars * bar;
          const outside = (list: readonly Note[]): Note[] =>
            list.filter(({ start, pitch }) => (start < from || start >= end) && pitch !== DRUM_KEYS.crash);
          expect(outside(placed)).toEqual(outside(notes));
          expect(placed.every(({ start, duration }) => start >= 0 && start + duration <= length)).toBe(true);
          expect(placed.map(({ start }) => start)).toEqual(placed.map(({ start }) => start).sort((a, b) => a - b));
          if (end < length && placed.length !== notes.length)
            expect(placed.some(({ start, pitch }) => start === end && pitch === DRUM_KEYS.crash)).toBe(true);
        },
      ),
      { numRuns: rounds(400) },
    );
  });

  it('sound in every metre and length, and grow', () => {
    for (const fill of fills)
      for (const bars of FILL_LENGTHS) {
        const struck = placeFill([], fill, bars, 4 * 1920, { metre: COMMON, loudness: 88, length: 4 * 1920 });
        expect(`${fill.id} ${bars}: ${struck.length > 0}`).toBe(`${fill.id} ${bars}: true`);
      }
    const counts = (bars: FillLength): number =>
      placeFill([], fills[0]!, bars, 7680, { metre: COMMON, loudness: 88, length: 7680 }).length;
    expect(counts(2)).toBeGreaterThan(counts(1));
  });
});

describe('half and double time', () => {
  const groove = {
    name: 'plain',
    voices: { kick: 'x.......x.......', snare: '....X.......X...', 'closed hat': 'x.x.x.x.x.x.x.x.' },
  };

  it('put the back beat on the third beat, or on every off-beat eighth, and leave the hats alone', () => {
    expect(inTime(groove, 'half').voices).toEqual({
      kick: 'x...............|x...............',
      snare: '........X.......|........X.......',
      'closed hat': groove.voices['closed hat'],
    });
    expect(inTime(groove, 'double').voices).toEqual({
      kick: 'x...x...x...x...',
      snare: '..X...X...X...X.',
      'closed hat': groove.voices['closed hat'],
    });
    expect(inTime(groove, null)).toBe(groove);
  });

  it('keep the stronger of two strokes that fall together, and any length of bar', () => {
    expect(inTime({ name: 'x', voices: { snare: '3X..' } }, 'double').voices.snare).toBe('X.X.');
    expect(inTime({ name: 'x', voices: { kick: 'x.....|..x...' } }, 'half').voices.kick).toBe(
      'x.....|......|....x.|......',
    );
    expect(inTime({ name: 'x', voices: { kick: 'x.....|..x...' } }, 'double').voices.kick).toBe(
      'x...x.'.slice(0, 3) + '.x.',
    );
  });

  it('keep every law in any metre, with fewer or more back beats a bar', () => {
    const snares = (time: 'half' | 'double' | null): number => {
      const requests = fc.sample(
        partRequests().filter(({ asking }) => asking.role === 'drums'),
        { numRuns: rounds(24), seed: 3 },
      );
      return requests.reduce((total, request) => {
        const result = draft(
          { ...request, asking: { ...request.asking, brief: { ...request.asking.brief!, rolls: 0, time } } },
          0,
        );
        if (!result.ok || result.content.of !== 'part') throw new Error('drums can always be drafted');
        const keys: readonly number[] = (['snare', 'stick', 'clap', 'kick'] as DrumVoice[]).map(
          (voice) => DRUM_KEYS[voice],
        );
        return total + result.content.notes.filter(({ pitch }) => keys.includes(pitch)).length;
      }, 0);
    };
    const [half, plain, double] = [snares('half'), snares(null), snares('double')];
    expect(half).toBeLessThan(plain);
    expect(double).toBeGreaterThan(plain);
  });
});

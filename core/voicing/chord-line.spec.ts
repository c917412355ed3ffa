import * as fc from 'fast-check';
import { PLAIN_CHORDS } from '../song/briefs';
import { typeChords } from '../song/chord-typing';
import type { ChordSetting, ChordSpan } from '../song/schema';
import { CHORD_RHYTHMS, chordRhythmOf, fullnessOf, ownRhythmId } from '../styles/chord-rhythms';
import { STYLES } from '../styles/styles';
import { chordMask } from '../theory/chord';
import { barTicks, METRES, metreName } from '../theory/metre';
import { inMask } from '../theory/pitch';
import { performChords, voicedChords } from './chord-line';
import { draftRhythm } from '../compose/chord-rhythm';

const FOUR = METRES[2]!;
const typed = (text: string, metre = FOUR, bars = 4): ChordSpan[] =>
  typeChords([], 0, text, { key: { tonic: 0, scale: 'major' }, metre, length: bars * barTicks(metre) });
const LINE = typed('C Am | F | G7/B | C');

describe('chord rhythms', () => {
  it('are at least sixty, in families and of three kinds, and fill their bars', () => {
    expect(CHORD_RHYTHMS.length).toBeGreaterThanOrEqual(60);
    expect(new Set(CHORD_RHYTHMS.map(({ id }) => id)).size).toBe(CHORD_RHYTHMS.length);
    expect(new Set(CHORD_RHYTHMS.map(({ fullness }) => fullness))).toEqual(new Set(['sparse', 'steady', 'busy']));
    for (const { metre, steps } of CHORD_RHYTHMS) {
      const home = METRES.find((candidate) => metreName(candidate) === metre)!;
      for (const bar of steps.split('|')) expect(bar).toHaveLength(barTicks(home) / 120);
    }
  });

  it('sound in every metre, inside the section, with notes of the chord that is on or coming', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...CHORD_RHYTHMS),
        fc.constantFrom(...METRES),
        fc.integer(),
        (rhythm, metre, seed) => {
          const chords = typed('C Am | F | G7 | C', metre);
          const notes = performChords(chords, { ...PLAIN_CHORDS, rhythm: rhythm.id }, metre, 4, seed);
          expect(notes.length).toBeGreaterThan(0);
          for (const note of notes) {
            expect(note.start).toBeGreaterThanOrEqual(0);
            expect(note.start + note.duration).toBeLessThanOrEqual(4 * barTicks(metre));
            const near = chords.filter(
              ({ start, duration }) => note.start >= start - 480 && note.start < start + duration,
            );
            expect(near.some(({ chord }) => chord && inMask(chordMask(chord), note.pitch))).toBe(true);
          }
        },
      ),
    );
  });

  it('of one’s own carry themselves in their id', () => {
    const id = ownRhythmId('Rain: soft', '4/4', 80, 'X...x...3...<...');
    expect(chordRhythmOf(id)).toMatchObject({
      name: 'Rain  soft',
      steps: 'X...x...3...<...',
      length: 80,
      family: 'Own',
    });
    expect(chordRhythmOf('own:broken')).toBeNull();
    expect(fullnessOf('X...............')).toBe('sparse');
  });

  it('can be drawn within a style, alike for the same seed and as full as asked', () => {
    for (const style of STYLES) {
      for (const fullness of ['sparse', 'steady', 'busy'] as const) {
        const id = draftRhythm(style, FOUR, fullness, 7, 0);
        expect(draftRhythm(style, FOUR, fullness, 7, 0)).toBe(id);
        expect(chordRhythmOf(id)?.fullness).toBe(fullness);
      }
    }
    expect(
      new Set(Array.from({ length: 12 }, (_, attempt) => draftRhythm(STYLES[0]!, FOUR, 'busy', 7, attempt))).size,
    ).toBeGreaterThan(8);
  });
});

describe('the chord line', () => {
  const play = (setting: Partial<ChordSetting>, chords = LINE) =>
    performChords(chords, { ...PLAIN_CHORDS, ...setting }, FOUR, 4, 1);
  const starts = (notes: readonly { start: number }[]): number[] => [...new Set(notes.map(({ start }) => start))];

  it('holds its chords when no rhythm is set', () => {
    expect(starts(play({}))).toEqual([0, 960, 1920, 3840, 5760]);
  });

  it('lets a chord have a rhythm of its own', () => {
    const own = LINE.map((span, index) => (index === 2 ? { ...span, rhythm: 'ballad-heartbeats' } : span));
    expect(starts(play({}, own))).toEqual([0, 960, 1920, 2400, 2880, 3360, 3840, 5760]);
  });

  it('anticipates: the coming chord is struck early and not again', () => {
    const notes = play({ rhythm: ownRhythmId('push', '4/4', 90, 'X.............<.') });
    const early = notes.filter(({ start }) => start === 1920 + 1680);
    expect(early.some(({ pitch }) => pitch % 12 === 11)).toBe(true);
    expect(starts(notes)).toContain(1680);
  });

  it('rolls up or down by the ticks asked for, from the beat on', () => {
    const up = play({ roll: 60 }).filter(({ start }) => start === 0);
    expect(up[0]!.nudge ?? 0).toBe(0);
    expect(up.at(-1)!.nudge).toBe(60);
    const down = play({ roll: -60 }).filter(({ start }) => start === 0);
    expect(down[0]!.nudge).toBe(60);
    expect(down.at(-1)!.nudge ?? 0).toBe(0);
  });

  it('is as loud as the section, the chord and the note ask', () => {
    const set = LINE.map((span, index) =>
      index === 1 ? { ...span, velocity: 40 } : index === 2 ? { ...span, velocities: [11, 22, 33, 44] } : span,
    );
    const notes = play({ loudness: 90 }, set);
    expect(notes.find(({ start }) => start === 0)!.velocity).toBe(90);
    expect(notes.find(({ start }) => start === 960)!.velocity).toBe(40);
    expect(notes.filter(({ start }) => start === 1920).map(({ velocity }) => velocity)).toEqual(
      [11, 22, 33, 44].slice(0, notes.filter(({ start }) => start === 1920).length),
    );
  });

  it('never and always: chances of 0 and 100 %', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const notes = performChords(
          typed('C'),
          { ...PLAIN_CHORDS, rhythm: ownRhythmId('x', '4/4', 50, 'x...5...x.......') },
          FOUR,
          4,
          seed,
        );
        for (const bar of [0, 1, 2, 3]) {
          expect(starts(notes)).toContain(bar * 1920);
          expect(starts(notes)).toContain(bar * 1920 + 960);
          expect(starts(notes)).not.toContain(bar * 1920 + 1440);
        }
      }),
    );
    const hits = Array.from(
      { length: 400 },
      (_, seed) =>
        performChords(
          typed('C'),
          { ...PLAIN_CHORDS, rhythm: ownRhythmId('x', '4/4', 50, 'x...3...........') },
          FOUR,
          4,
          seed,
        ).filter(({ start }) => start % 1920 === 480).length / 3,
    ).reduce((sum, value) => sum + value, 0);
    // 1600 draws at 30 %: three standard deviations are 55.
    expect(Math.abs(hits - 480)).toBeLessThan(60);
  });

  it('voices smoothly or in root position', () => {
    const lowest = (smooth: boolean) =>
      voicedChords(LINE, { ...PLAIN_CHORDS, smooth }).map(
        ({ pitches, chord }) => (pitches[0]! - (((chord.root * 7) % 12) + 12)) % 12,
      );
    expect(lowest(false).filter((distance) => distance === 0).length).toBeGreaterThanOrEqual(4);
    expect(voicedChords(LINE, PLAIN_CHORDS)).toBe(voicedChords(LINE, PLAIN_CHORDS));
  });
});

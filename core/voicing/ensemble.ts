import { chordMask, type Chord } from '../theory/chord';
import { inMask } from '../theory/pitch';
import { modulo, range, type MidiNote, type PitchClass } from '../theory/units';
import { neededPitchClasses } from './keyboard';
import type { Voicing } from './types';

/** The ranges of four voices, the lowest first; fewer voices leave out the lower inner ones. */
const RANGES: readonly (readonly [low: MidiNote, high: MidiNote])[] = [
  [40, 60],
  [48, 67],
  [55, 74],
  [60, 81],
];

export const rangesFor = (voices: number): typeof RANGES =>
  voices >= 4
    ? RANGES
    : voices === 3
      ? [
          [45, 62],
          [55, 74],
          [60, 81],
        ]
      : [
          [50, 67],
          [60, 81],
        ];

const HIGHEST_GAP = 12;
const BASS_GAP = 19;
/** Neighbouring inner voices prefer to stay together, so a chord keeps its best two hundred layouts. */
const KEPT = 200;

/**
 * Layouts of a chord for voices that each sing one note in their own range without crossing.
 *
 * @param bass    the pitch class that must lie lowest; null lets the root or any inversion lie there
 * @param spread  `close` keeps the upper voices within an octave, `open` and `wide` spread them further
 */
export function ensembleVoicings(chord: Chord, voices: number, bass: PitchClass | null, spread: string): Voicing[] {
  const mask = chordMask({ ...chord, bass: null });
  const needed = neededPitchClasses(chord, voices).filter((_, index, all) => index < Math.min(all.length, voices));
  const ranges = rangesFor(voices);
  let layouts: MidiNote[][] = [[]];
  ranges.forEach(([low, high], voice) => {
    const lowest = voice === 0;
    const options = range(high - low + 1)
      .map((step) => low + step)
      .filter((pitch) => (lowest && bass !== null ? modulo(pitch, 12) === bass : inMask(mask, pitch)));
    layouts = layouts.flatMap((left) => options.filter((pitch) => fits(left, pitch)).map((pitch) => [...left, pitch]));
  });
  const whole = layouts.filter((layout) => {
    const sounding = new Set(layout.map((pitch) => modulo(pitch, 12)));
    return needed.every((pitchClass) => sounding.has(pitchClass)) && spreads(layout, spread);
  });
  const found = whole.length > 0 ? whole : layouts.filter((layout) => spreads(layout, 'free'));
  return found.sort((a, b) => evenness(a) - evenness(b)).slice(0, KEPT);
}

function fits(below: Voicing, pitch: MidiNote): boolean {
  const last = below.at(-1);
  if (last === undefined) return true;
  return pitch > last && pitch - last <= (below.length === 1 ? BASS_GAP : HIGHEST_GAP);
}

function spreads(layout: Voicing, spread: string): boolean {
  const upper = (layout.at(-1) ?? 0) - (layout[1] ?? 0);
  if (spread === 'close') return upper < 12;
  return spread === 'open' || spread === 'wide' ? upper >= 12 : true;
}

/** How far a layout lies from the middles of its ranges. */
const evenness = (layout: Voicing): number => {
  const ranges = rangesFor(layout.length);
  return layout.reduce(
    (total, pitch, voice) => total + Math.abs(pitch - ((ranges[voice]?.[0] ?? 0) + (ranges[voice]?.[1] ?? 0)) / 2),
    0,
  );
};

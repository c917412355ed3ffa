import type { Spread } from '../song/schema';
import type { Chord } from '../theory/chord';
import { pitchClassOf, semitonesOf } from '../theory/pitch';
import { modulo, type MidiNote, type PitchClass } from '../theory/units';
import type { Voicing } from './types';

/** Below this pitch, narrow intervals turn to mud. */
const LOW_INTERVAL_LIMIT = 52;
const WIDEST: Readonly<Record<Spread, number>> = {
  free: 19,
  close: 11,
  open: 19,
  'drop 2': 22,
  'drop 3': 24,
  wide: 31,
};

/** How much a chord needs each of its tones; a bass part is assumed to have the root. */
function importance(tone: string): number {
  if (tone === '3' || tone === 'b3' || tone === '2' || tone === '4') return 0;
  if (tone.endsWith('7')) return 1;
  if (tone === '1') return 3;
  if (tone === '5') return 4;
  return 2;
}

/** The pitch classes that `voices` voices should sound, most needed first; triads double nothing. */
export function neededPitchClasses(chord: Chord, voices: number): PitchClass[] {
  const root = pitchClassOf(chord.root);
  const tones = [...chord.tones].sort((a, b) => importance(a) - importance(b)).slice(0, voices);
  return [...new Set(tones.map((tone) => modulo(root + semitonesOf(tone), 12)))];
}

/** Without its root, a chord of five and more notes leaves room for its colour; the bass has the root. */
function rootless(chord: Chord, voices: number): PitchClass[] | null {
  if (chord.tones.length < 5 || voices < 4) return null;
  const upper = { ...chord, tones: chord.tones.filter((tone) => tone !== '1') };
  return neededPitchClasses(upper, voices);
}

function pitchesOf(pitchClass: PitchClass, low: MidiNote, high: MidiNote): MidiNote[] {
  const pitches: MidiNote[] = [];
  for (let pitch = low + modulo(pitchClass - low, 12); pitch <= high; pitch += 12) pitches.push(pitch);
  return pitches;
}

const product = (places: readonly (readonly MidiNote[])[]): MidiNote[][] =>
  places.reduce<MidiNote[][]>(
    (all, options) => all.flatMap((left) => options.map((option) => [...left, option])),
    [[]],
  );

function playable(pitches: Voicing, widest: number): boolean {
  const low = pitches[0] ?? 0;
  const high = pitches.at(-1) ?? 0;
  if (pitches.length === 0 || high - low > widest) return false;
  return pitches.slice(1).every((pitch, index) => {
    const below = pitches[index] as number;
    const gap = pitch - below;
    return gap >= 1 && gap <= 12 && (below >= LOW_INTERVAL_LIMIT || gap >= 4);
  });
}

/** Lowers one voice of a close voicing, counted from the top, by an octave. */
function dropped(close: Voicing, fromTop: number): Voicing {
  const place = close.length - fromTop;
  if (place <= 0) return [];
  return close.map((pitch, index) => (index === place ? pitch - 12 : pitch)).sort((a, b) => a - b);
}

const hasWideGaps = (pitches: Voicing): boolean =>
  (pitches.at(-1) ?? 0) - (pitches[0] ?? 0) >= 15 &&
  pitches.slice(1).every((pitch, index) => pitch - (pitches[index] as number) >= 4);

/** Voicings of a set of notes for two hands, in a range and of a spread. */
function spreadOut(classes: readonly PitchClass[], low: MidiNote, high: MidiNote, spread: Spread): Voicing[] {
  const reach = spread === 'drop 2' || spread === 'drop 3' || spread === 'open' ? 12 : 0;
  const all = product(classes.map((pitchClass) => pitchesOf(pitchClass, low, high + reach))).map((pitches) =>
    [...pitches].sort((a, b) => a - b),
  );
  const close = all.filter((pitches) => (pitches.at(-1) ?? 0) - (pitches[0] ?? 0) < 12);
  const inside = (pitches: Voicing): boolean =>
    pitches.length > 0 &&
    (pitches[0] as number) >= low &&
    (pitches.at(-1) as number) <= high &&
    playable(pitches, WIDEST[spread]);
  switch (spread) {
    case 'free':
      return all.filter(inside);
    case 'close':
      return close.filter(inside);
    case 'open':
    case 'drop 2':
      return close.map((pitches) => dropped(pitches, 2)).filter(inside);
    case 'drop 3':
      return close.map((pitches) => dropped(pitches, Math.min(3, pitches.length - 1))).filter(inside);
    case 'wide':
      return all.filter((pitches) => hasWideGaps(pitches) && inside(pitches));
  }
}

/**
 * The voicings that two hands can play of a chord, from close to wide.
 *
 * @param voices  notes above the bass
 * @returns voicings from low to high; where the range holds no whole chord of this spread, any, and at last single
 * notes
 */
export function keyboardVoicings(
  chord: Chord,
  low: MidiNote,
  high: MidiNote,
  voices: number,
  spread: Spread,
): Voicing[] {
  const classes = neededPitchClasses(chord, voices);
  const without = spread === 'free' ? rootless(chord, voices) : null;
  const full = [...spreadOut(classes, low, high, spread), ...(without ? spreadOut(without, low, high, spread) : [])];
  if (full.length > 0) return full;
  const free = spread === 'free' ? [] : spreadOut(classes, low, high, 'free');
  return free.length > 0
    ? free
    : classes.flatMap((pitchClass) => pitchesOf(pitchClass, low, high)).map((pitch) => [pitch]);
}

import { chordMask, type Chord } from '../theory/chord';
import { inMask, maskOf, pitchClassOf, semitonesOf } from '../theory/pitch';
import { modulo, range, type MidiNote, type PitchClass, type PitchClassMask } from '../theory/units';
import { neededPitchClasses } from './keyboard';
import type { Voicing } from './types';

/** Open strings of a guitar in standard tuning, the lowest first: E A D G B E. */
export const OPEN_STRINGS: readonly MidiNote[] = [40, 45, 50, 55, 59, 64];

/** A fret for each string, the lowest first; 0 is open, null is not struck. */
export type Frets = readonly (number | null)[];

/** A chord shape that a hand can hold. */
export interface GuitarShape {
  readonly frets: Frets;
  readonly pitches: Voicing;
  /** The fret at which the first finger lies; 0 where all strings are open. */
  readonly position: number;
}

const HIGHEST_FRET = 14;
const HAND_SPAN = 4;
const FINGERS = 4;
/** A chord is struck on at least this many strings. */
export const FEWEST_STRINGS = 3;

/** Fingers that a shape needs: one for a barre over all strings at its lowest fret, one for each note above it. */
export function fingersFor(frets: Frets): number {
  const pressed = frets.filter((fret): fret is number => fret !== null && fret > 0);
  if (pressed.length === 0) return 0;
  const lowest = Math.min(...pressed);
  const atLowest = pressed.filter((fret) => fret === lowest).length;
  const first = frets.indexOf(lowest);
  const barred = atLowest > 1 && frets.slice(first).every((fret) => fret === null || fret >= lowest);
  return pressed.length - (barred ? atLowest - 1 : 0);
}

/**
 * True where a hand can hold the shape and strike it: a span of four frets, four fingers, sounding strings side by
 * side.
 */
export function isPlayable(frets: Frets): boolean {
  const struck = frets.flatMap((fret, string) => (fret === null ? [] : [string]));
  if (struck.length < FEWEST_STRINGS) return false;
  if ((struck.at(-1) as number) - (struck[0] as number) + 1 !== struck.length) return false;
  const pressed = frets.filter((fret): fret is number => fret !== null && fret > 0);
  const span = pressed.length === 0 ? 0 : Math.max(...pressed) - Math.min(...pressed);
  return span < HAND_SPAN && fingersFor(frets) <= FINGERS;
}

const pitchesOfFrets = (frets: Frets): MidiNote[] =>
  frets.flatMap((fret, string) => (fret === null ? [] : [(OPEN_STRINGS[string] as number) + fret]));

/** Shapes of each set of notes over each bass, found once. */
const known = new Map<string, readonly GuitarShape[]>();

/**
 * Every shape of a chord on the fretboard: each note a chord note, none of the needed ones missing, the bass lowest.
 *
 * @param bass  the pitch class that must lie lowest; null leaves it free
 */
export function guitarShapes(chord: Chord, bass: PitchClass | null): readonly GuitarShape[] {
  const mask = chordMask(chord.bass === null ? chord : { ...chord, bass: null }) | (bass === null ? 0 : 1 << bass);
  const needed = essential(chord);
  const name = `${mask} ${bass} ${needed.join()}`;
  const found = known.get(name);
  if (found) return found;
  const result = search(mask, maskOf(needed), bass).sort(
    (a, b) => a.position - b.position || b.pitches.length - a.pitches.length,
  );
  known.set(name, result);
  return result;
}

/**
 * Walks string by string over all frets that sound a chord note, and leaves off where the hand's span is passed or
 * strings would cross.
 */
function search(mask: PitchClassMask, needed: PitchClassMask, bass: PitchClass | null): GuitarShape[] {
  const shapes: GuitarShape[] = [];
  const options = OPEN_STRINGS.map((open) => range(HIGHEST_FRET + 1).filter((fret) => inMask(mask, open + fret)));
  const step = (
    string: number,
    first: number,
    frets: number[],
    lowest: number,
    highest: number,
    sounding: PitchClassMask,
  ): void => {
    if (frets.length >= FEWEST_STRINGS && (sounding & needed) === needed) {
      const whole: Frets = [
        ...Array.from({ length: first }, () => null),
        ...frets,
        ...Array.from({ length: OPEN_STRINGS.length - string }, () => null),
      ];
      if (isPlayable(whole))
        shapes.push({ frets: whole, pitches: pitchesOfFrets(whole), position: highest === 0 ? 0 : lowest });
    }
    if (string >= OPEN_STRINGS.length) return;
    const open = OPEN_STRINGS[string] as number;
    const below = frets.length === 0 ? -1 : (OPEN_STRINGS[string - 1] as number) + (frets.at(-1) as number);
    for (const fret of options[string] as number[]) {
      const pitch = open + fret;
      if (pitch <= below || (frets.length === 0 && bass !== null && modulo(pitch, 12) !== bass)) continue;
      const [low, high] = fret === 0 ? [lowest, highest] : [Math.min(lowest, fret), Math.max(highest, fret)];
      if (high > 0 && high - low >= HAND_SPAN) continue;
      step(string + 1, first, [...frets, fret], low, high, sounding | (1 << modulo(pitch, 12)));
    }
  };
  for (let first = 0; first <= OPEN_STRINGS.length - FEWEST_STRINGS; first++)
    step(first, first, [], HIGHEST_FRET + 1, 0, 0);
  return shapes;
}

/** What no shape may lack: everything but the fifth, and of more than four notes the four most needed. */
function essential(chord: Chord): PitchClass[] {
  const root = pitchClassOf(chord.root);
  const fifth = chord.tones.length > 3 && chord.tones.includes('5') ? modulo(root + semitonesOf('5'), 12) : -1;
  return neededPitchClasses(chord, 4).filter((pitchClass) => pitchClass !== fifth);
}

/** The shape that sounds exactly these pitches, the one nearest the nut; null when no hand can. */
export function shapeOfPitches(chord: Chord, pitches: Voicing): GuitarShape | null {
  const wanted = pitches.join();
  const lowest = pitches[0];
  const bass = lowest === undefined ? null : modulo(lowest, 12);
  return guitarShapes(chord, bass).find((shape) => shape.pitches.join() === wanted) ?? null;
}

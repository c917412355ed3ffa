import { pitchClassOf, semitonesOf } from '../theory/pitch';
import { scaleOf } from '../theory/scale';
import type { Chord } from '../theory/chord';
import type { Key } from '../theory/key';
import { modulo, type MidiNote, type PitchClass, type Semitones } from '../theory/units';
import type { ChordSpan, DegreesOf } from '../song/schema';

/** What degrees are counted over: a note to begin at, and how far the others lie above it within an octave, rising. */
interface Ladder {
  readonly from: PitchClass;
  readonly rungs: readonly Semitones[];
}

const ascending = (steps: Iterable<number>): number[] => [...new Set(steps)].sort((a, b) => a - b);

/** The scale from a note on; one that the scale does not have stands in it where it begins. */
function scaleFrom({ tonic, scale }: Key, from: PitchClass): Ladder {
  const home = pitchClassOf(tonic);
  return { from, rungs: ascending([0, ...scaleOf(scale).semitones.map((step) => modulo(step + home - from, 12))]) };
}

/** The chord of the tonic: what sounds where no chords have been written. */
function homeChord({ tonic, scale }: Key): Ladder {
  const { semitones } = scaleOf(scale);
  const thirds = [0, 2, 4].flatMap((place) => semitones[place] ?? []);
  return { from: pitchClassOf(tonic), rungs: ascending(thirds) };
}

function ladderOf(of: Exclude<DegreesOf, 'fixed'>, chord: Chord | null, key: Key): Ladder {
  const home = pitchClassOf(key.tonic);
  if (of === 'scale') return scaleFrom(key, home);
  if (of === 'steps') return scaleFrom(key, chord ? pitchClassOf(chord.root) : home);
  // A bass that a chord names is its root here.
  if (of === 'root') return { from: chord ? pitchClassOf(chord.bass ?? chord.root) : home, rungs: [0] };
  return chord ? { from: pitchClassOf(chord.root), rungs: ascending(chord.tones.map(semitonesOf)) } : homeChord(key);
}

/** A pitch moved by octaves into a range that holds an octave at least. */
export function foldedInto(pitch: MidiNote, low: MidiNote, high: MidiNote): MidiNote {
  if (pitch < low) return pitch + 12 * Math.ceil((low - pitch) / 12);
  return pitch > high ? pitch - 12 * Math.ceil((pitch - high) / 12) : pitch;
}

/** What a pattern's degrees are taken of. */
export interface DegreeSpace {
  readonly degrees: DegreesOf;
  readonly low: MidiNote;
  readonly high: MidiNote;
}

/**
 * The pitch of a degree: degree 0 is what the chord or the scale begins at, as near the middle of the range as it comes.
 *
 * @param span  the chord that sounds; undefined where none was written
 * @returns null where a chord is meant and the writer wants none to sound
 */
export function pitchOfDegree(
  degree: number,
  { degrees, low, high }: DegreeSpace,
  span: Pick<ChordSpan, 'chord'> | undefined,
  key: Key,
): MidiNote | null {
  if (degrees === 'fixed') return degree;
  if (span?.chord === null && (degrees === 'chord' || degrees === 'root')) return null;
  const { from, rungs } = ladderOf(degrees, span?.chord ?? null, key);
  const middle = (low + high) / 2;
  const first = from + 12 * Math.round((middle - from) / 12);
  const octave = Math.floor(degree / rungs.length);
  return foldedInto(first + 12 * octave + (rungs[modulo(degree, rungs.length)] ?? 0), low, high);
}

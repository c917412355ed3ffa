import { degreeWeights } from '../song/ground';
import type { Note, Wandering } from '../song/schema';
import { underAt } from '../song/under';
import { DRUM_KEYS } from '../song/style';
import { byStart, endsApart } from '../song/note-ends';
import { chordMask, type Chord } from '../theory/chord';
import { keyMask } from '../theory/key';
import { inMask, pitchClassOf } from '../theory/pitch';
import { clamp, modulo, range, SIXTEENTH, type MidiNote, type Ticks } from '../theory/units';
import { happens, pickWeighted, stream, type Random } from '../trellis/random';
import { isAsked, type Over } from './over';

const DRUMS: ReadonlySet<MidiNote> = new Set(Object.values(DRUM_KEYS));
/** Sixteenths and their triplets lie on this grid. */
const GRID: Ticks = SIXTEENTH / 3;
/** How fast the pull of the last note wanes, in semitones, from the smallest stride to the widest. */
const REACH = { near: 1.2, far: 60 } as const;

/** How likely the last note is said again, beside one right next to it. */
const AGAIN = 0.3;

interface Bounds {
  readonly low: number;
  readonly high: number;
}

const drawn = (random: Random, { low, high }: Bounds): number => low + Math.floor(random.next() * (high - low + 1));

const onGrid = (ticks: Ticks): Ticks => Math.max(GRID, Math.round(ticks / GRID) * GRID);

/** When notes may begin: by divisions of the bar, some of them cut in two, or one gap after the other. */
function onsets({ division, double, gap, grid }: Wandering, random: Random, length: Ticks): Ticks[] {
  if (division !== null)
    return range(Math.ceil(length / division)).flatMap((index) => {
      const at = index * division;
      // Drawn in every division, so that the others stay where they are.
      const half = happens(random, double) ? [at + Math.round(division / 2)] : [];
      return [at, ...half].filter((moment) => moment < length);
    });
  const found: Ticks[] = [];
  const step = (): Ticks => (grid ? onGrid(drawn(random, gap)) : drawn(random, gap));
  for (let at = 0; at < length; at += step()) found.push(at);
  return found;
}

/**
 * The pitches that may be struck over a chord.
 *
 * @param chord  null where the writer wants none to sound, undefined where none was written
 */
function pitchesOver(pattern: Wandering, chord: Chord | null | undefined, ground: Over['ground']): readonly MidiNote[] {
  const all = range(pattern.high - pattern.low + 1).map((index) => pattern.low + index);
  switch (pattern.tones) {
    case 'any':
      return all;
    case 'kit':
      return all.filter((pitch) => DRUMS.has(pitch));
    case 'scale':
      return all.filter((pitch) => inMask(keyMask(ground), pitch));
    case 'chord': {
      if (chord === null) return [];
      const mask = chord ? chordMask(chord) : keyMask(ground);
      return all.filter((pitch) => inMask(mask, pitch));
    }
  }
}

/** How likely a pitch is by itself: degrees of the song's scale as it weighs them, all others alike. */
function weighed({ tones }: Wandering, { ground }: Over): (pitch: MidiNote) => number {
  const weights = tones === 'kit' ? null : degreeWeights(ground);
  const home = pitchClassOf(ground.tonic);
  return (pitch) => weights?.get(modulo(pitch - home, 12)) ?? 100;
}

/**
 * The next pitch: anywhere where the stride is wide, near the last one where it is not.
 *
 * @param weight  how likely it is by itself
 */
function wandered(
  random: Random,
  pitches: readonly MidiNote[],
  last: MidiNote | null,
  stride: number,
  weight: (pitch: MidiNote) => number,
): MidiNote {
  const reach = REACH.near * (REACH.far / REACH.near) ** (stride / 100);
  return pickWeighted(
    random,
    pitches.map((pitch) => {
      // A note said again is no wandering, unless nothing else is near.
      const near = last === null ? 1 : pitch === last ? AGAIN : Math.exp(-Math.abs(pitch - last) / reach);
      return [pitch, near * weight(pitch)];
    }),
  );
}

/** Notes of which no more than some sound at once: the one that began first gives way. */
function inVoices(notes: readonly Note[], voices: number): Note[] {
  const result: Note[] = [];
  let sounding: number[] = [];
  for (const note of notes) {
    const ends = (index: number): Ticks => (result[index]?.start ?? 0) + (result[index]?.duration ?? 0);
    sounding = sounding.filter((index) => ends(index) > note.start);
    for (const index of sounding.splice(0, Math.max(0, sounding.length + 1 - voices))) {
      const early = result[index] as Note;
      result[index] = { ...early, duration: note.start - early.start };
    }
    sounding.push(result.length);
    result.push(note);
  }
  return result;
}

/**
 * Notes that wander through their ranges in one pass: each pass is drawn by itself, the same one always alike.
 *
 * @returns in order, inside the section, never more at once than there are voices
 */
export function wanderingNotes(pattern: Wandering, over: Over): Note[] {
  const random = (what: string): Random => stream(pattern.seed, what, over.pass);
  const [sounds, tones, lengths, touches] = ['density', 'pitch', 'length', 'loudness'].map(random) as [
    Random,
    Random,
    Random,
    Random,
  ];
  const weight = weighed(pattern, over);
  const options = new Map<Chord | null | undefined, readonly MidiNote[]>();
  const pitchesAt = (at: Ticks): readonly MidiNote[] => {
    const chord = underAt(over.chords, at, over.length).span?.chord;
    const known = options.get(chord) ?? pitchesOver(pattern, chord, over.ground).filter((pitch) => weight(pitch) > 0);
    options.set(chord, known);
    return known;
  };
  let last: MidiNote | null = null;
  const notes = onsets(pattern, random('gap'), over.length).flatMap((at): Note[] => {
    const long = drawn(lengths, pattern.length);
    const velocity = drawn(touches, pattern.loudness);
    const pitches = pitchesAt(at);
    if (!happens(sounds, pattern.density) || pitches.length === 0) return [];
    if (!isAsked(over, at)) {
      // Drawn all the same, so that what comes after it stays where it is.
      tones.next();
      return [];
    }
    last = wandered(tones, pitches, last, pattern.stride, weight);
    const duration = clamp(pattern.grid ? onGrid(long) : long, 1, over.length - at);
    return [{ start: at, duration, pitch: last, velocity }];
  });
  return endsApart(inVoices(notes, pattern.voices).sort(byStart), (_before, after) => after);
}

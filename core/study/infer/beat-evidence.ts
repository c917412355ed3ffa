import { keyMask, type Key } from '../../theory/key';
import { barTicks, beatsOf, metricalWeight, WEIGHT, type Metre } from '../../theory/metre';
import { inMask } from '../../theory/pitch';
import { clamp, modulo, type MidiNote, type PitchClass, type Ticks } from '../../theory/units';
import { CHORD_STATES } from './chord-states';
import type { PlainNote } from './key';

/** What sounds during one beat, and how much of it speaks for each chord. */
export interface BeatEvidence {
  readonly at: Ticks;
  readonly strength: number;
  /** How much each pitch class sounds, as a share of all that does, or of a full band where little does. */
  readonly shares: Float64Array;
  /** How much sounds, 0–1: a note alone says little. */
  readonly mass: number;
  /** The lowest pitch class that begins or lasts here; −1 where none does. */
  readonly bass: PitchClass;
  /** How much like a bass it is, 0–1. */
  readonly depth: number;
  readonly silent: boolean;
}

/** Hands and swing are not exact: where a note begins is judged to a twelfth of a quarter. */
const EXACT: Ticks = 40;
/** What short notes weigh that begin on half beats, and off them. */
const [OFF_BEAT, OFF_GRID] = [0.3, 0.39] as const;
/** What a note weighs that began before the beat. */
const RINGING = 0.8;
/** A bass says more by being lowest than by its share of what sounds. */
const BASS_SHARE = 0.45;
/** So many notes over a whole beat are a full band; where there never are, somewhat more than there ever are. */
const [FULL, FULLER] = [4.7, 1.3] as const;
/** From this note down, and fully an octave deeper, a lowest note is a bass; how much any other counts as one. */
const [DEEP, SHALLOW] = [53, 0.24] as const;
const NO_BASS_FROM: MidiNote = 55;

/**
 * The evidence of every beat of a stretch.
 *
 * @param notes  in order of their starts
 * @param alone  true where they are chords that are struck by themselves: then each says all there is to say of its
 *   beat, and its lowest note is a note like the others
 */
export function evidenceOf(notes: readonly PlainNote[], metre: Metre, to: Ticks, alone = false): BeatEvidence[] {
  const bar = barTicks(metre);
  const beats = beatsOf(metre);
  const result: BeatEvidence[] = [];
  // Notes that can still sound are kept in a window that moves along.
  let window: PlainNote[] = [];
  let upcoming = 0;
  for (let line = 0; line < to; line += bar) {
    for (const beat of beats) {
      const [start, end] = [line + beat.at, line + beat.at + beat.length];
      if (start >= to) continue;
      window = window.filter((note) => note.start + note.duration > start);
      for (let note = notes[upcoming]; note && note.start < end; note = notes[++upcoming])
        if (note.start + note.duration > start) window.push(note);
      const own = collect(window, metre, start, end, alone ? 1 : BASS_SHARE);
      result.push({ ...own, at: start, strength: metricalWeight(metre, start) });
    }
  }
  return weighed(result, alone);
}

/** The evidence of beats whose shares are how much sounds, held against a full band. */
function weighed(beats: readonly BeatEvidence[], alone: boolean): BeatEvidence[] {
  const full = alone ? 0 : beats.reduce((most, { mass }) => Math.max(most, FULLER * mass), 0);
  return beats.map((beat) => {
    const whole = Math.max(beat.mass, Math.min(FULL, full), Number.MIN_VALUE);
    return { ...beat, mass: beat.mass / whole, shares: beat.shares.map((value) => value / whole) };
  });
}

/** Notes that begin on strong places count more; what only passes counts less. */
function placeWeight({ start, duration }: PlainNote, metre: Metre, beat: Ticks): number {
  if (duration > beat / 2) return 1;
  const weight = metricalWeight(metre, Math.round(start / EXACT) * EXACT);
  if (weight >= WEIGHT.beat) return 1;
  return weight >= WEIGHT.division ? OFF_BEAT : OFF_GRID;
}

/**
 * What sounds during a beat, in notes over the whole of it.
 *
 * @param bassShare  what a lowest note counts as one that sounds
 */
function collect(
  notes: readonly PlainNote[],
  metre: Metre,
  start: Ticks,
  end: Ticks,
  bassShare: number,
): Omit<BeatEvidence, 'at' | 'strength'> {
  const shares = new Float64Array(12);
  // What rings a hair into the beat is none of it.
  const heardIn = (note: PlainNote): boolean =>
    note.start < end && note.start + note.duration > (note.start < start ? start + EXACT : start);
  const sounding = notes.filter(heardIn);
  const lowest = sounding.reduce((least, { pitch }) => Math.min(least, pitch), 128);
  let bass = 128;
  let total = 0;
  for (const note of sounding) {
    const overlap = Math.min(end, note.start + note.duration) - Math.max(start, note.start);
    const isBass = note.pitch <= lowest + 2 && note.pitch < NO_BASS_FROM;
    const value =
      overlap *
      placeWeight(note, metre, end - start) *
      (isBass ? bassShare : 1) *
      (note.start < start - EXACT * 1.5 ? RINGING : 1);
    shares[modulo(note.pitch, 12)] = (shares[modulo(note.pitch, 12)] as number) + value;
    total += value;
    if (note.start < (start + end) / 2) bass = Math.min(bass, note.pitch);
  }
  return {
    shares: shares.map((value) => value / (end - start)),
    mass: total / (end - start),
    bass: bass > 127 ? -1 : modulo(bass, 12),
    depth: bass > 127 ? 0 : clamp((DEEP - bass) / 12, SHALLOW, 1),
    silent: total === 0,
  };
}

/** What the shares of a beat are worth in hundredths of a nat. */
const SCALE = 194;
/** What a lowest note is worth that is a chord's root, another of its notes, or none. */
const BASS = { root: 52, chord: 6, foreign: -34 } as const;
/** Basses say most of what chord sounds where bars and halves of them begin. */
const bassWeight = (strength: number): number =>
  strength >= WEIGHT.bar ? 1.44 : strength >= WEIGHT.strong ? 0.75 : 0.5;
/** Doublings hide how many different notes there are; a chord whose third or seventh never sounds is doubtful. */
const MISSING = 31;
/** A root that does not sound: players leave it to the bass. */
const ROOTLESS = 21;
/** A chord with notes outside the key. */
const FOREIGN = 22;
/** Less than this of all that sounds is as good as nothing. */
const TRACE = 0.02;

/** How much a beat speaks for each chord, in hundredths of a nat, in the order of `CHORD_STATES`. */
export function layerOf({ shares, mass, bass, depth, strength, silent }: BeatEvidence, key: Key): Int32Array {
  const home = keyMask(key);
  const lowest = depth * bassWeight(strength);
  return Int32Array.from(CHORD_STATES, ({ mask, root, price, template, telling }) => {
    if (silent) return 0;
    let score = 0;
    for (let index = 0; index < 12; index++) score += (shares[index] as number) * (template[index] as number);
    const missing = telling.filter((pitchClass) => (shares[pitchClass] as number) < TRACE).length;
    const rootless = (shares[root] as number) < TRACE ? ROOTLESS : 0;
    const foreign = (mask & ~home) === 0 ? 0 : FOREIGN;
    const low = bass < 0 ? 0 : bass === root ? BASS.root : inMask(mask, bass) ? BASS.chord : BASS.foreign;
    return Math.round(SCALE * score - (price + missing * MISSING + rootless + foreign) * mass + low * lowest);
  });
}

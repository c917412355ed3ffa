import { chordMask, type Chord } from '../theory/chord';
import { inMask, pitchClassOf } from '../theory/pitch';
import { modulo, type MidiNote } from '../theory/units';
import { isDeadEnd } from '../trellis/trellis';
import type { Voicing } from '../voicing/types';
import { voiceChords } from '../voicing/voicing';
import type { LivePlayer } from './player';

/**
 * Lays a chord out under the hand, as near to the last one as it comes.
 *
 * @param before     the last chord and how it lay; null where there was none
 * @param inversion  the chord note that lies lowest, counted from the root; null leaves it free
 * @returns pitches from low to high; where the player's register holds no such layout, that of any inversion
 */
export function laidOut(
  chord: Chord,
  before: { readonly chord: Chord; readonly pitches: Voicing } | null,
  inversion: number | null,
  { wish }: LivePlayer,
): Voicing {
  const voices = Math.max(wish.voices, chord.tones.length);
  const ways = inversion === null ? [{}] : [{ inversion: inversion % chord.tones.length }, {}];
  for (const voicing of ways) {
    const row = [
      ...(before && before.pitches.length > 0 ? [{ chord: before.chord, voicing: { pitches: before.pitches } }] : []),
      { chord, voicing },
    ];
    const voiced = voiceChords(row, { ...wish, voices });
    if (!isDeadEnd(voiced)) return voiced.at(-1) ?? [];
  }
  return [];
}

/** Pitches of a set of pitch classes in a register, from low to high. */
const pitchesIn = (mask: number, low: MidiNote, high: MidiNote): readonly MidiNote[] =>
  Array.from({ length: Math.max(0, high - low + 1) }, (_, index) => low + index).filter((pitch) => inMask(mask, pitch));

/** The lowest note of a chord that a bass plays: its bass note or root, not below the register. */
const rootFrom = (chord: Chord, low: MidiNote): MidiNote =>
  low + modulo(pitchClassOf(chord.bass ?? chord.root) - low, 12);

/**
 * The chord's notes from low to high for a player of single notes: over its root, and beyond the octave on and on. Chords
 * give them as they lie.
 */
export function noteAt(
  chord: Chord,
  pitches: Voicing,
  place: number,
  { plays, low, high }: LivePlayer,
): MidiNote | null {
  if (plays === 'chords') return inOctaves(pitches, place, high);
  const root = rootFrom(chord, low);
  return inOctaves(pitchesIn(chordMask(chord), root, root + 11), place, Math.max(high, root + 12));
}

/** The pitches, and above the last of them the same ones an octave higher, as far as the register goes. */
function inOctaves(pitches: readonly MidiNote[], place: number, high: MidiNote): MidiNote | null {
  const pitch = pitches[place % Math.max(1, pitches.length)];
  if (pitch === undefined) return null;
  const up = pitch + 12 * Math.floor(place / pitches.length);
  return up <= high ? up : pitch;
}

/** The bass of a chord: for a bass in its register, for others not far below where the chord lies. */
export function bassOf(chord: Chord, pitches: Voicing, { plays, low, deepest }: LivePlayer): MidiNote {
  if (plays === 'bass') return rootFrom(chord, low);
  const root = rootFrom(chord, deepest);
  const under = pitches[0] ?? low;
  return root + 12 * Math.max(0, Math.floor((under - root) / 12) - (under - root > 12 ? 0 : 1));
}

/** A step along a scale from a note, as far as the register goes. @param by  steps; 0 is the note itself */
export function walked(mask: number, from: MidiNote, by: number, { low, high }: LivePlayer): MidiNote {
  const way = by < 0 ? -1 : 1;
  let [pitch, left] = [from, Math.abs(by)];
  if (!inMask(mask, pitch)) left = Math.max(1, left);
  for (let next = pitch + way; left > 0 && next >= low && next <= high; next += way) {
    if (!inMask(mask, next)) continue;
    pitch = next;
    left--;
  }
  return pitch;
}

import { pitchClassOf, readName } from '../theory/pitch';
import type { MidiNote } from '../theory/units';

/** A note of a script, in beats. */
export interface ScriptedNote {
  readonly pitch: MidiNote;
  readonly from: number;
  readonly to: number;
}

export type ScriptRead =
  | { readonly ok: true; readonly notes: readonly ScriptedNote[]; readonly beats: number }
  | { readonly ok: false; readonly problem: string };

const MOST_BEATS = 256;

/**
 * Reads notes that are to be played one after the other, a beat each: names with their octaves, with a plus between those
 * that are struck together; a dash is a rest.
 */
export function readScript(text: string): ScriptRead {
  const beats = text.trim().split(/\s+/).filter(Boolean);
  if (beats.length === 0) return { ok: false, problem: 'Nothing to play: write notes such as C3+E3+G3 A3 - G3.' };
  if (beats.length > MOST_BEATS) return { ok: false, problem: `Write at most ${MOST_BEATS} beats.` };
  const notes: ScriptedNote[] = [];
  for (const [from, beat] of beats.entries()) {
    if (beat === '-') continue;
    for (const name of beat.split('+')) {
      const pitch = pitchOf(name);
      if (pitch === null)
        return { ok: false, problem: `“${name}” is no note: write names with octaves, such as F#3 or Bb2.` };
      notes.push({ pitch, from, to: from + 1 });
    }
  }
  return { ok: true, notes, beats: beats.length };
}

/** The pitch of a name with its octave; null for what is none. Middle C is C4. */
function pitchOf(name: string): MidiNote | null {
  const [, letters = '', octave = ''] = /^(\D+?)(-?\d)$/.exec(name) ?? [];
  const spelled = readName(letters);
  if (spelled === null) return null;
  // Alterations may cross the octave's border: B♯3 sounds as C4.
  const natural = readName(letters.charAt(0)) ?? 0;
  const steps = pitchClassOf(natural) + altered(spelled, natural);
  const pitch = 12 * (Number(octave) + 1) + steps;
  return pitch >= 0 && pitch <= 127 ? pitch : null;
}

/** Semitones by which a spelling lies above its letter. */
const altered = (spelled: number, natural: number): number => Math.round((spelled - natural) / 7);

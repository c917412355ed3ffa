import { chordSymbol } from '@fendro/core/theory/chord';
import { spellIn, type Key } from '@fendro/core/theory/key';
import { pitchName } from '@fendro/core/theory/pitch';
import { modulo, type MidiNote } from '@fendro/core/theory/units';
import type { Take, Verdict } from '@fendro/core/song/schema';

export const nameIn = (key: Key, pitch: MidiNote): string => pitchName(pitch, spellIn(key, modulo(pitch, 12)));

/** A take in the words that a screen reader says: “Take 3 of 8, kept, 14 notes, D4 to A5”. */
export function sayTake(
  take: Take,
  place: number,
  count: number,
  verdict: Verdict | null,
  key: Key,
  drums: boolean,
): string {
  const head = [`Take ${place} of ${count}`, ...(verdict ? [verdict] : [])];
  if (take.of === 'harmony')
    return [...head, take.chords.map(({ chord }) => (chord ? chordSymbol(chord) : 'no chord')).join(', ')].join(', ');
  const pitches = take.notes.map(({ pitch }) => pitch);
  const range =
    drums || pitches.length === 0
      ? []
      : [`${nameIn(key, Math.min(...pitches))} to ${nameIn(key, Math.max(...pitches))}`];
  return [...head, `${take.notes.length} notes`, ...range].join(', ');
}

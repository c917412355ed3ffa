import { chordSymbol } from '@fendro/core/theory/chord';
import { spellIn, type Key } from '@fendro/core/theory/key';
import { pitchName } from '@fendro/core/theory/pitch';
import { modulo, type MidiNote } from '@fendro/core/theory/units';
import { barTicks, beatsOf, type Metre } from '@fendro/core/theory/metre';
import { drumName } from '@fendro/core/sounding/drum-names';
import type { Note, Take, Verdict } from '@fendro/core/song/schema';

export const nameIn = (key: Key, pitch: MidiNote): string => pitchName(pitch, spellIn(key, modulo(pitch, 12)));

/** A note in the words that a screen reader says: “F4, bar 2, beat 3”, “Snare, bar 1, after beat 2”. */
export function sayNote({ start, pitch }: Note, metre: Metre, key: Key, drums: boolean): string {
  const bar = barTicks(metre);
  const name = drums ? drumName(pitch) : nameIn(key, pitch);
  if (start < 0) return `${name}, before bar 1`;
  const [inBar, beats] = [start % bar, beatsOf(metre)];
  const beat = beats.findLastIndex(({ at }) => at <= inBar);
  return `${name}, bar ${Math.floor(start / bar) + 1}, ${beats[beat]?.at === inBar ? '' : 'after '}beat ${beat + 1}`;
}

/**
 * A take in the words that a screen reader says: “Take 3 of 8, kept, 14 notes, D4 to A5”.
 *
 * @param number  what it is called by; null where it came by hand and is called by how it did
 */
export function sayTake(
  take: Take,
  number: number | null,
  count: number,
  verdict: Verdict | null,
  key: Key,
  drums: boolean,
): string {
  const { how } = take.origin;
  const called = number === null ? `${how.charAt(0).toUpperCase()}${how.slice(1)} take` : `Take ${number} of ${count}`;
  const head = [called, ...(verdict ? [verdict] : [])];
  if (take.of === 'harmony')
    return [...head, take.chords.map(({ chord }) => (chord ? chordSymbol(chord) : 'no chord')).join(', ')].join(', ');
  const pitches = take.notes.map(({ pitch }) => pitch);
  const range =
    drums || pitches.length === 0
      ? []
      : [`${nameIn(key, Math.min(...pitches))} to ${nameIn(key, Math.max(...pitches))}`];
  return [...head, `${take.notes.length} notes`, ...range].join(', ');
}

import { isDrumRole, isLine } from '@fendro/core/song/roles';
import type { ChordSpan, Ground, HarmonyTake, PartTake, Role } from '@fendro/core/song/schema';
import { keyOf } from '@fendro/core/song/ground';
import { readingFacts } from '@fendro/core/study/chord-facts';
import { factsOf } from '@fendro/core/study/facts';
import { noteRoles, sayRoles } from '@fendro/core/study/note-roles';
import { chordSymbol } from '@fendro/core/theory/chord';
import { harmonicFunction, romanNumeral } from '@fendro/core/theory/harmony-role';
import type { Key } from '@fendro/core/theory/key';
import { nameIn } from '../ui/spoken';

/** A progression by its degrees, with what lies outside the key. */
function ofProgression(chords: readonly ChordSpan[], key: Key): string {
  const sounding = chords.flatMap(({ chord }) => (chord ? [chord] : []));
  const outside = sounding.filter((chord) => ['borrowed', 'applied'].includes(harmonicFunction(chord, key)));
  const named = outside.map((chord) => `${chordSymbol(chord)} is ${harmonicFunction(chord, key)}`);
  return [sounding.map((chord) => romanNumeral(chord, key)).join(' '), ...new Set(named)].join('; ');
}

/** What is said of chords; under a melody, how they read it. */
export function chordFactsText({ chords }: HarmonyTake, melody: PartTake | null, ground: Ground): string {
  const key = keyOf(ground);
  if (!melody) return ofProgression(chords, key);
  const reading = readingFacts(chords, melody.notes, key);
  return [`${reading.inChord} % of the melody in its chord`, ...reading.reasons, ofProgression(chords, key)].join('; ');
}

/** What is said of a part's take. */
export function partFactsText(
  take: PartTake,
  role: Role,
  chords: readonly ChordSpan[],
  ground: Ground,
  bars: number,
): string {
  const key = keyOf(ground);
  const facts = factsOf(take.notes, chords, key, ground.metre, bars);
  if (facts.low === null || facts.high === null) return 'silent';
  if (isDrumRole(role)) return `${facts.onsetsPerBar} onsets a bar, ${facts.repeatedRhythms} % of bars return`;
  // Where no chords sound, there is nothing to say of notes against them.
  const overChords = chords.some(({ chord }) => chord !== null);
  const before = take.notes.filter(({ start }) => start < 0).length;
  return (
    [
      `${nameIn(key, facts.low)}–${nameIn(key, facts.high)}, ${facts.onsetsPerBar} onsets a bar`,
      ...(isLine(role) ? [`${facts.steps} % steps`] : []),
      ...(overChords ? [`${facts.chordTonesOnBeats} % chord notes on beats`] : []),
      ...(facts.outsideScale > 0 ? [`${facts.outsideScale} outside the scale`] : []),
      ...(before > 0 ? [`a pick-up of ${before} ${before === 1 ? 'note' : 'notes'}`] : []),
    ].join(', ') + (overChords && isLine(role) ? `; ${sayRoles(noteRoles(take.notes, chords, ground.metre))}` : '')
  );
}

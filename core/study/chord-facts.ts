import type { ChordSpan, Note } from '../song/schema';
import { chordMask, chordNotes, chordSymbol, type Chord } from '../theory/chord';
import { harmonicFunction, romanNumeral, type HarmonicFunction } from '../theory/harmony-role';
import { keyMask, spellIn, type Key } from '../theory/key';
import { inMask, intervalOf, pitchClassOf, printedName, sizeOfMask, turnedMask } from '../theory/pitch';
import { SCALES, type Scale } from '../theory/scale';
import { modulo, range, type Percent } from '../theory/units';

/** What can be said of one chord in a key. */
export interface ChordFacts {
  /** The chord's notes with the degree that each is, the bass first where it is foreign. */
  readonly notes: readonly { readonly name: string; readonly degree: string }[];
  readonly numeral: string;
  readonly role: HarmonicFunction;
  /** Scales over the chord's root that hold all its notes, those of seven notes nearest the key first. */
  readonly scales: readonly Scale[];
  /** How far the chord pulls away from the key, in %. */
  readonly tension: Percent;
}

/** Scales with five to eight notes over the root that hold the whole chord, by how much of the key they keep. */
function fittingScales(chord: Chord, key: Key): Scale[] {
  const root = pitchClassOf(chord.root);
  const wanted = chordMask({ ...chord, bass: null });
  const home = keyMask(key);
  return SCALES.filter((scale) => scale.semitones.length >= 5 && scale.semitones.length <= 8)
    .map((scale) => ({ scale, mask: turnedMask(scale.mask, root) }))
    .filter(({ mask }) => (wanted & ~mask) === 0)
    .map(({ scale, mask }) => ({ scale, distance: sizeOfMask(mask ^ home) + (scale.semitones.length === 7 ? 0 : 3) }))
    .sort((a, b) => a.distance - b.distance)
    .map(({ scale }) => scale);
}

/**
 * Tension of a chord against a key: notes outside it, distance of its root from the tonic on the circle of fifths, and
 * the rubs inside the chord itself (after the tonal-tension measures of Lerdahl, 2001, simplified to one number).
 */
export function tensionOf(chord: Chord, key: Key): Percent {
  const mask = chordMask(chord);
  const outside = sizeOfMask(mask & ~keyMask(key)) / sizeOfMask(mask);
  const fifths = Math.min(6, Math.abs(modulo(chord.root - key.tonic + 6, 12) - 6)) / 6;
  const rubs = range(12).filter((note) => (mask >> note) & 1 && (mask >> ((note + 1) % 12)) & 1).length;
  const tritone = range(6).some((note) => (mask >> note) & 1 && (mask >> (note + 6)) & 1) ? 1 : 0;
  return Math.round(Math.min(100, 45 * outside + 30 * fifths + 8 * rubs + 17 * tritone));
}

export function chordFacts(chord: Chord, key: Key): ChordFacts {
  const degrees = new Map(chord.tones.map((tone) => [chord.root + intervalOf(tone), tone]));
  return {
    notes: chordNotes(chord).map((note) => ({ name: printedName(note), degree: degrees.get(note) ?? 'bass' })),
    numeral: romanNumeral(chord, key),
    role: harmonicFunction(chord, key),
    scales: fittingScales(chord, key),
    tension: tensionOf(chord, key),
  };
}

/** How chords go under a melody. */
export interface ReadingFacts {
  /** Share of the melody's time that is in its chord, in %. */
  readonly inChord: Percent;
  /** Chords outside the key, with what each does. */
  readonly reasons: readonly string[];
}

/**
 * What can be said of a progression under a melody: how much of the melody it holds, and why it leaves the key where
 * it does.
 */
export function readingFacts(chords: readonly ChordSpan[], melody: readonly Note[], key: Key): ReadingFacts {
  let inside = 0;
  let total = 0;
  const held = new Map<ChordSpan, Set<number>>();
  for (const { start, duration, pitch } of melody) {
    const span = chords.findLast((candidate) => candidate.start <= Math.max(0, start));
    if (!span?.chord) continue;
    total += duration;
    if (!inMask(chordMask(span.chord), pitch)) continue;
    inside += duration;
    held.set(span, (held.get(span) ?? new Set()).add(modulo(pitch, 12)));
  }
  const reasons = chords.flatMap((span): string[] => {
    if (!span.chord) return [];
    const role = harmonicFunction(span.chord, key);
    if (role !== 'borrowed' && role !== 'applied') return [];
    const foreign = [...(held.get(span) ?? [])].filter((pitchClass) => !inMask(keyMask(key), pitchClass));
    const melodyNotes = foreign.map((pitchClass) => printedName(spellIn(key, pitchClass))).join(' and ');
    return [`${chordSymbol(span.chord)} is ${role}${melodyNotes ? ` and carries the melody’s ${melodyNotes}` : ''}`];
  });
  return { inChord: total === 0 ? 100 : Math.round((100 * inside) / total), reasons: [...new Set(reasons)] };
}

import type { ChordSpan } from '../../song/schema';
import { readChord } from '../../theory/read-chord';
import { TICKS_PER_QUARTER, type Ticks } from '../../theory/units';
import type { ReadMidi, ReadText } from '../midi/midi-read';
import type { ImportChord } from './file-model';

/** Chords that a file names in its markers or in other text: they are chords then, and no sections or words. */

export interface NamedChords {
  readonly chords: readonly ImportChord[];
  /** The markers that name sections. */
  readonly markers: readonly ReadText[];
}

/** Fewer names than this may be rehearsal letters or words. */
const FEWEST = 3;
/** A list of text that names chords names little else. */
const MOSTLY = 0.8;
/** Chords come at least once in so many quarters. */
const WIDEST = 16;

/** The chord that a text names; undefined where it names none. */
function named(text: string): ImportChord['chord'] | undefined {
  // Small letters are words: “a”, “be”, “add”; no chord is longer than this.
  if (!/^(?:[A-G]|N\.?\s?C)/u.test(text.trim()) || text.trim().length > 16) return undefined;
  const reading = readChord(text);
  return reading.ok ? reading.chord : undefined;
}

const chordsIn = (texts: readonly ReadText[], scale: number): readonly ImportChord[] =>
  texts.flatMap(({ at, text }) => {
    const chord = named(text);
    return chord === undefined ? [] : [{ at: Math.round(at * scale), chord }];
  });

/** Letters alone that go up the alphabet mark the parts of a piece: A, B, C. */
function isRehearsal(texts: readonly ReadText[]): boolean {
  const letters = texts.map(({ text }) => text.trim());
  if (letters.some((text) => !/^[A-G]$/.test(text))) return false;
  const firsts = [...new Set(letters)];
  return firsts.every((letter, index) => letter.charCodeAt(0) === 65 + index);
}

/** True where so many chords come so close that they are what sounds and not what parts are called. */
function areChords(chords: readonly ImportChord[], texts: readonly ReadText[]): boolean {
  const [first, last] = [chords[0], chords.at(-1)];
  if (chords.length < FEWEST || !first || !last) return false;
  const apart: Ticks = (last.at - first.at) / (chords.length - 1);
  return apart <= WIDEST * TICKS_PER_QUARTER && !isRehearsal(texts);
}

/** @param scale  Fendro's ticks for one of the file's */
export function namedChords(file: ReadMidi, scale: number): NamedChords {
  const { markers, texts } = file;
  const said = markers.filter(({ text }) => text.trim() !== '');
  const isName = (marker: ReadText): boolean => named(marker.text) !== undefined;
  const inMarkers = chordsIn(said, scale);
  // Markers may name chords and sections side by side: then those that can be nothing but chords decide.
  if (areChords(inMarkers, said.filter(isName)) && (sure(said) || inMarkers.length >= MOSTLY * said.length))
    return { chords: once(inMarkers), markers: said.filter((marker) => !isName(marker)) };
  for (const list of [texts.cuePoint, texts.text, texts.lyrics]) {
    const plain = list.filter(({ text }) => text.trim() !== '' && !text.startsWith('Key: '));
    const chords = chordsIn(plain, scale);
    if (areChords(chords, plain.filter(isName)) && chords.length >= MOSTLY * plain.length)
      return { chords: once(chords), markers };
  }
  return { chords: [], markers };
}

/** At least one of them is longer than a letter: Am, F#, N.C. */
const sure = (texts: readonly ReadText[]): boolean =>
  texts.some(({ text }) => text.trim().length > 1 && named(text) !== undefined);

/** Of several at one moment the last. */
const once = (chords: readonly ImportChord[]): readonly ImportChord[] =>
  [...new Map(chords.map((chord) => [chord.at, chord])).values()].sort((a, b) => a.at - b.at);

/** A name that stands so close to a sixteenth is meant for it. */
const NEAR: Ticks = 40;
const SIXTEENTH: Ticks = TICKS_PER_QUARTER / 4;

function snapped(at: Ticks): Ticks {
  const on = Math.round(at / SIXTEENTH) * SIXTEENTH;
  return Math.abs(on - at) <= NEAR ? on : at;
}

/**
 * The chords that a file names for a stretch of it, from its start.
 *
 * @returns null where nothing is named in it or before it
 */
export function namedIn(chords: readonly ImportChord[], from: Ticks, length: Ticks): ChordSpan[] | null {
  const relative = chords.map(({ at, chord }) => ({ start: snapped(at - from), chord }));
  const before = relative.findLast(({ start }) => start <= 0);
  const inside = relative.filter(({ start }) => start > 0 && start < length);
  if (!before && inside.length === 0) return null;
  const all = [{ start: 0, chord: before?.chord ?? null }, ...inside];
  return all.map(({ start, chord }, index) => ({ start, duration: (all[index + 1]?.start ?? length) - start, chord }));
}

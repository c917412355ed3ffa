import { withoutHand } from './chord-hand';
import { chordMask, chordSymbol, NO_CHORD, sameChord, transposeChord, type Chord } from '../theory/chord';
import { keyMask, keyNotes, type Key } from '../theory/key';
import { degreeLabel, intervalOf, pitchClassOf, spellSemitones } from '../theory/pitch';
import { spellChord } from '../theory/spelling';
import { modulo, type Semitones, type Ticks } from '../theory/units';
import type { ChordSpan } from './schema';

/** A stretch of a section, in ticks from its start. */
export interface Stretch {
  readonly from: Ticks;
  readonly to: Ticks;
}

type Chords = readonly ChordSpan[];

/** What a chord is called on the sheet; what could not be read shows as it was typed. */
export const spanText = (span: ChordSpan): string => span.unread ?? (span.chord ? chordSymbol(span.chord) : NO_CHORD);

/** Stretches every chord to the next one and the last to the end; what starts beyond the end goes. */
export function closeGaps(chords: Chords, length: Ticks): ChordSpan[] {
  const inside = chords.filter(({ start }) => start >= 0 && start < length).sort((a, b) => a.start - b.start);
  return inside
    .filter((span, index) => span.start !== inside[index + 1]?.start)
    .map((span, index, all) => ({ ...span, duration: (all[index + 1]?.start ?? length) - span.start }));
}

/** The chords of a stretch, counted from its start; one that began earlier is cut to it. */
export function copyChords(chords: Chords, { from, to }: Stretch): ChordSpan[] {
  return chords
    .filter(({ start, duration }) => start < to && start + duration > from)
    .map((span) => {
      const start = Math.max(from, span.start);
      return { ...span, start: start - from, duration: Math.min(to, span.start + span.duration) - start };
    });
}

/**
 * Puts chords over a stretch that begins at a place; what lay there goes, what sounded on into it is cut, what
 * followed comes back after it.
 */
export function pasteChords(chords: Chords, at: Ticks, clip: Chords, length: Ticks): ChordSpan[] {
  const size = clip.reduce((end, { start, duration }) => Math.max(end, start + duration), 0);
  const end = Math.min(length, at + size);
  const sounding = chords.find(({ start, duration }) => start < end && start + duration > end);
  const outside = chords.filter(({ start }) => start < at || start >= end);
  const last = clip.at(-1);
  const goesOn = last?.chord && sounding?.chord ? sameChord(last.chord, sounding.chord) : false;
  const resumed =
    sounding && end < length && !goesOn && !outside.some(({ start }) => start === end)
      ? [{ ...sounding, start: end }]
      : [];
  return closeGaps([...outside, ...clip.map((span) => ({ ...span, start: span.start + at })), ...resumed], length);
}

/** The stretch once more right after itself. */
export const repeatChords = (chords: Chords, stretch: Stretch, length: Ticks): ChordSpan[] =>
  pasteChords(chords, stretch.to, copyChords(chords, stretch), length);

const withoutPitches = ({ voicing, ...span }: ChordSpan): ChordSpan => {
  if (!voicing) return span;
  return { ...span, voicing: withoutHand(voicing) };
};

const change = (chords: Chords, { from, to }: Stretch, edit: (chord: Chord) => Chord): ChordSpan[] =>
  chords.map((span) =>
    span.chord && span.start >= from && span.start < to ? { ...withoutPitches(span), chord: edit(span.chord) } : span,
  );

/** Chords of a stretch moved by semitones, spelled for the key. */
export const transposeChords = (chords: Chords, stretch: Stretch, by: Semitones, key: Key): ChordSpan[] =>
  change(chords, stretch, (chord) => spellChord(transposeChord(chord, spellSemitones(by)), key));

/** The same chord number on another degree of the key: chords of the key stay in it, others keep their kind. */
function moveByDegrees(chord: Chord, by: number, key: Key): Chord {
  const notes = keyNotes(key);
  const place = notes.findIndex((note) => pitchClassOf(note) === pitchClassOf(chord.root));
  const native = (chordMask(chord) & ~keyMask(key)) === 0;
  if (place < 0 || !native) {
    const from = place < 0 ? 0 : place;
    const target = notes[modulo(from + by, notes.length)] ?? key.tonic;
    return spellChord(transposeChord(chord, target - (notes[from] ?? key.tonic)), key);
  }
  const carry = (note: number): number => {
    const at = notes.findIndex((own) => pitchClassOf(own) === pitchClassOf(note));
    return at < 0 ? note : (notes[modulo(at + by, notes.length)] ?? note);
  };
  const root = carry(notes[place] as number);
  const tones = chord.tones.map((tone) => movedTone(tone, chord.root, root, carry));
  return { root, tones, bass: chord.bass === null ? null : carry(chord.bass) };
}

/**
 * A tone of the chord on its new root: the key's own version of the same degree, where the old one was the key's own.
 */
function movedTone(tone: string, oldRoot: number, newRoot: number, carry: (note: number) => number): string {
  const number = Number(/\d+/.exec(tone)?.[0] ?? 1);
  const oldNote = oldRoot + intervalOf(tone);
  const moved = carry(oldNote);
  if (moved === oldNote && carry(oldRoot) !== oldRoot) return tone;
  const label = degreeLabel(moved - newRoot);
  const reached = Number(/\d+/.exec(label)?.[0] ?? 1);
  return reached === (number > 7 ? number - 7 : number) ? label.replace(/\d+/, String(number)) : tone;
}

/** Chords of a stretch moved along the scale. */
export const transposeByDegrees = (chords: Chords, stretch: Stretch, by: number, key: Key): ChordSpan[] =>
  change(chords, stretch, (chord) => moveByDegrees(chord, by, key));

/** The chords of a stretch in backward order, each with its own length. */
export function reverseChords(chords: Chords, stretch: Stretch, length: Ticks): ChordSpan[] {
  const clip = copyChords(chords, stretch);
  const size = stretch.to - stretch.from;
  return pasteChords(
    chords,
    stretch.from,
    clip.map((span) => ({ ...span, start: size - span.start - span.duration })).reverse(),
    length,
  );
}

/** Moves the boundary before a chord to another place; it stays between its neighbours. */
export function moveBoundary(chords: Chords, start: Ticks, to: Ticks, length: Ticks): ChordSpan[] {
  const index = chords.findIndex((span) => span.start === start);
  if (index < 0) return [...chords];
  const before = chords[index - 1]?.start ?? -1;
  const after = chords[index + 1]?.start ?? length;
  if (to <= before || to >= after || to < 0) return [...chords];
  return closeGaps(
    chords.map((span, at) => (at === index ? { ...span, start: to } : span)),
    length,
  );
}

/** Cuts the chord that sounds at a place in two there. */
export function splitChord(chords: Chords, at: Ticks, length: Ticks): ChordSpan[] {
  const span = chords.find(({ start, duration }) => start < at && at < start + duration);
  return span ? closeGaps([...chords, { ...withoutPitches(span), start: at }], length) : [...chords];
}

/** Makes one chord of all in a stretch: its first. */
export function joinChords(chords: Chords, { from, to }: Stretch, length: Ticks): ChordSpan[] {
  const first = chords.findLast(({ start }) => start <= from) ?? chords.find(({ start }) => start < to);
  if (!first) return [...chords];
  return closeGaps(
    chords.filter((span) => span === first || span.start < from || span.start >= to),
    length,
  );
}

/** Chords of a stretch deleted; the one before sounds on. */
export const clearChords = (chords: Chords, { from, to }: Stretch, length: Ticks): ChordSpan[] =>
  closeGaps(
    chords.filter(({ start }) => start < from || start >= to),
    length,
  );

/** Moves a chord, with its length, to another place; what it covers there goes. */
export function moveChord(chords: Chords, start: Ticks, to: Ticks, length: Ticks): ChordSpan[] {
  const span = chords.find((candidate) => candidate.start === start);
  if (!span || to === start || to < 0 || to >= length) return [...chords];
  const left = closeGaps(
    chords.filter((candidate) => candidate !== span),
    length,
  );
  return pasteChords(left, to, [{ ...span, start: 0, duration: Math.min(span.duration, length - to) }], length);
}

/** Sets something by hand for the chords of a stretch. */
export const setChords = (
  chords: Chords,
  { from, to }: Stretch,
  settings: Partial<Omit<ChordSpan, 'start' | 'duration'>>,
): ChordSpan[] => chords.map((span) => (span.start >= from && span.start < to ? { ...span, ...settings } : span));

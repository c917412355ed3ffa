import { withoutHand } from './chord-hand';
import { chordMask, chordSymbol, NO_CHORD, sameChord, transposeChord, type Chord } from '../theory/chord';
import { keyMask, keyNotes, type Key } from '../theory/key';
import { barTicks, beatsOf, type Metre } from '../theory/metre';
import { degreeLabel, intervalOf, pitchClassOf, spellSemitones } from '../theory/pitch';
import { readChord, type ChordWriting } from '../theory/read-chord';
import { readDegree, readRoman } from '../theory/roman';
import { spellChord } from '../theory/spelling';
import { modulo, type Semitones, type Ticks } from '../theory/units';
import { LONGEST_UNREAD, shortened } from './limits';
import { isAgain, isHold, writtenBars, type WrittenBar } from './written-bars';
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

/** Only where and what a chord is: settings made by hand belong to the chord they were made for. */
const bare = (start: Ticks, chord: Chord | null): ChordSpan => ({ start, duration: 1, chord });

/** How a sheet is written. */
export interface Writing extends ChordWriting {
  /** True where numbers are degrees wherever they can be: `b7` is the chord on the lowered seventh, and no B7. */
  readonly degrees?: boolean;
}

/** A chord as it is typed or written: by its name, or as a degree of the key. */
export function writtenSpan(text: string, at: Ticks, key: Key, writing: Writing = {}): ChordSpan {
  const asDegree = (): Chord | null => readRoman(text, key) ?? readDegree(text, key);
  // No note name begins with a sign.
  const first = writing.degrees || /^[♭♯#]/u.test(text) ? asDegree() : null;
  if (first) return bare(at, first);
  const reading = readChord(text, writing);
  if (reading.ok) return bare(at, reading.chord ? spellChord(reading.chord, key) : null);
  const degree = asDegree();
  if (degree) return bare(at, degree);
  return { start: at, duration: 1, chord: null, unread: shortened(text, LONGEST_UNREAD) };
}

/** What typing means for the sheet it happens on. */
export interface Typing {
  readonly key: Key;
  readonly metre: Metre;
  /** The section's length, in ticks. */
  readonly length: Ticks;
  /** How notes are named. */
  readonly writing?: Writing;
}

/** Places for `count` chords in a bar from a beat on: on the beats as evenly as they allow, else between them. */
export function placesFor(count: number, from: Ticks, to: Ticks, metre: Metre): Ticks[] {
  const bar = barTicks(metre);
  const beats = beatsOf(metre).map(({ at }) => at);
  const line = Math.floor(from / bar) * bar;
  const open = beats.map((at) => line + at).filter((at) => at >= from && at < to);
  if (count === 2 && open.length === beats.length) {
    const strong = beatsOf(metre).find(({ role }) => role === 'strong') ?? beatsOf(metre).at(-1);
    return [from, line + (strong?.at ?? 0)];
  }
  if (count <= open.length)
    return Array.from({ length: count }, (_, index) => open[Math.floor((index * open.length) / count)] as Ticks);
  return Array.from({ length: count }, (_, index) => from + Math.round(((to - from) * index) / count));
}

/**
 * Types into a chord line as on paper. One chord stands from its beat to the next one; several, parted by spaces, share
 * the bar; `|` goes on to the next bar; `/` and `-` let the one before sound on; `%` says the bar before again; `|: :|`,
 * endings and `x4` repeat. Empty text takes the chord at that place away. What cannot be read stays, marked, as typed.
 *
 * @param at  a place in ticks from the section's start
 */
export function typeChords(chords: Chords, at: Ticks, text: string, typing: Typing): ChordSpan[] {
  const { key, metre, length, writing } = typing;
  const trimmed = text.trim();
  const others = chords.filter(({ start }) => start !== at);
  if (trimmed === '') return closeGaps(others, length);
  // “N. C.” and “no chord” are one chord, whatever their spaces.
  const one = /^(?:n\.?\s*c\.?|no\s+chord)$/iu.test(trimmed);
  const bars = one ? [['N.C.']] : writtenBars(trimmed, beatsOf(metre).length);
  const [word] = bars.flat();
  if (bars.length === 1 && bars[0]?.length === 1 && word !== undefined && !isAgain(word))
    return closeGaps([...others, writtenSpan(word, at, key, writing)], length);
  const bar = barTicks(metre);
  const typed = bars.reduce((now, words, index) => {
    const from = index === 0 ? at : (Math.floor(at / bar) + index) * bar;
    if (from >= length || words.length === 0) return now;
    return typeBar(now, from, words, typing);
  }, chords);
  return closeGaps(typed, length);
}

/** One bar, or what is left of it from a place on, with these words in it. */
function typeBar(chords: Chords, from: Ticks, words: WrittenBar, { key, metre, writing }: Typing): Chords {
  const bar = barTicks(metre);
  const line = Math.floor(from / bar) * bar;
  const kept = chords.filter(({ start }) => start < from || start >= line + bar);
  if (words.every(isAgain)) return [...kept, ...saidAgain(chords, line, bar)];
  const places = placesFor(words.length, from, line + bar, metre);
  return [
    ...kept,
    ...words.flatMap((word, place) => (isHold(word) ? [] : [writtenSpan(word, places[place] as Ticks, key, writing)])),
  ];
}

/** The chords of the bar before a bar line, once more. */
function saidAgain(chords: Chords, line: Ticks, bar: Ticks): Chords {
  const before = chords
    .filter(({ start }) => start >= line - bar && start < line)
    .map((span) => ({ ...span, start: span.start + bar }));
  if (before[0]?.start === line) return before;
  const carried = chords.findLast(({ start }) => start < line);
  return carried ? [{ ...carried, start: line }, ...before] : before;
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

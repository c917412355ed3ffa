import { isDrumRole, isLine } from './roles';
import type { ChordSpan, Note, Role } from './schema';
import { chordMask, sameChord, type Chord } from '../theory/chord';
import { keyMask, type Key } from '../theory/key';
import { inMask, pitchClassOf, semitonesOf } from '../theory/pitch';
import { modulo, range, type MidiNote, type PitchClass, type PitchClassMask, type Ticks } from '../theory/units';

/** Chords in their key, as notes are moved from one to another. */
export interface Harmony {
  readonly chords: readonly ChordSpan[];
  readonly key: Key;
}

export interface FitLimits {
  readonly role: Role;
  readonly low: MidiNote;
  readonly high: MidiNote;
}

const spanAt = (chords: readonly ChordSpan[], at: Ticks): ChordSpan | undefined =>
  chords.findLast((span) => span.start <= at && at < span.start + span.duration) ?? (at < 0 ? chords[0] : undefined);

const numberOf = (tone: string): number => Number(/\d+/.exec(tone)?.[0] ?? 0);

/** Degrees that stand in for one another when a chord has no note of the same number. */
const STAND_INS: Readonly<Record<number, readonly number[]>> = {
  2: [3, 9],
  3: [4, 2],
  4: [3, 11],
  6: [5, 7, 13],
  7: [1, 6],
  9: [1, 2],
  11: [3, 4],
  13: [5, 6],
  5: [1],
};

/** The pitch class that does in the new chord what this one did in the old; null when it was no chord note. */
function sameFunction(pitchClass: PitchClass, from: Chord, to: Chord): PitchClass | null {
  const root = pitchClassOf(from.root);
  const tone = from.tones.find((label) => modulo(root + semitonesOf(label), 12) === pitchClass);
  if (tone === undefined) return null;
  const wanted = [numberOf(tone), ...(STAND_INS[numberOf(tone)] ?? []), 1];
  const label =
    wanted.map((number) => to.tones.find((other) => numberOf(other) === number)).find((found) => found !== undefined) ??
    to.tones[0] ??
    '1';
  return modulo(pitchClassOf(to.root) + semitonesOf(label), 12);
}

/** The nearest free pitch of a set inside the limits, the lower of two equally near; null where there is none. */
function nearest(
  pitch: MidiNote,
  mask: PitchClassMask,
  { low, high }: FitLimits,
  taken: ReadonlySet<MidiNote>,
): MidiNote | null {
  const found = range(25)
    .map((step) => pitch + (step % 2 === 0 ? -step / 2 : (step + 1) / 2))
    .find(
      (candidate) =>
        candidate >= Math.min(low, pitch) &&
        candidate <= Math.max(high, pitch) &&
        inMask(mask, candidate) &&
        !taken.has(candidate),
    );
  return found ?? null;
}

const bassOf = (chord: Chord): PitchClass => pitchClassOf(chord.bass ?? chord.root);

function fitPitch(
  pitch: MidiNote,
  from: Chord | null,
  to: Chord | null,
  key: Key,
  limits: FitLimits,
  taken: ReadonlySet<MidiNote>,
): MidiNote | null {
  if (!to || (from && sameChord(from, to))) return pitch;
  const pitchClass = modulo(pitch, 12);
  const mask = chordMask(to);
  const one = (wanted: PitchClass): MidiNote | null => nearest(pitch, 1 << wanted, limits, taken);
  if (limits.role === 'bass' && from && pitchClass === bassOf(from))
    return one(bassOf(to)) ?? nearest(pitch, mask, limits, taken);
  // Single lines keep a note that the new chord has too.
  if (isLine(limits.role) && inMask(mask, pitch)) return pitch;
  const wanted = from ? sameFunction(pitchClass, from, to) : null;
  if (wanted !== null) {
    return one(wanted) ?? nearest(pitch, mask, limits, taken);
  }
  return nearest(pitch, keyMask(key) | mask, limits, taken);
}

/** Cuts a note where a chord begins that the old progression did not have, so that held accompaniment follows it. */
function cutAtNewChords(note: Note, from: readonly ChordSpan[], to: readonly ChordSpan[], role: Role): Note[] {
  // … and never cut one in two.
  if (isLine(role)) return [note];
  const old = new Set(from.map(({ start }) => start));
  const cuts = to
    .filter(
      ({ start, chord }) =>
        chord !== null && start > note.start && start < note.start + note.duration && !old.has(start),
    )
    .filter(({ chord }) => chord !== null && (role === 'bass' || !inMask(chordMask(chord), note.pitch)))
    .map(({ start }) => start);
  const edges = [note.start, ...cuts, note.start + note.duration];
  return edges
    .slice(1)
    .map((end, index) => ({ ...note, start: edges[index] as Ticks, duration: end - (edges[index] as Ticks) }));
}

/** Memoised by the identity of the notes and of the new chords: both never change. */
const known = new WeakMap<
  readonly Note[],
  WeakMap<readonly ChordSpan[], { readonly name: string; readonly notes: readonly Note[] }>
>();

/**
 * Moves a take's notes to other chords: each note to the same chord function, or to the nearest note of chord and
 * scale,
 * by least motion; the rhythm stays. Notes under chords that did not change stay as they are, and so do drums.
 *
 * @returns the same array when nothing has to move
 */
export function fitNotes(notes: readonly Note[], from: Harmony, to: Harmony, limits: FitLimits): readonly Note[] {
  if (isDrumRole(limits.role) || to.chords.length === 0) return notes;
  const name = `${limits.role} ${limits.low} ${limits.high} ${to.key.tonic} ${to.key.scale}`;
  const byChords =
    known.get(notes) ?? new WeakMap<readonly ChordSpan[], { readonly name: string; readonly notes: readonly Note[] }>();
  known.set(notes, byChords);
  const found = byChords.get(to.chords);
  if (found?.name === name) return found.notes;
  const fitted = move(notes, from, to, limits);
  const same =
    fitted.length === notes.length &&
    fitted.every((note, index) => note.pitch === notes[index]?.pitch && note.duration === notes[index].duration);
  const result = same ? notes : fitted;
  byChords.set(to.chords, { name, notes: result });
  return result;
}

function move(notes: readonly Note[], from: Harmony, to: Harmony, limits: FitLimits): Note[] {
  const pieces = notes
    .flatMap((note) => cutAtNewChords(note, from.chords, to.chords, limits.role))
    .sort((a, b) => a.start - b.start || a.pitch - b.pitch);
  const result: Note[] = [];
  let taken = new Set<MidiNote>();
  pieces.forEach((note, index) => {
    if (note.start !== pieces[index - 1]?.start) taken = new Set();
    const pitch = fitPitch(
      note.pitch,
      spanAt(from.chords, note.start)?.chord ?? null,
      spanAt(to.chords, note.start)?.chord ?? null,
      to.key,
      limits,
      taken,
    );
    // Two voices that would meet on one note become one.
    if (pitch === null || taken.has(pitch)) return;
    taken.add(pitch);
    result.push(pitch === note.pitch ? note : { ...note, pitch });
  });
  return result;
}

/**
 * Notes that rub against the chords: a semitone beside a chord note, on a beat, and no chord note themselves.
 *
 * @param onBeat  whether a moment, in ticks from the section's start, is a beat
 * @returns their places in the list
 */
export function clashes(
  notes: readonly Note[],
  chords: readonly ChordSpan[],
  onBeat: (at: Ticks) => boolean,
): number[] {
  return notes.flatMap(({ start, pitch }, index) => {
    const chord = onBeat(start) ? spanAt(chords, start)?.chord : null;
    if (!chord) return [];
    const mask = chordMask(chord);
    return !inMask(mask, pitch) && (inMask(mask, pitch + 1) || inMask(mask, pitch - 1)) ? [index] : [];
  });
}

import type { MidiNote } from '../theory/units';
import type { HeardNote } from './heard-note';

/** What one player plays among the notes that were heard. */
export interface HeardVoice {
  readonly plays: 'bass' | 'chords' | 'upper line' | 'single line';
  readonly notes: readonly HeardNote[];
}

/** Intervals above a note, in semitones, at which its overtones are taken for notes. */
const OVERTONES: ReadonlySet<number> = new Set([12, 19, 24, 28, 31, 36]);
/** Notes begin together within this, in seconds. */
const WITH = 0.06;
/** An overtone sounds no more surely than this share of its note among chords; in a line by itself, up to this one. */
const [AMONG_CHORDS, IN_A_LINE] = [0.82, 1.5] as const;
/** Notes sound together from so many seconds on. */
const TOGETHER = 0.08;
/** A line is single where so much of it sounds alone. */
const ALONE = 0.86;
/** A lowest note from here down is a bass, and a highest one from there up may be a tune. */
const [BASS_BELOW, UPPER_FROM] = [53, 62] as const;
/** An upper line moves by itself: so much of it is not struck together with chords below. */
const OF_ITS_OWN = 0.3;
/** Steps of a tune, in semitones. */
const LEAP = 9;

/**
 * Notes that are no overtones of others that begin with them.
 *
 * @param weaker  overtones sound no more surely than this share of what they belong to
 */
function withoutOvertones(notes: readonly HeardNote[], weaker: number): HeardNote[] {
  return notes.filter((note, index) => {
    for (const step of [-1, 1])
      for (let at = index + step; ; at += step) {
        const other = notes[at];
        if (!other || Math.abs(other.start - note.start) > WITH) break;
        if (
          OVERTONES.has(note.pitch - other.pitch) &&
          note.strength < weaker * other.strength &&
          note.end <= other.end + WITH
        )
          return false;
      }
    return true;
  });
}

/** Seconds for which a note sounds together with any other. */
function shared(notes: readonly HeardNote[]): number {
  let [sum, until] = [0, 0];
  for (const { start, end } of notes) {
    sum += Math.max(0, Math.min(until, end) - start);
    until = Math.max(until, end);
  }
  return sum;
}

/** One note after the other: what begins ends what sounds, and of what begins together the surest stays. */
function inLine(notes: readonly HeardNote[]): HeardNote[] {
  const line: HeardNote[] = [];
  for (const note of notes) {
    const last = line.at(-1);
    if (last && note.start - last.start < TOGETHER) {
      if (note.strength > last.strength) line[line.length - 1] = note;
    } else {
      if (last && last.end > note.start) line[line.length - 1] = { ...last, end: note.start };
      line.push(note);
    }
  }
  return line;
}

/**
 * Tells apart what is played: one line by itself, or a bass, chords and an upper line.
 *
 * @param heard  in order of their starts
 */
export function voicesOf(heard: readonly HeardNote[]): readonly HeardVoice[] {
  if (heard.length === 0) return [];
  const line = withoutOvertones(heard, IN_A_LINE);
  const sounding = line.reduce((sum, { start, end }) => sum + end - start, 0);
  if (shared(line) < (1 - ALONE) * sounding) return [{ plays: 'single line', notes: inLine(line) }];
  const notes = withoutOvertones(heard, AMONG_CHORDS);
  const strikes = strikesOf(notes);
  const [bass, upper, chords]: [HeardNote[], HeardNote[], HeardNote[]] = [[], [], []];
  for (const strike of strikes) {
    const [lowest, highest] = [strike[0], strike.at(-1)];
    for (const note of strike)
      if (note === lowest && note.pitch < BASS_BELOW) bass.push(note);
      else if (note === highest && note.pitch >= UPPER_FROM && isAbove(note, notes)) upper.push(note);
      else chords.push(note);
  }
  const alone = upper.filter((note) => !chords.some(({ start }) => Math.abs(start - note.start) < WITH)).length;
  const steps = upper.filter(({ pitch }, index) => Math.abs(pitch - (upper[index - 1]?.pitch ?? pitch)) <= LEAP).length;
  const isLine = upper.length > 0 && alone >= OF_ITS_OWN * upper.length && steps > 0.7 * upper.length;
  const rest = isLine ? chords : [...chords, ...upper].sort(inOrder);
  return [
    { plays: 'bass' as const, notes: inLine(bass) },
    { plays: 'chords' as const, notes: rest },
    { plays: 'upper line' as const, notes: isLine ? inLine(upper) : [] },
  ].filter((voice) => voice.notes.length > 0);
}

const inOrder = (a: HeardNote, b: HeardNote): number => a.start - b.start || a.pitch - b.pitch;

/** Notes that begin together, from low to high. */
function strikesOf(notes: readonly HeardNote[]): HeardNote[][] {
  const strikes: HeardNote[][] = [];
  for (const note of notes) {
    const last = strikes.at(-1);
    if (last?.[0] && note.start - last[0].start < WITH) last.push(note);
    else strikes.push([note]);
  }
  return strikes.map((strike) => strike.sort((a, b) => a.pitch - b.pitch));
}

/** Whether nothing higher sounds while a note begins. */
function isAbove(note: HeardNote, notes: readonly HeardNote[]): boolean {
  return !soundingAt(notes, note.start).some((other) => other.pitch > note.pitch);
}

/** Notes that began before a moment and still sound then; those that began long ago are looked for as far back as notes last. */
function soundingAt(notes: readonly HeardNote[], at: number): HeardNote[] {
  const found: HeardNote[] = [];
  for (let index = firstAfter(notes, at) - 1; index >= 0; index--) {
    const note = notes[index] as HeardNote;
    if (note.start < at - LONGEST) break;
    if (note.end > at + WITH) found.push(note);
  }
  return found;
}

/** No note that matters here sounds longer, in seconds. */
const LONGEST = 6;

function firstAfter(notes: readonly HeardNote[], at: number): number {
  let [low, high] = [0, notes.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((notes[middle] as HeardNote).start <= at) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** The middle of the pitches that are played. */
export const middlePitch = (notes: readonly HeardNote[]): MidiNote =>
  notes.map(({ pitch }) => pitch).sort((a, b) => a - b)[notes.length >> 1] ?? 60;

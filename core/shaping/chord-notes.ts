import type { ChordSpan, Note } from '../song/schema';
import { withoutHand } from '../song/chord-hand';
import type { Notes } from './room';

/** The chord line as single notes: what is shaped of them is kept with the chords that they begin in. */

const inside = (notes: readonly Note[], { start, duration }: ChordSpan): Note[] =>
  notes.filter((note) => note.start >= start && note.start < start + duration);

/** What tells the notes of a chord from others, nudges of a roll left aside. */
const textOf = (notes: readonly Note[]): string =>
  JSON.stringify(notes.map(({ start, duration, pitch, velocity }) => [start, duration, pitch, velocity]));

/**
 * Chords with the notes that an edit gave them: those that it changed strike their notes as they are now, the others go
 * on in their rhythm. What begins where there is no chord, or before the section, is left out.
 *
 * @param before  the notes of the chord line before the edit
 */
export const chordsWithNotes = (chords: readonly ChordSpan[], before: Notes, after: readonly Note[]): ChordSpan[] =>
  chords.map((span): ChordSpan => {
    const [was, now] = [inside(before, span), inside(after, span)];
    if (!span.chord || textOf(was) === textOf(now)) return span;
    const notes = now.map(({ start, duration, pitch, velocity }) => ({
      at: start - span.start,
      duration,
      pitch,
      velocity,
    }));
    return { ...span, voicing: { ...withoutHand(span.voicing ?? {}), notes } };
  });

/** Chords of which some go back to their rhythm and their voicing. */
export const chordsByThemselves = (chords: readonly ChordSpan[], touched: (span: ChordSpan) => boolean): ChordSpan[] =>
  chords.map((span) => (span.voicing?.notes && touched(span) ? { ...span, voicing: withoutHand(span.voicing) } : span));

import type { ChordSpan, Note } from '../song/schema';
import { chordMask } from '../theory/chord';
import { coloursOver } from '../theory/colour';
import { metricalWeight, WEIGHT, type Metre } from '../theory/metre';
import { inMask } from '../theory/pitch';
import { chordFinder } from './chord-finder';

/** What a note of a line does against its chord. */
export type NoteRole =
  | 'chord note'
  | 'passing'
  | 'neighbour'
  | 'suspension'
  | 'anticipation'
  | 'appoggiatura'
  | 'colour'
  | 'escape'
  | 'free';

const isStep = (interval: number): boolean => Math.abs(interval) >= 1 && Math.abs(interval) <= 2;

/** The nearest note before or after a place that stands on another pitch. */
function otherPitch(notes: readonly Note[], index: number, way: -1 | 1): Note | undefined {
  let at = index + way;
  while (notes[at] && notes[at]?.pitch === notes[index]?.pitch) at += way;
  return notes[at];
}

/**
 * The role of every note of a single line, by how it is reached and left (the usual terms of non-chord tones in
 * counterpoint). Notes struck again before they move on count as one. A suspension was prepared: it belonged to the
 * chord in which it was struck before; what colours a chord and does not move on by step is a colour.
 */
export function noteRoles(notes: readonly Note[], chords: readonly ChordSpan[], metre: Metre): NoteRole[] {
  const chordAt = chordFinder(chords);
  const belongs = (note: Note): boolean => {
    const chord = chordAt(note.start);
    return chord === null || inMask(chordMask(chord), note.pitch);
  };
  return notes.map((note, index): NoteRole => {
    const chord = chordAt(note.start);
    if (!chord || belongs(note)) return 'chord note';
    const [struckBefore, struckAfter] = [notes[index - 1], notes[index + 1]];
    const [before, after] = [otherPitch(notes, index, -1), otherPitch(notes, index, 1)];
    const from = before ? note.pitch - before.pitch : null;
    const to = after ? after.pitch - note.pitch : null;
    const strong = metricalWeight(metre, note.start) >= WEIGHT.beat;
    const onward = to !== null && isStep(to);
    const coming = struckAfter ? chordAt(struckAfter.start) : null;
    if (struckAfter?.pitch === note.pitch && coming && coming !== chord && belongs(struckAfter)) return 'anticipation';
    const prepared =
      struckBefore?.pitch === note.pitch && belongs(struckBefore) && chordAt(struckBefore.start) !== chord;
    if (prepared && strong && onward) return 'suspension';
    if (from !== null && isStep(from) && onward) {
      if (Math.sign(from) === Math.sign(to)) return 'passing';
      return after?.pitch === before?.pitch ? 'neighbour' : strong ? 'appoggiatura' : 'neighbour';
    }
    if (onward) return 'appoggiatura';
    if (inMask(coloursOver(chord), note.pitch)) return 'colour';
    return from !== null && isStep(from) ? 'escape' : 'free';
  });
}

/** The roles of a line in words, the most frequent first: “14 chord notes, 3 passing, 1 suspension”. */
export function sayRoles(roles: readonly NoteRole[]): string {
  const counts = new Map<NoteRole, number>();
  for (const role of roles) counts.set(role, (counts.get(role) ?? 0) + 1);
  const plural: Readonly<Partial<Record<NoteRole, string>>> = {
    'chord note': 'chord notes',
    neighbour: 'neighbours',
    suspension: 'suspensions',
    anticipation: 'anticipations',
    appoggiatura: 'appoggiaturas',
    colour: 'colours',
    escape: 'escapes',
  };
  return [...counts]
    .sort((a, b) => b[1] - a[1])
    .map(([role, count]) => `${count} ${count === 1 ? role : (plural[role] ?? role)}`)
    .join(', ');
}

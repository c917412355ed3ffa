import type { ChordSpan, Note } from '../song/schema';
import { chordMask } from '../theory/chord';
import { metricalWeight, WEIGHT, type Metre } from '../theory/metre';
import { inMask } from '../theory/pitch';

/** What a note of a line does against its chord. */
export type NoteRole =
  'chord note' | 'passing' | 'neighbour' | 'suspension' | 'anticipation' | 'appoggiatura' | 'escape' | 'free';

const isStep = (interval: number): boolean => Math.abs(interval) >= 1 && Math.abs(interval) <= 2;

/**
 * The role of every note of a single line, by how it is reached and left (the usual terms of non-chord tones in
 * counterpoint).
 */
export function noteRoles(notes: readonly Note[], chords: readonly ChordSpan[], metre: Metre): NoteRole[] {
  const chordAt = (at: number) => chords.findLast(({ start }) => start <= at)?.chord ?? null;
  return notes.map((note, index): NoteRole => {
    const chord = chordAt(note.start);
    if (!chord || inMask(chordMask(chord), note.pitch)) return 'chord note';
    const [before, after] = [notes[index - 1], notes[index + 1]];
    const from = before ? note.pitch - before.pitch : null;
    const to = after ? after.pitch - note.pitch : null;
    const strong = metricalWeight(metre, note.start) >= WEIGHT.beat;
    const coming = after ? chordAt(after.start) : null;
    if (to === 0 && coming && coming !== chord && inMask(chordMask(coming), note.pitch)) return 'anticipation';
    if (from === 0 && strong && to !== null && isStep(to)) return 'suspension';
    if (from !== null && to !== null && isStep(from) && isStep(to)) {
      if (Math.sign(from) === Math.sign(to)) return 'passing';
      return after?.pitch === before?.pitch ? 'neighbour' : strong ? 'appoggiatura' : 'neighbour';
    }
    if ((from === null || !isStep(from)) && to !== null && isStep(to)) return 'appoggiatura';
    if (from !== null && isStep(from)) return 'escape';
    return 'free';
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
    escape: 'escapes',
  };
  return [...counts]
    .sort((a, b) => b[1] - a[1])
    .map(([role, count]) => `${count} ${count === 1 ? role : (plural[role] ?? role)}`)
    .join(', ');
}

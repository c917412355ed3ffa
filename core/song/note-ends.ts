import type { Note } from './music-schema';

/** The order of notes in time, the lower first where they start together. */
export const byStart = (a: Pick<Note, 'start' | 'pitch'>, b: Pick<Note, 'start' | 'pitch'>): number =>
  a.start - b.start || a.pitch - b.pitch;

/**
 * Notes of which each ends before the same pitch starts again.
 *
 * @param notes  in order of their starts
 * @param stays  which of two notes that start together on one pitch
 */
export function endsApart<N extends Note>(notes: readonly N[], stays: (before: N, after: N) => N): N[] {
  const last = new Map<number, number>();
  const result: N[] = [];
  for (const note of notes) {
    const at = last.get(note.pitch);
    const before = at === undefined ? undefined : result[at];
    if (at !== undefined && before?.start === note.start) {
      result[at] = stays(before, note);
      continue;
    }
    if (at !== undefined && before && before.start + before.duration > note.start)
      result[at] = { ...before, duration: note.start - before.start };
    last.set(note.pitch, result.length);
    result.push(note);
  }
  return result;
}

import { struckTogether } from '../song/voices';
import { fitNotes } from '../song/fit';
import type { OwnPhrase } from '../song/own-phrase';
import type { Brief, ChordSpan, Ground, Note } from '../song/schema';
import { keyOf } from '../song/ground';
import { range, SIXTEENTH, type Ticks } from '../theory/units';
import type { Phrase, PhraseTurn } from './phrase';

/** A phrase of one's own as the collection lists it. */
export function listed(own: OwnPhrase): Phrase {
  const starts = [...new Set(own.notes.map(({ start }) => start))];
  return {
    id: own.id,
    name: own.name,
    family: 'own',
    role: own.role,
    figure: {},
    brief: {},
    own,
    busyness: (starts.length * 1920) / own.length,
    onsets: [...new Set(starts.filter((start) => start < own.bar).map((start) => Math.round(start / SIXTEENTH)))],
  };
}

/** Where a phrase lies against a register: whole octaves up or down that bring its middle nearest to the register's. */
function octavesTo(notes: readonly Note[], { low, high }: Pick<Brief, 'low' | 'high'>): number {
  const middle = notes.reduce((sum, { pitch }) => sum + pitch, 0) / notes.length;
  return 12 * Math.round(((low + high) / 2 - middle) / 12);
}

/** A note for each place of a stack: fewer leave out the inner ones first. */
function thinned(notes: readonly Note[]): Note[] {
  const stacks = struckTogether(notes, ({ start }) => start);
  const chordal = stacks.some((stack) => stack.length > 1);
  // A line has no stacks: every other short note goes.
  return stacks.flatMap((stack, index) =>
    chordal ? (stack.length > 1 ? [...stack.slice(0, 1), ...stack.slice(2)] : stack) : index % 2 === 0 ? stack : [],
  );
}

/** Every note doubled an octave above. */
const doubled = (notes: readonly Note[]): Note[] =>
  notes.flatMap((note) =>
    note.pitch <= 108 ? [note, { ...note, pitch: note.pitch + 12, velocity: Math.max(1, note.velocity - 10) }] : [note],
  );

/**
 * Plays a phrase of one's own over other chords: said again until the section is full, every note moved to what it was
 * in its own chord.
 *
 * @param where     the section's ground and length in ticks
 * @param register  of the part that plays it; null leaves the phrase where it lies
 * @returns notes in order of their starts
 */
export function playOwnPhrase(
  own: OwnPhrase,
  where: { readonly ground: Ground; readonly length: Ticks },
  chords: readonly ChordSpan[],
  turn: PhraseTurn,
  register: Pick<Brief, 'low' | 'high'> | null,
): Note[] {
  const paced = <T extends { readonly start: Ticks; readonly duration: Ticks }>(items: readonly T[]): T[] =>
    items.map((item) => ({
      ...item,
      start: Math.round(item.start / turn.speed),
      duration: Math.max(1, Math.round(item.duration / turn.speed)),
    }));
  const length = Math.round(own.length / turn.speed);
  const full = turn.fullness > 0 ? doubled(own.notes) : turn.fullness < 0 ? thinned(own.notes) : own.notes;
  const shift = (register ? octavesTo(own.notes, register) : 0) + 12 * turn.octave;
  const rounds = range(Math.ceil(where.length / length));
  const said = <T extends { readonly start: Ticks; readonly duration: Ticks }>(items: readonly T[]): T[] =>
    rounds
      .flatMap((round) => items.map((item) => ({ ...item, start: item.start + round * length })))
      .filter(({ start }) => start < where.length)
      .map((item) => ({ ...item, duration: Math.min(item.duration, where.length - item.start) }));
  const notes = said(paced(full)).map((note) => ({ ...note, pitch: Math.max(0, Math.min(127, note.pitch + shift)) }));
  if (own.chords.every(({ chord }) => chord === null))
    return notes.sort((a, b) => a.start - b.start || a.pitch - b.pitch);
  const from = { chords: said(paced(own.chords)), key: { tonic: own.tonic, scale: own.scale } };
  const moved = fitNotes(
    notes,
    from,
    { chords, key: keyOf(where.ground) },
    { role: own.role, low: register?.low ?? 0, high: register?.high ?? 127 },
  );
  return [...moved].sort((a, b) => a.start - b.start || a.pitch - b.pitch);
}

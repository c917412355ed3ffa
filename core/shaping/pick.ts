import type { MidiNote, Ticks } from '../theory/units';
import { endOf, type Ids, type Notes } from './room';

/** Which notes are meant. */

const idsOf = (notes: Notes): Ids => new Set(notes.map(({ id }) => id));

export const ofPitch = (notes: Notes, pitches: ReadonlySet<MidiNote>): Ids =>
  idsOf(notes.filter(({ pitch }) => pitches.has(pitch)));

/** What starts in a stretch, its end not included. */
export const startingIn = (notes: Notes, from: Ticks, to: Ticks): Ids =>
  idsOf(notes.filter(({ start }) => start >= from && start < to));

/** What a box over time and pitch touches. */
export const inBox = (
  notes: Notes,
  box: { readonly from: Ticks; readonly to: Ticks; readonly low: MidiNote; readonly high: MidiNote },
): Ids =>
  idsOf(
    notes.filter(
      (note) => note.start < box.to && endOf(note) > box.from && note.pitch >= box.low && note.pitch <= box.high,
    ),
  );

export const everyOne = (notes: Notes): Ids => idsOf(notes);

import { TICKS_PER_QUARTER, type Ticks } from '../theory/units';
import type { Note } from './schema';

/** How much is to be seen before a section's first bar: whole quarters, none where nothing leads in. */
export function leadOf(notes: readonly Pick<Note, 'start'>[]): Ticks {
  const earliest = notes.reduce((least, { start }) => Math.min(least, start), 0);
  return Math.ceil((0 - earliest) / TICKS_PER_QUARTER) * TICKS_PER_QUARTER;
}

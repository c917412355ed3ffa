import type { Note } from '../../song/schema';
import { inMask } from '../../theory/pitch';
import { clamp, TICKS_PER_QUARTER, type MidiNote } from '../../theory/units';
import { happens, pickIndex, type Random } from '../../trellis/random';
import type { PartContext } from '../context';

/** Notes of a pick-up. */
const MOST = 3;
/** How much softer than the note that it leads to a pick-up begins. */
const SOFTER = 12;

/** The next note of the scale from a pitch, upwards or downwards, inside the register; null beyond it. */
function stepFrom(pitch: MidiNote, direction: 1 | -1, { brief, keyMask }: PartContext): MidiNote | null {
  for (let next = pitch + direction; next >= brief.low && next <= brief.high; next += direction)
    if (inMask(keyMask, next)) return next;
  return null;
}

/**
 * Notes before the section's first bar line that step along the scale into its first note, more often from below; none
 * where the line does not begin on the first beat or no room is left in the register.
 *
 * @param first  the line's first note
 * @returns notes at negative starts, in order
 */
export function drawPickUp(first: Note | undefined, context: PartContext, random: Random): Note[] {
  const { barTicks } = context;
  if (!first || first.start < 0 || first.start >= TICKS_PER_QUARTER) return [];
  const step = TICKS_PER_QUARTER / 2;
  const count = 1 + pickIndex(random, MOST);
  const below = happens(random, 65);
  const lead = (direction: 1 | -1): MidiNote[] => {
    const pitches: MidiNote[] = [];
    for (
      let from = stepFrom(first.pitch, direction, context);
      from !== null && pitches.length < count;
      from = stepFrom(from, direction, context)
    )
      pitches.unshift(from);
    return pitches;
  };
  const wished = lead(below ? -1 : 1);
  const pitches = wished.length > 0 ? wished : lead(below ? 1 : -1);
  return pitches
    .map((pitch, index): Note => {
      const before = pitches.length - index;
      return {
        start: first.start - before * step,
        duration: step - 20,
        pitch,
        velocity: clamp(first.velocity - Math.round((SOFTER * before) / MOST), 1, 127),
      };
    })
    .filter(({ start }) => start < 0 && start >= -barTicks);
}

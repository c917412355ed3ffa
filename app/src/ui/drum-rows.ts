import type { MidiNote } from '@fendro/core/theory/units';

/** The drums of a kit from the top of a picture down: cymbals, hats, toms, snares, kicks. */
const FROM_THE_TOP: readonly MidiNote[] = [49, 46, 51, 54, 42, 70, 44, 50, 47, 43, 37, 39, 38, 36];

/** Drums in the order of their rows; those of no place of their own at the foot. */
export function inDrumOrder(pitches: Iterable<MidiNote>): MidiNote[] {
  const struck = [...new Set(pitches)].sort((a, b) => b - a);
  return [
    ...FROM_THE_TOP.filter((pitch) => struck.includes(pitch)),
    ...struck.filter((pitch) => !FROM_THE_TOP.includes(pitch)),
  ];
}

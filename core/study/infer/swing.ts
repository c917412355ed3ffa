import { beatsOf, type Metre } from '../../theory/metre';
import { clamp, modulo, TICKS_PER_QUARTER, type Percent, type Ticks } from '../../theory/units';

/** Where second halves of beats are struck, whether they swing or not: sixteenths lie outside. */
const [EARLIEST, LATEST]: readonly [Ticks, Ticks] = [200, 345];
/** Fewer say nothing. */
const FEWEST = 12;
/** The middle half of them lies within this where they are struck alike. */
const ALIKE: Ticks = 50;
/** Hands that are late by less do not swing. */
const LEAST: Percent = 15;
/** By how much a full swing, on the last triplet, is later than the half. */
const FULL: Ticks = TICKS_PER_QUARTER / 6;

/**
 * How far music swings, by where the second halves of its quarters are struck: their middle, if they agree.
 *
 * @param starts  of notes, in ticks from a bar line
 * @returns 0 where it is straight, where beats have thirds, or where it cannot be told; 100 on the last triplet
 */
export function inferSwing(starts: readonly Ticks[], metre: Metre): Percent {
  if (beatsOf(metre).some(({ division }) => division === 3)) return 0;
  const halves = starts
    .map((start) => modulo(start, TICKS_PER_QUARTER))
    .filter((at) => at >= EARLIEST && at <= LATEST)
    .sort((a, b) => a - b);
  if (halves.length < FEWEST) return 0;
  const at = (share: number): Ticks => halves[Math.floor(share * (halves.length - 1))] as Ticks;
  if (at(0.75) - at(0.25) > ALIKE) return 0;
  const swing = Math.round((100 * (at(0.5) - TICKS_PER_QUARTER / 2)) / FULL);
  return swing < LEAST ? 0 : clamp(swing, 0, 100);
}

import { metricalWeight, WEIGHT } from '../theory/metre';
import { clamp, type Percent, type Ticks, type Velocity } from '../theory/units';
import type { DraftContext } from './context';
import { between, type Random } from '../trellis/random';

/** How much louder each metrical weight is struck. */
const ACCENT: Readonly<Record<number, number>> = {
  [WEIGHT.bar]: 9,
  [WEIGHT.strong]: 5,
  [WEIGHT.beat]: 2,
  [WEIGHT.division]: -4,
  [WEIGHT.subdivision]: -9,
  [WEIGHT.finer]: -10,
};

/**
 * Velocities for a row of onsets: loudness, metrical accents, and a drift in which neighbours resemble each other (an
 * autoregressive walk), as players do; white noise sounds like a machine.
 *
 * @param accents  velocity added to single onsets
 */
export function drawVelocities(
  starts: readonly Ticks[],
  loudness: Velocity,
  context: DraftContext & { readonly brief: { readonly dynamics?: Percent } },
  random: Random,
  accents?: readonly number[],
): Velocity[] {
  // Half is what a lively player does; nothing strays at 0 %.
  const reach = (context.brief.dynamics ?? 50) / 50;
  let drift = 0;
  return starts.map((start, index) => {
    drift = 0.7 * drift + between(random, -4, 4);
    const accent = ACCENT[metricalWeight(context.metre, start)] ?? 0;
    return clamp(Math.round(loudness + reach * (accent + drift) + (accents?.[index] ?? 0)), 1, 127);
  });
}

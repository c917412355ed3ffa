import { STAGES, type Attempts, type Stage } from '../song/schema';
import { stream, type Random, type StreamLabel } from '../trellis/random';

/**
 * A draft is plan, rhythm, pitch and dynamics, in this order. Each stage draws from streams of its own, by an attempt of
 * its own: when one of them is drawn again, the others come out as they were.
 */

/** Draws for one stage; another label is another stream of the same stage, the same label goes on where it was. */
export type Streams = (stage: Stage, label?: StreamLabel) => Random;

/**
 * The streams of one draft.
 *
 * @param line  what is drafted, so that lines of one seed do not draw alike
 */
export function streamsOf(seed: number, line: string, attempts: Attempts): Streams {
  const known = new Map<string, Random>();
  return (stage, label = '') => {
    const name = `${stage} ${label}`;
    const random = known.get(name) ?? stream(seed, line, stage, label, attempts[stage]);
    known.set(name, random);
    return random;
  };
}

/**
 * The attempts of one draw.
 *
 * @param attempt  of every stage that keeps none
 * @param kept     stages that stay at an attempt of their own
 */
export const attemptsAt = (attempt: number, kept: Partial<Attempts> = {}): Attempts => ({
  plan: attempt,
  rhythm: attempt,
  pitch: attempt,
  dynamics: attempt,
  ...kept,
});

/** The first attempt that is new to every stage, after some takes of a line. */
export const nextAttempt = (drawn: readonly { readonly attempts: Attempts | null }[]): number =>
  drawn.reduce(
    (next, { attempts }) => (attempts ? Math.max(next, ...STAGES.map((stage) => attempts[stage] + 1)) : next),
    0,
  );

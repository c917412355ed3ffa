import type { Note } from '../../song/schema';
import type { PartContext, PartDraft } from '../context';
import { drawVelocities } from '../dynamics';

import { stream, type Random } from '../../trellis/random';
import { drawPickUp } from './pickup';
import { drawPitches } from './pitch';
import { drawPlan } from './plan';
import { drawRhythm } from './rhythm';

/**
 * Drafts a melody: phrase plan, rhythm, pitches, dynamics, each from a stream of its own.
 */
export function draftMelody(context: PartContext, seed: number, attempt: number): PartDraft {
  const streams = new Map<string, Random>();
  const streamOf =
    (stage: string) =>
    (label: string): Random => {
      const name = `${stage} ${label}`;
      const random = streams.get(name) ?? stream(seed, 'melody', stage, label, attempt);
      streams.set(name, random);
      return random;
    };
  const plan = drawPlan(context, stream(seed, 'melody', 'plan', attempt));
  const rhythm = drawRhythm(context, plan, streamOf('rhythm'));
  const pitches = drawPitches(context, rhythm, plan, streamOf('pitch'));
  if (!Array.isArray(pitches)) return pitches;
  const middle = (context.brief.low + context.brief.high) / 2;
  const swell = pitches.map((pitch) => Math.round((pitch - middle) * 0.6));
  const velocities = drawVelocities(
    rhythm.map(({ start }) => start),
    context.brief.loudness,
    context,
    stream(seed, 'melody', 'dynamics', attempt),
    swell,
  );
  const notes = rhythm.map(({ start, duration }, index): Note => ({
    start,
    duration,
    pitch: pitches[index] as number,
    velocity: velocities[index] as number,
  }));
  return { ok: true, notes: [...drawPickUp(notes[0], context, stream(seed, 'melody', 'pickup', attempt)), ...notes] };
}

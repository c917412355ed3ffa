import type { Note } from '../../song/schema';
import type { PartContext, PartDraft, Unmet } from '../context';
import { drawVelocities } from '../dynamics';
import type { HeldStroke } from '../held';
import { asHeld } from '../held-line';
import type { Streams } from '../stages';
import { happens } from '../../trellis/random';
import { drawPickUp } from './pickup';
import { drawPitches } from './pitch';
import { drawPlan } from './plan';
import { drawRhythm } from './rhythm';

/** A note of a line and what is held of it. */
interface LineNote {
  readonly note: Note;
  readonly stroke: HeldStroke | null;
}

/**
 * Draws the one line of a melody: phrase plan, rhythm, pitches, dynamics, each from streams of its own, around what is
 * held. Of held notes that are struck together the highest belongs to the line.
 */
export function drawLine(context: PartContext, streams: Streams): readonly LineNote[] | Unmet {
  const plan = drawPlan(context, streams('plan'));
  // A first bar that is held keeps what leads into it, or that nothing does.
  const ledIn = !context.held.bars.has(0) && happens(streams('rhythm', 'pick-up'), context.brief.pickup);
  const rhythm = drawRhythm(context, plan, (label) => streams('rhythm', label), ledIn);
  const pitches = drawPitches(context, rhythm, plan, (label) => streams('pitch', label));
  if (!Array.isArray(pitches)) return pitches;
  const middle = (context.brief.low + context.brief.high) / 2;
  const swell = pitches.map((pitch) => Math.round((pitch - middle) * 0.6));
  const velocities = drawVelocities(
    rhythm.map(({ start }) => start),
    context.brief.loudness,
    context,
    streams('dynamics'),
    swell,
  );
  const line = rhythm.map(({ start, duration, stroke }, index): LineNote => ({
    note: { start, duration, pitch: pitches[index] as number, velocity: velocities[index] as number },
    stroke,
  }));
  const pickUp = ledIn ? drawPickUp(line[0]?.note, context, streams('rhythm', 'pick-up')) : [];
  return [...pickUp.map((note) => ({ note, stroke: null })), ...line];
}

/** Drafts a melody. */
export function draftMelody(context: PartContext, streams: Streams): PartDraft {
  const line = drawLine(context, streams);
  return 'ok' in line ? line : { ok: true, notes: line.flatMap(({ note, stroke }) => asHeld(note, stroke)) };
}

import type { Note } from '../song/schema';
import { chordMask } from '../theory/chord';
import { metricalWeight, WEIGHT } from '../theory/metre';
import { inMask } from '../theory/pitch';
import { modulo, range, type MidiNote, type Ticks } from '../theory/units';
import { pickWeighted, type Random } from '../trellis/random';
import { FORBIDDEN, isDeadEnd, linkLayers, pathSampler, type Links } from '../trellis/trellis';
import { temperatureOf } from '../trellis/weights';
import { chordAt, degreeShare, unmet, type PartContext, type PartDraft } from './context';
import { drawVelocities } from './dynamics';
import { asHeld, heldTop, keptLayer, latestEnd, leaningAt, placesAround, withHeldPitches } from './held-line';
import type { Streams } from './stages';
import { draftMelody } from './melody/melody';
import { drawBar } from './strokes';
import { lengthened, soundingLength } from './melody/rhythm';

/** The line that is answered: the lead among the takes that are listened to. */
const leadOf = ({ beside }: PartContext): readonly Note[] => beside[0]?.notes ?? [];

const soundingAt = (notes: readonly Note[], at: Ticks): Note | undefined =>
  notes.findLast(({ start, duration }) => start <= at && at < start + duration);

/** Onsets where the lead rests or holds: a place at which the lead moves is less likely the more it moves. */
function drawStarts(context: PartContext, lead: readonly Note[], random: Random): Ticks[] {
  const { bars, barTicks, brief, metre } = context;
  const taken = new Set(lead.map(({ start }) => start));
  return range(bars).flatMap((bar) => {
    const line = bar * barTicks;
    const moves = lead.filter(({ start }) => start >= line && start < line + barTicks).length;
    // A bar in which the lead is busy is answered sparsely, one in which it rests is filled.
    const count = Math.max(1, Math.round(brief.busyness * (moves === 0 ? 1.3 : moves >= 5 ? 0.6 : 1)));
    const pool = drawBar(metre, count * 2, brief, random);
    const left = pool.map(
      (at) => [at, taken.has(line + at) && metricalWeight(metre, at) < WEIGHT.bar ? 1 : 4] as const,
    );
    const chosen: Ticks[] = [];
    let open = left;
    while (chosen.length < count && open.length > 0) {
      const at = pickWeighted(random, open);
      chosen.push(at);
      open = open.filter(([other]) => other !== at);
    }
    return chosen.sort((a, b) => a - b).map((at) => line + at);
  });
}

const PERFECT = new Set([0, 7]);
const IMPERFECT = new Set([3, 4, 8, 9]);

/** The price of an interval against the lead, in hundredths of a nat. */
function againstLead(pitch: MidiNote, lead: MidiNote | undefined, strong: boolean): number {
  if (lead === undefined) return 0;
  const distance = Math.abs(pitch - lead);
  const interval = modulo(distance, 12);
  if (distance < 3) return -320;
  if (IMPERFECT.has(interval)) return 40;
  if (PERFECT.has(interval)) return strong ? -10 : 0;
  return strong ? -230 : -40;
}

/**
 * Drafts a line that answers another (the take it is drafted beside): consonant with it on strong beats, against its
 * motion rather than along with it, never in parallel fifths or octaves, moving where the other rests (two-part
 * counterpoint of the third species, softened; Fux, 1725).
 */
export function draftCounter(context: PartContext, streams: Streams): PartDraft {
  const lead = leadOf(context);
  if (lead.length === 0) return draftMelody(context, streams);
  const { brief, keyMask, metre, length } = context;
  const places = placesAround(drawStarts(context, lead, streams('rhythm')), context, streams('rhythm', 'held'));
  const starts = places.map(({ start }) => start);
  const held = places.map(heldTop);
  const own = range(brief.high - brief.low + 1)
    .map((step) => brief.low + step)
    .filter((pitch) => inMask(keyMask, pitch) && degreeShare(context, pitch) > 0);
  const pitches = withHeldPitches(own, held);
  if (pitches.length === 0)
    return unmet('register', 'The register holds no note of the scale. Widen it by a few notes.');
  const centre = (brief.low + brief.high) / 2;
  const leads = starts.map((start) => soundingAt(lead, start)?.pitch);
  const layers = starts.map((start, index) => {
    const strong = metricalWeight(metre, start) >= WEIGHT.beat;
    const chord = chordAt(context.chords, start);
    const layer = Int32Array.from(pitches, (pitch) => {
      const consonant = chord === null || inMask(chordMask(chord), pitch);
      const dissonance = consonant
        ? 0
        : -Math.round((strong ? 1 : 0.25) * (60 + brief.anchoring * 4.5) * (1.2 - brief.adventure / 100));
      return dissonance + againstLead(pitch, leads[index], strong) - Math.round(1.2 * Math.abs(pitch - centre));
    });
    return keptLayer(layer, pitches, new Set(own), held[index] ?? null, leaningAt(context.held, start));
  });
  const links = starts.slice(1).map((_, index): Links => {
    const [before, after] = [leads[index], leads[index + 1]];
    const given = held[index] !== null || held[index + 1] !== null;
    const motion = before === undefined || after === undefined ? 0 : Math.sign(after - before);
    return linkLayers(pitches.length, pitches.length, (from, to) => {
      const [a, b] = [pitches[from] as MidiNote, pitches[to] as MidiNote];
      const size = Math.abs(b - a);
      if (size > 9 && !given) return FORBIDDEN;
      const own = Math.sign(b - a);
      if (motion !== 0 && own === motion && before !== undefined && after !== undefined) {
        const [was, is] = [modulo(a - before, 12), modulo(b - after, 12)].map((interval) =>
          Math.min(interval, 12 - interval),
        );
        if (was === is && (is === 0 || is === 5) && !given) return FORBIDDEN;
      }
      const along = motion === 0 || own === 0 ? 0 : own === motion ? -50 : 45;
      const restless = Math.max(0, brief.stride - 50) * 1.6;
      const leap =
        size === 0
          ? -110
          : size <= 2
            ? -Math.round(restless)
            : -Math.round((30 + size * 24) * (1.85 - brief.stride / 58));
      return along + leap;
    });
  });
  const sampler = pathSampler({ layers, links }, temperatureOf(brief.adventure));
  if (isDeadEnd(sampler))
    return unmet(
      'register',
      `No line answers bar ${Math.floor((starts[sampler.deadEnd] ?? 0) / context.barTicks) + 1} in this register. Widen it by a few notes.`,
    );
  const path = sampler.draw(streams('pitch'));
  const velocities = drawVelocities(starts, brief.loudness, context, streams('dynamics'));
  const breath = streams('rhythm', 'breath');
  const sung = (gap: Ticks, closing: boolean): Ticks =>
    Math.max(60, Math.min(Math.round(gap * 0.9), soundingLength(gap, closing, brief.breath, breath)));
  const notes = places.flatMap(({ start, stroke }, index): Note[] => {
    const gap = latestEnd(start, starts[index + 1] ?? length, context) - start;
    const note = {
      start,
      duration: lengthened(sung(gap, index === places.length - 1), gap, brief.length),
      pitch: pitches[path[index] as number] as MidiNote,
      velocity: velocities[index] as number,
    };
    return asHeld(note, stroke);
  });
  return { ok: true, notes };
}

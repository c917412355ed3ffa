import type { Ticks } from '@fendro/core/theory/units';
import { withoutOverlaps, type Click, type SoundingNote, type Timeline } from '@fendro/core/sounding/timeline';
import { EVENT } from '../../worklets/protocol';

/** A stretch of the running order that has been queued: its first frame and the ticks that it plays. */
export interface Pass {
  readonly frame: number;
  readonly from: Ticks;
  readonly to: Ticks;
  /** The tempo, as the audio thread counts it. */
  readonly framesPerTick: number;
}

export const frameAt = (pass: Pass, tick: Ticks): number =>
  Math.round(pass.frame + (tick - pass.from) * pass.framesPerTick);

export const endFrame = (pass: Pass): number => frameAt(pass, pass.to);

/** The tick that sounds at a frame, by the last pass that has begun; null before the first. */
export function tickAt(passes: readonly Pass[], frame: number): Ticks | null {
  const pass = passes.findLast((candidate) => candidate.frame <= frame);
  return pass ? Math.min(pass.to, pass.from + (frame - pass.frame) / pass.framesPerTick) : null;
}

/** One event before it is packed. */
export interface Queued {
  readonly frame: number;
  readonly kind: number;
  readonly channel: number;
  readonly a: number;
  readonly b: number;
}

/** Releases before new notes at the same frame. */
const RANK: Readonly<Record<number, number>> = {
  [EVENT.release]: 0,
  [EVENT.noteOff]: 1,
  [EVENT.program]: 2,
  [EVENT.controller]: 2,
  [EVENT.noteOn]: 3,
};

/** Events in the flat form that the audio thread reads. */
export function pack(events: readonly Queued[]): Float64Array {
  const sorted = [...events].sort((x, y) => x.frame - y.frame || (RANK[x.kind] ?? 0) - (RANK[y.kind] ?? 0));
  const flat = new Float64Array(sorted.length * 5);
  sorted.forEach(({ frame, kind, channel, a, b }, index) => flat.set([frame, kind, channel, a, b], index * 5));
  return flat;
}

/**
 * Notes as events of one pass.
 *
 * @param cut  true in a loop, where nothing may ring past the pass
 */
export function noteEvents(
  notes: readonly SoundingNote[],
  pass: Pass,
  channels: ReadonlyMap<string, number>,
  cut: boolean,
): Queued[] {
  return withoutOverlaps(notes).flatMap(({ part, start, end, pitch, velocity }): Queued[] => {
    const channel = channels.get(part);
    if (channel === undefined) return [];
    const on = frameAt(pass, Math.max(start, pass.from));
    const off = Math.max(on + 1, frameAt(pass, cut ? Math.min(end, pass.to) : end));
    return [
      { frame: on, kind: EVENT.noteOn, channel, a: pitch, b: velocity },
      { frame: off, kind: EVENT.noteOff, channel, a: pitch, b: 0 },
    ];
  });
}

/** What a timeline sounds in a pass, with what is already sounding when it begins. */
export const timelineEvents = (
  { notes, chase }: Timeline,
  pass: Pass,
  channels: ReadonlyMap<string, number>,
  cut: boolean,
): Queued[] => noteEvents([...chase, ...notes], pass, channels, cut);

/**
 * The first moment of a pass that can still be reached.
 *
 * @param places    moments at which a change may come, in ticks of the running order; the pass's start always is one
 * @param soonest   the first frame that can be reached in time
 */
export function nextMoment(pass: Pass, places: readonly Ticks[], soonest: number): Ticks | null {
  return (
    [pass.from, ...places]
      .filter((at) => at >= pass.from && at < pass.to)
      .sort((a, b) => a - b)
      .find((at) => frameAt(pass, at) >= soonest) ?? null
  );
}

/** High and low wood block of the General MIDI kits. */
const CLICK_PITCH = { strong: 76, weak: 77 } as const;

export const clickEvents = (clicks: readonly Click[], pass: Pass, channel: number): Queued[] =>
  clicks.flatMap(({ at, strong }): Queued[] => {
    const frame = frameAt(pass, at);
    const a = strong ? CLICK_PITCH.strong : CLICK_PITCH.weak;
    return [
      { frame, kind: EVENT.noteOn, channel, a, b: strong ? 110 : 84 },
      { frame: frame + 2400, kind: EVENT.noteOff, channel, a, b: 0 },
    ];
  });

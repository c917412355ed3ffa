import type { Click } from '@fendro/core/sounding/course';
import type { Performance, PerformanceEvent } from '@fendro/core/sounding/performance';
import type { VoiceId } from '@fendro/core/sounding/setup';
import type { TempoMap } from '@fendro/core/sounding/tempo-map';
import type { Ticks } from '@fendro/core/theory/units';
import { controlValue } from '@fendro/core/files/midi/midi-expression';
import { ALL_CHANNELS, BEND_RANGE, EVENT } from '../../worklets/protocol';

/** A stretch of a course that has been queued: its first frame and the ticks that it plays. */
export interface Pass {
  readonly frame: number;
  readonly from: Ticks;
  readonly to: Ticks;
  readonly tempo: TempoMap;
  /** Frames a second. */
  readonly rate: number;
  /** How often the loop has come round before. */
  readonly round: number;
  /** Where it begins for another's clock that is followed: there, no loop comes round. */
  readonly led?: Ticks;
}

/** Time between pressing play and the first frame. */
export const LEAD_SECONDS = 0.04;

/** A pass that is longer is queued in pieces. */
export const LONGEST_PASS_BARS = 16;

export const frameAt = ({ frame, from, tempo, rate }: Pass, tick: Ticks): number =>
  Math.round(frame + (tempo.secondsAt(tick) - tempo.secondsAt(from)) * rate);

export const endFrame = (pass: Pass): number => frameAt(pass, pass.to);

/** A moment of what is played: a tick of the course, and how often a loop has come round before. */
export interface PlayedMoment {
  readonly tick: Ticks;
  readonly round: number;
}

/** What sounds at a frame, by the last pass that has begun; null before the first. */
export function momentAt(passes: readonly Pass[], frame: number): PlayedMoment | null {
  const pass = passes.findLast((candidate) => candidate.frame <= frame);
  if (!pass) return null;
  const { tempo, from, to, rate, round } = pass;
  return { tick: Math.min(to, tempo.tickAt(tempo.secondsAt(from) + (frame - pass.frame) / rate)), round };
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
  [EVENT.anew]: 0,
  [EVENT.release]: 0,
  [EVENT.noteOff]: 1,
  [EVENT.program]: 2,
  [EVENT.controller]: 2,
  [EVENT.bend]: 2,
  [EVENT.noteOn]: 3,
};

/** Events in the flat form that the audio thread reads. */
export function pack(events: readonly Queued[]): Float64Array {
  const sorted = [...events].sort((x, y) => x.frame - y.frame || (RANK[x.kind] ?? 0) - (RANK[y.kind] ?? 0));
  const flat = new Float64Array(sorted.length * 5);
  sorted.forEach(({ frame, kind, channel, a, b }, index) => {
    flat.set([frame, kind, channel, a, b], index * 5);
  });
  return flat;
}

/** At this frame music begins that is to sound as it did before. */
export const anew = (frame: number): Queued => ({ frame, kind: EVENT.anew, channel: ALL_CHANNELS, a: 0, b: 0 });

function queued(event: PerformanceEvent, pass: Pass, channel: number): Queued[] {
  const frame = frameAt(pass, Math.max(event.at, pass.from));
  if (event.kind === 'program') return [{ frame, kind: EVENT.program, channel, a: event.instrument.program, b: 0 }];
  if (event.kind === 'control') {
    const control = controlValue(event, BEND_RANGE);
    return control.kind === 'bend'
      ? [{ frame, kind: EVENT.bend, channel, a: control.value, b: 0 }]
      : [{ frame, kind: EVENT.controller, channel, a: control.controller, b: control.value }];
  }
  const { end, pitch, velocity } = event;
  // A frame early: where the next pass strikes the same key again, rounding must not end the new note.
  const off = Math.max(frame + 1, frameAt(pass, end) - 1);
  return [
    { frame, kind: EVENT.noteOn, channel, a: pitch, b: velocity },
    { frame: off, kind: EVENT.noteOff, channel, a: pitch, b: 0 },
  ];
}

/**
 * A performance of a pass as events of the audio thread.
 *
 * @param strips  where each line sounds; lines without a strip are left out
 * @param chased  true where sound begins or switches: what began earlier and still sounds is struck again; how far
 *   voices are bent holds at the beginning of every pass
 */
export const performedEvents = (
  { events, chase }: Pick<Performance, 'events' | 'chase'>,
  pass: Pass,
  strips: ReadonlyMap<VoiceId, number>,
  chased: boolean,
): Queued[] =>
  [...(chased ? chase : chase.filter(({ kind }) => kind === 'control')), ...events].flatMap((event) => {
    const strip = strips.get(event.voice);
    return strip === undefined ? [] : queued(event, pass, strip);
  });

/**
 * The first moment of a pass that can still be reached.
 *
 * @param places    moments at which a change may come, in ticks of the course; the pass's start always is one
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
const CLICK_SECONDS = 0.05;

export const clickEvents = (clicks: readonly Click[], pass: Pass, channel: number): Queued[] =>
  clicks.flatMap(({ at, strong }): Queued[] => {
    const frame = frameAt(pass, at);
    const a = strong ? CLICK_PITCH.strong : CLICK_PITCH.weak;
    return [
      { frame, kind: EVENT.noteOn, channel, a, b: strong ? 110 : 84 },
      { frame: frame + Math.round(CLICK_SECONDS * pass.rate), kind: EVENT.noteOff, channel, a, b: 0 },
    ];
  });

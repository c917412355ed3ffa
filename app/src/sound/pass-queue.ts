import type { Ticks } from '@fendro/core/theory/units';
import { ALL_CHANNELS, EVENT } from '../../worklets/protocol';
import type { SoundEngine } from './engine';
import {
  anew,
  endFrame,
  frameAt,
  LEAD_SECONDS,
  momentAt,
  nextMoment,
  pack,
  type Pass,
  type PlayedMoment,
  type Queued,
} from './schedule';

/** A change while playing takes effect no sooner than this, so that it reaches the audio thread in time. */
const MARGIN_SECONDS = 0.03;
/** Passes that are over are kept a while: what leaves the speakers is behind what is rendered. */
const KEPT = 3;

/** A moment at which what is queued may change. */
export interface Moment {
  readonly pass: Pass;
  readonly tick: Ticks;
}

/**
 * The events of a pass.
 *
 * @param strip   the strip that is asked for; all where it is null
 * @param chased  true where sound begins or switches
 */
export type EventsOf = (pass: Pass, strip: number | null, chased: boolean) => Queued[];

/** What is counted before the music begins. */
export interface CountIn {
  readonly seconds: number;
  readonly clicks: readonly Queued[];
}

const NO_COUNT: CountIn = { seconds: 0, clicks: [] };

/** What the audio thread has been given to play, a pass after the other. */
export class PassQueue {
  private passes: Pass[] = [];
  private lastEvent = 0;

  constructor(
    private readonly engine: Pick<SoundEngine, 'send' | 'frame' | 'sampleRate'>,
    private readonly eventsOf: EventsOf,
  ) {}

  get last(): Pass | undefined {
    return this.passes.at(-1);
  }

  /** What is queued, and what was played last, in its order. */
  get all(): readonly Pass[] {
    return this.passes;
  }

  /** The frame at which the last of what is queued is over, with notes that ring past the last pass. */
  get over(): number {
    return Math.max(this.lastEvent, this.last ? endFrame(this.last) : 0);
  }

  clear(): void {
    this.passes = [];
    this.lastEvent = 0;
  }

  /** What sounds at a frame; null where nothing does. */
  momentAt(frame: number): PlayedMoment | null {
    return momentAt(this.passes, frame);
  }

  /**
   * Begins with a pass as soon as it can sound.
   *
   * @param countIn  what sounds before it, in frames from where that begins, and how long it lasts, in seconds
   * @param when     the frame at which it is to begin, where that can still be reached
   */
  begin(pass: Omit<Pass, 'frame'>, countIn: CountIn = NO_COUNT, when = 0): void {
    // Everything is computed first, from frame 0: only then the clock is read, so that long songs begin in time too.
    const events = this.eventsOf({ ...pass, frame: 0 }, null, true);
    const now = Math.max(when, this.engine.frame + Math.round(LEAD_SECONDS * this.engine.sampleRate));
    const frame = now + Math.round(countIn.seconds * this.engine.sampleRate);
    this.passes = [{ ...pass, frame }];
    this.lastEvent = 0;
    this.engine.send({
      kind: 'block',
      events: this.packed([
        anew(now),
        ...countIn.clicks.map((event) => ({ ...event, frame: event.frame + now })),
        ...events.map((event) => ({ ...event, frame: event.frame + frame })),
      ]),
    });
  }

  /** Adds a pass after the last. */
  add(next: Omit<Pass, 'frame'>): void {
    const { last } = this;
    if (!last || next.to <= next.from) return;
    const pass = { ...next, frame: endFrame(last) };
    this.passes.push(pass);
    this.engine.send({ kind: 'block', events: this.packed(this.eventsOf(pass, null, false)) });
  }

  private packed(events: readonly Queued[]): Float64Array {
    this.lastEvent = events.reduce((last, { frame }) => Math.max(last, frame), this.lastEvent);
    return pack(events);
  }

  /** Forgets passes that are long over. */
  prune(now: number): void {
    this.passes = this.passes.filter((pass, index) => index >= this.passes.length - KEPT || endFrame(pass) > now);
  }

  /** Plays a pass from a moment on in place of all that was queued. */
  replaceFrom({ pass, tick }: Moment, next: Omit<Pass, 'frame'>): void {
    const frame = frameAt(pass, tick);
    const kept = this.passes
      .filter((other) => other.frame < frame)
      .map((other) => (other === pass ? { ...other, to: tick } : other));
    const changed = { ...next, frame };
    this.passes = [...kept, changed];
    this.lastEvent = 0;
    this.engine.send({
      kind: 'switch',
      channel: ALL_CHANNELS,
      frame,
      events: this.packed([release(frame, ALL_CHANNELS), ...this.eventsOf(changed, null, true)]),
    });
  }

  /** Switches what one strip plays from a moment on, on the exact frame. */
  requeue(strip: number, { pass, tick }: Moment): void {
    const from: Pass = { ...pass, frame: frameAt(pass, tick), from: tick };
    const later = this.passes.filter((other) => other.frame > pass.frame);
    const events = [
      release(from.frame, strip),
      ...this.eventsOf(from, strip, true),
      ...later.flatMap((other) => this.eventsOf(other, strip, false)),
    ];
    this.engine.send({ kind: 'switch', channel: strip, frame: from.frame, events: this.packed(events) });
  }

  /** The next of some moments, or start of a pass, that can still be reached in time; null where nothing is queued. */
  momentFor(places: readonly Ticks[]): Moment | null {
    const soonest = this.engine.frame + Math.round(MARGIN_SECONDS * this.engine.sampleRate);
    for (const pass of this.passes) {
      const tick = endFrame(pass) > soonest ? nextMoment(pass, places, soonest) : null;
      if (tick !== null) return { pass, tick };
    }
    const { last } = this;
    return last ? { pass: last, tick: last.to } : null;
  }
}

const release = (frame: number, channel: number): Queued => ({ frame, kind: EVENT.release, channel, a: 0, b: 0 });

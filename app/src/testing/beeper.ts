import { EVENT, EVENT_SIZE } from '../../worklets/protocol';
import type { Renderer } from '../sound/rendered/song-sound';

/** A strip's tone after it was struck: louder where it was struck harder, and fading away. */
interface Tone {
  /** Sine and cosine of the angle it turns by in a frame. */
  readonly turn: readonly [sine: number, cosine: number];
  level: number;
  sine: number;
  cosine: number;
}

/** A synthesizer for specs: every note is a tone that fades away, on a strip with a level and a gain of its own. */
export class Beeper implements Renderer {
  private readonly queued: Float64Array[] = [];
  private readonly tones = new Map<number, Tone[]>();
  private readonly gains = new Map<number, number>();
  private master = 1;
  strips = 0;
  readonly settings = new Map<string, number>();

  constructor(private readonly rate: number) {}

  grow(count: number): void {
    this.strips = count;
  }
  applyNow([, kind = 0, channel = 0, a = 0, b = 0]: Float64Array): void {
    this.settings.set(`${channel} ${kind === EVENT.program ? 'program' : a}`, kind === EVENT.program ? a : b);
  }
  setDrums(channel: number, on: boolean): void {
    this.settings.set(`${channel} drums`, Number(on));
  }
  setGain(channel: number, gain: number): void {
    this.gains.set(channel, gain);
  }
  setMaster(gain: number): void {
    this.master = gain;
  }
  queue(events: Float64Array): void {
    for (let at = 0; at < events.length; at += EVENT_SIZE) this.queued.push(events.slice(at, at + EVENT_SIZE));
  }

  renderOpen(left: Float32Array, right: Float32Array, from: number): void {
    const fading = 1 - 20 / this.rate;
    for (let index = 0; index < left.length; index++) {
      while ((this.queued[0]?.[0] ?? Infinity) <= from + index) this.strike(this.queued.shift() as Float64Array);
      for (const [channel, tones] of this.tones) {
        const gain = (this.gains.get(channel) ?? 1) * this.master;
        for (const tone of tones) {
          // A rotation in each frame is five times as fast as a sine and a cosine.
          const { turn, sine, cosine } = tone;
          tone.sine = sine * turn[1] + cosine * turn[0];
          tone.cosine = cosine * turn[1] - sine * turn[0];
          tone.level *= fading;
          left[index] = (left[index] as number) + gain * tone.level * tone.sine;
          right[index] = (right[index] as number) + gain * tone.level * tone.cosine;
        }
      }
    }
    for (const [channel, tones] of this.tones)
      this.tones.set(
        channel,
        tones.filter(({ level }) => level > 1e-7),
      );
  }

  private strike([, kind, channel = 0, pitch = 0, velocity = 0]: Float64Array): void {
    if (kind !== EVENT.noteOn) return;
    const angle = (2 * Math.PI * 440 * 2 ** ((pitch - 69) / 12)) / this.rate;
    const tone = { turn: [Math.sin(angle), Math.cos(angle)] as const, level: velocity / 127, sine: 0, cosine: 1 };
    this.tones.set(channel, [...(this.tones.get(channel) ?? []), tone]);
  }
}

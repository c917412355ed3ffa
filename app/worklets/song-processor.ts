import { SoundBankLoader, SpessaSynthProcessor } from 'spessasynth_core';
import {
  ALL_CHANNELS,
  BEND_RANGE,
  EVENT,
  EVENT_SIZE,
  EXPRESSION,
  type FromProcessor,
  type ToProcessor,
} from './protocol';

const REPORT_EVERY_FRAMES = 2048;
/** Vibrato, swell and pedal, as they are where nothing is said. */
const AT_REST = [
  [1, 0],
  [EXPRESSION, 127],
  [64, 0],
] as const;
/** Longest run that the synthesizer renders at once. */
const QUANTUM = 128;

/**
 * Plays queued events on their exact frame through a sampled synthesizer. Nothing here depends on how busy the page is:
 * what is queued will sound in time.
 */
class SongProcessor extends AudioWorkletProcessor {
  private readonly synth = new SpessaSynthProcessor(sampleRate, { eventsEnabled: false, effectsEnabled: true });
  private readonly blocks: { readonly events: Float64Array; next: number }[] = [];
  /** Programs and controllers in force: adding a bank resets channels, so they are applied again. */
  private readonly settings = new Map<number, readonly [kind: number, channel: number, a: number, b: number]>();
  private readonly gains = new Map<number, number>();
  /** Channels that strike drums, and those that were told not to. */
  private readonly drums = new Map<number, boolean>();
  private readonly buffers: [Float32Array, Float32Array][] = [];
  /** Of each channel, then of the mix. */
  private peaks = new Float32Array(1);
  private reported = 0;
  private late = 0;
  private ready = false;
  private alive = true;

  constructor() {
    super();
    this.grow(this.synth.midiChannels.length);
    this.port.onmessage = ({ data }: MessageEvent<ToProcessor>) => {
      this.receive(data);
    };
    this.synth.processorInitialized.then(
      () => {
        this.ready = true;
        this.send({ kind: 'ready' });
      },
      (problem: unknown) => {
        this.send({ kind: 'failed', reason: String(problem) });
      },
    );
  }

  /** Makes as many channels as a song has lines: the sixteen of a MIDI port are no limit here. */
  private grow(count: number): void {
    const before = this.buffers.length;
    while (this.synth.midiChannels.length < count) this.synth.createMIDIChannel();
    while (this.buffers.length < this.synth.midiChannels.length)
      this.buffers.push([new Float32Array(QUANTUM), new Float32Array(QUANTUM)]);
    this.peaks = new Float32Array(this.buffers.length + 1);
    for (let channel = before; channel < this.buffers.length; channel++) this.widen(channel);
  }

  /** Opens a channel's bends to their full range: registered parameter 0. */
  private widen(channel: number): void {
    this.synth.controllerChange(channel, 101, 0);
    this.synth.controllerChange(channel, 100, 0);
    this.synth.controllerChange(channel, 6, BEND_RANGE);
  }

  private send(message: FromProcessor): void {
    this.port.postMessage(message);
  }

  private receive(message: ToProcessor): void {
    switch (message.kind) {
      case 'bank':
        this.addBank(message.id, message.bytes);
        break;
      case 'drop bank':
        this.synth.soundBankManager.deleteSoundBank(message.id);
        this.restore();
        break;
      case 'block':
        this.blocks.push({ events: message.events, next: 0 });
        break;
      case 'switch':
        this.cut(message.channel, message.frame);
        this.blocks.push({ events: message.events, next: 0 });
        break;
      case 'now':
        for (let at = 0; at < message.events.length; at += EVENT_SIZE) this.apply(message.events, at);
        break;
      case 'strips':
        this.grow(message.count);
        break;
      case 'gain':
        this.gains.set(message.channel, message.gain);
        this.synth.midiChannels[message.channel]?.setSystemParameter('gain', message.gain);
        break;
      case 'drums':
        this.drums.set(message.channel, message.on);
        this.synth.midiChannels[message.channel]?.setDrums(message.on);
        break;
      case 'stop':
        this.blocks.length = 0;
        this.release(ALL_CHANNELS);
        break;
      case 'close':
        this.alive = false;
        break;
    }
  }

  /** A damaged bank leaves those that are there. */
  private addBank(id: string, bytes: ArrayBuffer): void {
    try {
      this.synth.soundBankManager.addSoundBank(SoundBankLoader.fromArrayBuffer(bytes), id);
      this.restore();
      this.send({ kind: 'bank added', id });
    } catch (problem) {
      this.send({ kind: 'bank refused', id, reason: String(problem) });
    }
  }

  private restore(): void {
    for (let channel = 0; channel < this.buffers.length; channel++) this.widen(channel);
    for (const [channel, on] of this.drums) this.synth.midiChannels[channel]?.setDrums(on);
    for (const [kind, channel, a, b] of this.settings.values()) this.set(kind, channel, a, b);
    for (const [channel, gain] of this.gains) this.synth.midiChannels[channel]?.setSystemParameter('gain', gain);
  }

  private set(kind: number, channel: number, a: number, b: number): void {
    if (kind === EVENT.program) this.synth.programChange(channel, a);
    else this.synth.controllerChange(channel, a as Parameters<SpessaSynthProcessor['controllerChange']>[1], b);
  }

  /** Marks what a channel has queued from a frame on as spent, in place: nothing is allocated. */
  private cut(channel: number, frame: number): void {
    for (const { events, next } of this.blocks) {
      for (let at = next; at < events.length; at += EVENT_SIZE) {
        const own = channel === ALL_CHANNELS || events[at + 2] === channel;
        if (own && (events[at] as number) >= frame) events[at + 1] = EVENT.spent;
      }
    }
  }

  private apply(events: Float64Array, at: number): void {
    const kind = events[at + 1] as number;
    const channel = events[at + 2] as number;
    const a = events[at + 3] as number;
    const b = events[at + 4] as number;
    if (kind === EVENT.noteOn) this.synth.noteOn(channel, a, b);
    else if (kind === EVENT.noteOff) this.synth.noteOff(channel, a);
    else if (kind === EVENT.release) this.release(channel);
    else if (kind === EVENT.bend) this.synth.pitchWheel(channel, a);
    else if (kind === EVENT.controller || kind === EVENT.program) {
      this.settings.set(channel * 1000 + (kind === EVENT.program ? 999 : a), [kind, channel, a, b]);
      this.set(kind, channel, a, b);
    }
  }

  /** Ends a channel's notes and resets its pedal, bend, vibrato and swell, so that what follows starts clean. */
  private release(channel: number): void {
    if (channel === ALL_CHANNELS) {
      for (let each = 0; each < this.buffers.length; each++) this.release(each);
      return;
    }
    for (const [controller, value] of AT_REST) {
      this.settings.delete(channel * 1000 + controller);
      this.synth.controllerChange(channel, controller, value);
    }
    this.synth.pitchWheel(channel, 8192);
    this.synth.midiChannels[channel]?.stopAllNotes(false);
  }

  /** Applies every event due before `frame`; returns the frame of the next one, at most `end`. */
  private advance(frame: number, end: number): number {
    let next = end;
    for (let index = 0; index < this.blocks.length; index++) {
      const block = this.blocks[index] as { readonly events: Float64Array; next: number };
      while (block.next < block.events.length && (block.events[block.next] as number) <= frame) {
        if ((block.events[block.next] as number) < currentFrame && block.events[block.next + 1] === EVENT.noteOn)
          this.late++;
        this.apply(block.events, block.next);
        block.next += EVENT_SIZE;
      }
      if (block.next < block.events.length) next = Math.min(next, block.events[block.next] as number);
      else {
        this.blocks.splice(index, 1);
        index--;
      }
    }
    return next;
  }

  process(_inputs: Float32Array[][], outputs: Float32Array[][]): boolean {
    const left = outputs[0]?.[0];
    const right = outputs[0]?.[1];
    if (!this.ready || !left || !right) return this.alive;
    const end = currentFrame + left.length;
    let frame = currentFrame;
    for (const pair of this.buffers) for (const side of pair) side.fill(0);
    while (frame < end) {
      const next = this.advance(frame, end);
      this.synth.processSplit(this.buffers, left, right, frame - currentFrame, Math.max(1, next - frame));
      frame = Math.max(frame + 1, next);
    }
    this.mix(left, right);
    this.report(end);
    return this.alive;
  }

  /** Adds the dry channels to the effects already in the output, and takes note of their peaks. */
  private mix(left: Float32Array, right: Float32Array): void {
    const last = this.buffers.length;
    for (let channel = 0; channel < last; channel++) {
      const [a, b] = this.buffers[channel] as [Float32Array, Float32Array];
      let peak = this.peaks[channel] as number;
      for (let index = 0; index < left.length; index++) {
        const l = a[index] as number;
        const r = b[index] as number;
        left[index] = (left[index] as number) + l;
        right[index] = (right[index] as number) + r;
        peak = Math.max(peak, l, -l, r, -r);
      }
      this.peaks[channel] = peak;
    }
    let peak = this.peaks[last] as number;
    for (let index = 0; index < left.length; index++)
      peak = Math.max(peak, Math.abs(left[index] as number), Math.abs(right[index] as number));
    this.peaks[last] = peak;
  }

  private report(frame: number): void {
    if (frame - this.reported < REPORT_EVERY_FRAMES) return;
    this.reported = frame;
    this.send({ kind: 'levels', peaks: this.peaks, late: this.late });
    this.peaks.fill(0);
  }
}

registerProcessor('fendro-song', SongProcessor);

import { SoundBankLoader, SpessaSynthProcessor } from 'spessasynth_core';
import { Limiter } from '../../core/sounding/limiter';
import { Shelf } from '../../core/sounding/shelf';
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
/** The MIDI controllers of attack and brightness. */
const [ATTACK, BRIGHTNESS] = [73, 74];
/**
 * How far those two reach here, in cents of time and of the filter: by itself the synthesizer would turn its slowest
 * attack into 31 ms, and its darkest sound into silence.
 */
const REACH: Readonly<Record<number, number>> = { [ATTACK]: 12_000, [BRIGHTNESS]: 6_000 };
/** Stands for a channel's program beside its controllers. */
const PROGRAM = 999;
const settingOf = (channel: number, controller: number): number => channel * 1000 + controller;
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
  /** Controllers that are moved by hand. */
  private readonly gripped = new Set<number>();
  private readonly gains = new Map<number, number>();
  /** Channels that strike drums, and those that were told not to. */
  private readonly drums = new Map<number, boolean>();
  /** What opens a channel's treble: most samples have nothing more that a filter could let through. */
  private readonly shelves: Shelf[] = [];
  private readonly buffers: [Float32Array, Float32Array][] = [];
  /** Of each channel, then of the mix. */
  private peaks = new Float32Array(1);
  private readonly limiter = new Limiter(sampleRate);
  /** The level of the whole, and where it is going. */
  private master = 1;
  private wanted = 1;
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
    while (this.shelves.length < this.buffers.length) this.shelves.push(new Shelf(sampleRate));
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
      case 'cancel':
        this.cut(message.channel, 0, message.pitch);
        break;
      case 'now':
        for (let at = 0; at < message.events.length; at += EVENT_SIZE) this.apply(message.events, at);
        break;
      case 'strips':
        this.grow(message.count);
        break;
      case 'grip':
        this.gripped[message.on ? 'add' : 'delete'](settingOf(message.channel, message.controller));
        break;
      case 'gain':
        this.gains.set(message.channel, message.gain);
        this.synth.midiChannels[message.channel]?.setSystemParameter('gain', message.gain);
        break;
      case 'master':
        this.wanted = message.gain;
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
      const bank = SoundBankLoader.fromArrayBuffer(bytes);
      for (const modulator of bank.defaultModulators) {
        const { isCC, index } = modulator.primarySource;
        const reach = isCC ? REACH[index] : undefined;
        if (reach !== undefined) modulator.transformAmount = reach;
      }
      this.synth.soundBankManager.addSoundBank(bank, id);
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
    if (kind === EVENT.controller && a === BRIGHTNESS) this.shelves[channel]?.set((b - 64) / 63);
    if (kind === EVENT.program) this.synth.programChange(channel, a);
    else this.synth.controllerChange(channel, a as Parameters<SpessaSynthProcessor['controllerChange']>[1], b);
  }

  /** Marks what a channel has queued from a frame on, of one pitch or all, as spent, in place: nothing is allocated. */
  private cut(channel: number, frame: number, pitch: number | null = null): void {
    for (const { events, next } of this.blocks) {
      for (let at = next; at < events.length; at += EVENT_SIZE) {
        const own = channel === ALL_CHANNELS || events[at + 2] === channel;
        if (pitch !== null && events[at + 3] !== pitch) continue;
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
      this.settings.set(settingOf(channel, kind === EVENT.program ? PROGRAM : a), [kind, channel, a, b]);
      this.set(kind, channel, a, b);
    }
  }

  /** True for a queued event that a hand overrules. */
  private isHeld(events: Float64Array, at: number): boolean {
    if (this.gripped.size === 0 || events[at + 1] !== EVENT.controller) return false;
    return this.gripped.has(settingOf(events[at + 2] as number, events[at + 3] as number));
  }

  /** Ends a channel's notes and resets its pedal, bend, vibrato and swell, so that what follows starts clean. */
  private release(channel: number): void {
    if (channel === ALL_CHANNELS) {
      for (let each = 0; each < this.buffers.length; each++) this.release(each);
      return;
    }
    for (const [controller, value] of AT_REST) {
      this.settings.delete(settingOf(channel, controller));
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
        if (!this.isHeld(block.events, block.next)) this.apply(block.events, block.next);
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

  /** Adds the dry channels to the effects already in the output, limits the whole, and takes note of all peaks. */
  private mix(left: Float32Array, right: Float32Array): void {
    const last = this.buffers.length;
    for (let channel = 0; channel < last; channel++) {
      const [a, b] = this.buffers[channel] as [Float32Array, Float32Array];
      const shelf = this.shelves[channel];
      if (shelf?.works) shelf.process(a, b);
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
    const step = (this.wanted - this.master) / left.length;
    for (let index = 0; index < left.length; index++) {
      this.master += step;
      left[index] = (left[index] as number) * this.master;
      right[index] = (right[index] as number) * this.master;
    }
    this.master = this.wanted;
    this.limiter.process(left, right);
    let peak = this.peaks[last] as number;
    for (let index = 0; index < left.length; index++)
      peak = Math.max(peak, Math.abs(left[index] as number), Math.abs(right[index] as number));
    this.peaks[last] = peak;
  }

  private report(frame: number): void {
    if (frame - this.reported < REPORT_EVERY_FRAMES) return;
    this.reported = frame;
    this.send({ kind: 'levels', peaks: this.peaks, reduction: this.limiter.takeReduction(), late: this.late });
    this.peaks.fill(0);
  }
}

registerProcessor('fendro-song', SongProcessor);

import { SoundBankLoader, SpessaSynthProcessor, type BasicSoundBank } from 'spessasynth_core';
import { Limiter } from '../../core/sounding/limiter';
import { Shelf } from '../../core/sounding/shelf';
import { ALL_CHANNELS, BEND_RANGE, EVENT, EVENT_SIZE, EXPRESSION, QUANTUM } from '../worklets/protocol';

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
/** What is softer is silence; what has been silent for so long has rung out. */
const [SILENT, SILENCE_SECONDS] = [1e-4, 0.05];
/** After so long a silence with nothing to play it rests, and costs the audio thread nothing. */
const REST_SECONDS = 5;

/** Names under which effects keep where they are in their rounds. */
const ROUNDS = new Set(['phase', 'excPhase']);

/** Puts an effect, with those that it is made of, back to where its rounds begin: it offers no other way. */
function rewind(effect: object): void {
  for (const [name, value] of Object.entries(effect) as [string, unknown][]) {
    if (ROUNDS.has(name)) Reflect.set(effect, name, 0);
    else if (typeof value === 'object' && value !== null && 'excPhase' in value) rewind(value);
  }
}

/** Stands for a channel's program beside its controllers. */
const PROGRAM = 999;
const settingOf = (channel: number, controller: number): number => channel * 1000 + controller;

/**
 * A bank of plain samples, with modulators as they are here.
 *
 * @throws Error where it is damaged
 */
export function readBank(bytes: ArrayBuffer): BasicSoundBank {
  const bank = SoundBankLoader.fromArrayBuffer(bytes);
  for (const modulator of bank.defaultModulators) {
    const { isCC, index } = modulator.primarySource;
    const reach = isCC ? REACH[index] : undefined;
    if (reach !== undefined) modulator.transformAmount = reach;
  }
  return bank;
}

/**
 * Plays queued events on their exact frame through a sampled synthesizer, a channel for each voice, with treble shelves,
 * the level of the whole and a limiter. The audio thread plays by it, and files of sound are written by it: so what is
 * delivered is what is heard.
 */
export class SongSynth {
  private readonly synth: SpessaSynthProcessor;
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
  private readonly limiter: Limiter;
  /** The level of the whole, and where it is going. */
  private master = 1;
  private wanted = 1;
  /** Greatest sample of each channel, then of the mix, since they were last cleared. */
  peaks = new Float32Array(1);
  /** For how many frames nothing was to be heard. */
  private silent = Number.POSITIVE_INFINITY;
  /** For how many frames nothing was to be heard or done. */
  private idle = Number.POSITIVE_INFINITY;
  /** Notes that were queued for a frame that had passed. */
  late = 0;

  /** @param rate  frames a second */
  constructor(private readonly rate: number) {
    this.synth = new SpessaSynthProcessor(rate, { eventsEnabled: false, effectsEnabled: true });
    this.limiter = new Limiter(rate);
    this.grow(this.synth.midiChannels.length);
  }

  /** Until then it makes no sound. */
  get initialized(): Promise<unknown> {
    return this.synth.processorInitialized;
  }

  /** Makes as many channels as a song has lines: the sixteen of a MIDI port are no limit here. */
  grow(count: number): void {
    const before = this.buffers.length;
    while (this.synth.midiChannels.length < count) this.synth.createMIDIChannel();
    while (this.buffers.length < this.synth.midiChannels.length)
      this.buffers.push([new Float32Array(QUANTUM), new Float32Array(QUANTUM)]);
    while (this.shelves.length < this.buffers.length) this.shelves.push(new Shelf(this.rate));
    this.peaks = new Float32Array(this.buffers.length + 1);
    for (let channel = before; channel < this.buffers.length; channel++) this.widen(channel);
  }

  /** Opens a channel's bends to their full range: registered parameter 0. */
  private widen(channel: number): void {
    this.synth.controllerChange(channel, 101, 0);
    this.synth.controllerChange(channel, 100, 0);
    this.synth.controllerChange(channel, 6, BEND_RANGE);
  }

  /** @throws Error where the bank is damaged; those that are there stay */
  addBank(id: string, bytes: ArrayBuffer): void {
    this.useBank(id, readBank(bytes));
  }

  /** Adds a bank that was read before: several synthesizers may share it. */
  useBank(id: string, bank: BasicSoundBank): void {
    this.synth.soundBankManager.addSoundBank(bank, id);
    this.restore();
  }

  dropBank(id: string): void {
    this.synth.soundBankManager.deleteSoundBank(id);
    this.restore();
  }

  queue(events: Float64Array): void {
    this.blocks.push({ events, next: 0 });
  }

  /** Applies events at once. */
  applyNow(events: Float64Array): void {
    for (let at = 0; at < events.length; at += EVENT_SIZE) this.apply(events, at);
  }

  /** A controller that is moved by hand: until it is let go, what is queued does not move it. */
  grip(channel: number, controller: number, on: boolean): void {
    this.gripped[on ? 'add' : 'delete'](settingOf(channel, controller));
  }

  setGain(channel: number, gain: number): void {
    this.gains.set(channel, gain);
    this.synth.midiChannels[channel]?.setSystemParameter('gain', gain);
  }

  setDrums(channel: number, on: boolean): void {
    this.drums.set(channel, on);
    this.synth.midiChannels[channel]?.setDrums(on);
  }

  /** The level of the whole as a factor; it goes there over the next frames, or is there at once. */
  setMaster(gain: number, atOnce = false): void {
    this.wanted = gain;
    if (atOnce) this.master = gain;
  }

  /** Empties the queue and releases every note. */
  stop(): void {
    this.blocks.length = 0;
    this.release(ALL_CHANNELS);
  }

  /** The least factor by which the mix was turned down since this was last asked. */
  takeReduction(): number {
    return this.limiter.takeReduction();
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
  cut(channel: number, frame: number, pitch: number | null = null): void {
    for (const { events, next } of this.blocks) {
      for (let at = next; at < events.length; at += EVENT_SIZE) {
        const own = channel === ALL_CHANNELS || events[at + 2] === channel;
        if (pitch !== null && events[at + 3] !== pitch) continue;
        if (own && (events[at] as number) >= frame) events[at + 1] = EVENT.spent;
      }
    }
  }

  private apply(events: Float64Array, at: number): void {
    this.idle = 0;
    const kind = events[at + 1] as number;
    const channel = events[at + 2] as number;
    const a = events[at + 3] as number;
    const b = events[at + 4] as number;
    if (kind === EVENT.noteOn) this.synth.noteOn(channel, a, b);
    else if (kind === EVENT.noteOff) this.synth.noteOff(channel, a);
    else if (kind === EVENT.release) this.release(channel);
    else if (kind === EVENT.anew) this.beginAnew();
    else if (kind === EVENT.bend) this.synth.pitchWheel(channel, a);
    else if (kind === EVENT.controller || kind === EVENT.program) {
      this.settings.set(settingOf(channel, kind === EVENT.program ? PROGRAM : a), [kind, channel, a, b]);
      this.set(kind, channel, a, b);
    }
  }

  /**
   * Lets chorus and reverb go round from where they began, so that the same music sounds the same to the last digit
   * whenever it is played. While something rings it would be heard as a step, and is left.
   */
  private beginAnew(): void {
    if (this.silent < SILENCE_SECONDS * this.rate) return;
    rewind(this.synth.chorusProcessor);
    rewind(this.synth.reverbProcessor);
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
  private advance(frame: number, end: number, now: number): number {
    let next = end;
    for (let index = 0; index < this.blocks.length; index++) {
      const block = this.blocks[index] as { readonly events: Float64Array; next: number };
      while (block.next < block.events.length && (block.events[block.next] as number) <= frame) {
        if ((block.events[block.next] as number) < now && block.events[block.next + 1] === EVENT.noteOn) this.late++;
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

  /**
   * Plays what is due into two channels that are empty, of at most {@link QUANTUM} frames, and keeps it below full.
   * While it rests they stay empty.
   *
   * @param from  the first of their frames
   */
  render(left: Float32Array, right: Float32Array, from: number): void {
    if (this.blocks.length === 0 && this.idle > REST_SECONDS * this.rate) {
      this.silent += left.length;
      return;
    }
    this.renderOpen(left, right, from);
    this.limiter.process(left, right);
    this.heard(left, right);
  }

  /** The same, as loud as it comes: whoever asks for this sees to it that it stays below full. */
  renderOpen(left: Float32Array, right: Float32Array, from: number): void {
    const end = from + left.length;
    let frame = from;
    for (const pair of this.buffers) for (const side of pair) side.fill(0);
    while (frame < end) {
      const next = this.advance(frame, end, from);
      this.synth.processSplit(this.buffers, left, right, frame - from, Math.max(1, next - frame));
      frame = Math.max(frame + 1, next);
    }
    this.mix(left, right);
  }

  /** Adds the dry channels to the effects already in the output at the level of the whole, and takes note of peaks. */
  private mix(left: Float32Array, right: Float32Array): void {
    for (let channel = 0; channel < this.buffers.length; channel++) {
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
    let most = 0;
    for (let index = 0; index < left.length; index++) {
      this.master += step;
      const l = (left[index] = (left[index] as number) * this.master);
      const r = (right[index] = (right[index] as number) * this.master);
      most = Math.max(most, l, -l, r, -r);
    }
    this.master = this.wanted;
    this.silent = most < SILENT ? this.silent + left.length : 0;
    this.idle = most < SILENT ? this.idle + left.length : 0;
  }

  /** Takes note of the peak of what leaves. */
  private heard(left: Float32Array, right: Float32Array): void {
    const last = this.buffers.length;
    let peak = this.peaks[last] as number;
    for (let index = 0; index < left.length; index++)
      peak = Math.max(peak, Math.abs(left[index] as number), Math.abs(right[index] as number));
    this.peaks[last] = peak;
  }
}

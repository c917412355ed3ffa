import { inject, Injectable, signal } from '@angular/core';
import type { Family } from '@fendro/core/sounding/instruments';
import { limiterDelay } from '@fendro/core/sounding/limiter';
import { EVENT, EXPRESSION, type FromProcessor, type ToProcessor } from '../../worklets/protocol';
import { Banks } from './banks';
import { HeardClock } from './heard-clock';
import { inWords } from '../ui/in-words';
import { CLICK_STRIP } from './strips';

/** How long the browser may take to let sound begin. */
const START_LIMIT_MS = 5000;
/** How long the synthesizer may take to be there: a busy machine needs its time. */
const BOOT_LIMIT_MS = 15_000;
/** How long waking may take; what was queued sounds on time when it wakes at once. */
const WAKE_LIMIT_MS = 1500;
/** How long the audio thread may take over one bank of sounds. */
const ADD_LIMIT_MS = 15_000;
/** Tells a controller that moves from one that stands, whatever its value. */
const MOVING = 1000;
/** Decoded samples beyond this give way, the family longest unused first. */
const MEMORY_LIMIT = 96 * 1024 * 1024;

export type EngineState =
  | { readonly kind: 'asleep' | 'starting' | 'ready' }
  | { readonly kind: 'failed'; readonly reason: string };

/** The answer of something that may never answer. */
function within<T>(work: Promise<T>, otherwise: string, limit: number): Promise<T> {
  let timer: ReturnType<typeof setTimeout> | undefined;
  const late = new Promise<never>((_resolve, reject) => {
    timer = setTimeout(() => {
      reject(new Error(otherwise));
    }, limit);
  });
  return Promise.race([work, late]).finally(() => {
    clearTimeout(timer);
  });
}

/** The audio context, the song processor in it and the sounds it has. */
@Injectable({ providedIn: 'root' })
export class SoundEngine {
  private readonly banks = inject(Banks);
  readonly state = signal<EngineState>({ kind: 'asleep' });
  /** Why some sounds are not there, in words. */
  readonly missing = signal<string | null>(null);
  /** Peaks of all strips and, last, of the mix, as of the last report. */
  levels: Float32Array = new Float32Array(0);
  /** The least factor by which the limiter turned the mix down, as of the last report; 1 where it did nothing. */
  reduction = 1;
  /** Notes that came after their frame; 0 unless something is badly wrong. */
  late = 0;
  private context: AudioContext | null = null;
  private node: AudioWorkletNode | null = null;
  private starting: Promise<boolean> | null = null;
  private clock: HeardClock | null = null;
  private readonly taps = new Set<(message: ToProcessor) => void>();
  private readonly loaded = new Map<Family, number>();
  private readonly adding = new Map<Family, Promise<void>>();
  private readonly settings = new Map<string, number>();
  /** Banks on their way into the audio thread. */
  private readonly arriving = new Map<
    string,
    { readonly resolve: () => void; readonly reject: (problem: Error) => void }
  >();

  get sampleRate(): number {
    return this.context?.sampleRate ?? 48_000;
  }

  /** Where else than in the song processor sound may be made, on the same clock; null while there is none. */
  get audio(): AudioContext | null {
    return this.context;
  }

  /** The frame being rendered now. */
  get frame(): number {
    return Math.round((this.context?.currentTime ?? 0) * this.sampleRate);
  }

  /** The frame that leaves the speakers now. */
  get heardFrame(): number {
    const latency = this.context ? this.context.baseLatency + this.context.outputLatency : 0;
    const behind = (Number.isFinite(latency) ? latency : 0) * this.sampleRate;
    return this.frame - Math.round(behind) - limiterDelay(this.sampleRate);
  }

  /** When a frame leaves the speakers, in ms of the page's clock. */
  heardAt(frame: number): number {
    this.clock?.look();
    return (
      (this.clock?.offset ?? performance.now()) + (1000 * (frame + limiterDelay(this.sampleRate))) / this.sampleRate
    );
  }

  /** True once it is well known when frames leave the speakers: a moment after sound began. */
  get timed(): boolean {
    return this.clock?.steady ?? false;
  }

  /** Hears all that is sent to the audio thread, before it goes there. @returns what ends it */
  tap(hear: (message: ToProcessor) => void): () => void {
    this.taps.add(hear);
    return () => this.taps.delete(hear);
  }

  /** Frames from when something is rendered until it leaves the speakers. */
  get delay(): number {
    return this.frame - this.heardFrame;
  }

  /**
   * Must first be called from a click or a key press: browsers keep silent before. A context that sleeps is woken, one
   * that was closed is made anew.
   *
   * @returns false where sound cannot start; `state` says why
   */
  async start(): Promise<boolean> {
    const { context } = this;
    if (context && this.node && context.state !== 'running') {
      if (context.state !== 'closed' && (await this.woken(context))) return true;
      await this.reset();
    }
    this.starting ??= this.boot();
    return this.starting;
  }

  private async boot(): Promise<boolean> {
    this.state.set({ kind: 'starting' });
    try {
      const context = new AudioContext({ latencyHint: 'interactive' });
      this.context = context;
      this.clock = new HeardClock(context);
      await within(context.resume(), 'the browser does not let it begin.', START_LIMIT_MS);
      const program = context.audioWorklet.addModule('worklets/song-processor.js');
      await within(program, 'its program could not be loaded.', BOOT_LIMIT_MS);
      const node = new AudioWorkletNode(context, 'fendro-song', { numberOfInputs: 0, outputChannelCount: [2] });
      await within(this.awaitReady(node), 'the synthesizer did not answer.', BOOT_LIMIT_MS);
      node.connect(context.destination);
      this.node = node;
      this.drums(CLICK_STRIP, true);
      context.onstatechange = () => {
        void this.contextChanged(context);
      };
      this.state.set({ kind: 'ready' });
      return true;
    } catch (problem) {
      await this.reset();
      this.state.set({
        kind: 'failed',
        reason:
          `Sound could not start: ${inWords(problem)} Check that this page may play sound and that a device is ` +
          'connected, then press play again.',
      });
      return false;
    }
  }

  /** Wakes a context; false where the system does not let it. */
  private async woken(context: AudioContext): Promise<boolean> {
    await within(context.resume(), '', WAKE_LIMIT_MS).catch(() => undefined);
    if (context.state !== 'running') return false;
    this.clock?.forget();
    this.state.set({ kind: 'ready' });
    return true;
  }

  /** The system put the context to sleep, or closed it: it is woken at once where that is possible, else it is told. */
  private async contextChanged(context: AudioContext): Promise<void> {
    if (context !== this.context || context.state === 'running') return;
    if (context.state !== 'closed' && (await this.woken(context))) return;
    if (context === this.context) this.giveUp('The system put the sound to sleep. Press play to wake it.');
  }

  /** Lets the sound go and says why; the next start makes it anew. */
  giveUp(reason: string): void {
    void this.reset();
    this.state.set({ kind: 'failed', reason });
  }

  /** Forgets the context with all that was loaded into it; the next start makes another. */
  private async reset(): Promise<void> {
    const { context } = this;
    this.context = null;
    this.node = null;
    this.starting = null;
    this.clock = null;
    for (const waiting of this.arriving.values()) waiting.reject(new Error('the sound was interrupted.'));
    this.arriving.clear();
    this.loaded.clear();
    this.adding.clear();
    this.settings.clear();
    if (!context) return;
    context.onstatechange = null;
    if (context.state !== 'closed') await context.close().catch(() => undefined);
  }

  private awaitReady(node: AudioWorkletNode): Promise<void> {
    return new Promise((resolve, reject) => {
      node.port.onmessage = ({ data }: MessageEvent<FromProcessor>) => {
        switch (data.kind) {
          case 'levels':
            this.levels = data.peaks;
            this.reduction = data.reduction;
            this.late = data.late;
            this.clock?.look();
            break;
          case 'bank added':
            this.arriving.get(data.id)?.resolve();
            break;
          case 'bank refused':
            this.arriving.get(data.id)?.reject(new Error(data.reason));
            break;
          case 'ready':
            resolve();
            break;
          case 'failed':
            reject(new Error(data.reason));
        }
      };
      node.onprocessorerror = () => {
        this.giveUp('The sound engine stopped unexpectedly. Press play to start it again; your song is safe.');
      };
    });
  }

  send(message: ToProcessor): void {
    for (const hear of this.taps) hear(message);
    const transfer =
      'bytes' in message ? [message.bytes] : 'events' in message ? [message.events.buffer as ArrayBuffer] : [];
    this.node?.port.postMessage(message, transfer);
  }

  /**
   * Sees to it that the families' sounds are there; where some are not to be had, `missing` says why until they are.
   *
   * @returns true where at least one of them is there, or none was asked for
   */
  async ensure(families: Iterable<Family>): Promise<boolean> {
    const asked = [...new Set(families)];
    const results = await Promise.allSettled(asked.map((family) => this.add(family)));
    const lost = results.filter((result) => result.status === 'rejected');
    const [first] = lost;
    if (first) this.missing.set(`${inWords(first.reason)} Check the connection and press play again.`);
    else if (this.missing() !== null && asked.length > 0) this.missing.set(null);
    return asked.length === 0 || lost.length < asked.length;
  }

  has(families: Iterable<Family>): boolean {
    return [...families].every((family) => this.loaded.has(family));
  }

  private add(family: Family): Promise<void> {
    if (this.loaded.has(family)) {
      const size = this.loaded.get(family) ?? 0;
      this.loaded.delete(family);
      this.loaded.set(family, size);
      return Promise.resolve();
    }
    const known = this.adding.get(family) ?? this.load(family).finally(() => this.adding.delete(family));
    this.adding.set(family, known);
    return known;
  }

  private async load(family: Family): Promise<void> {
    const bytes = await this.banks.get(family);
    const size = bytes.byteLength;
    this.banks.forget(family);
    const added = new Promise<void>((resolve, reject) => this.arriving.set(family, { resolve, reject }));
    this.send({ kind: 'bank', id: family, bytes });
    await within(added, 'the synthesizer did not take them.', ADD_LIMIT_MS)
      .catch((problem: unknown) => {
        throw new Error(`The sounds of “${family}” could not be used: ${inWords(problem)}`);
      })
      .finally(() => this.arriving.delete(family));
    // The audio thread renders nothing while it takes a bank.
    await this.clock?.settled();
    this.loaded.set(family, size);
    this.makeRoom(family);
  }

  private makeRoom(newest: Family): void {
    let total = [...this.loaded.values()].reduce((sum, size) => sum + size, 0);
    for (const [family, size] of this.loaded) {
      if (total <= MEMORY_LIMIT || family === newest) return;
      this.loaded.delete(family);
      this.send({ kind: 'drop bank', id: family });
      total -= size;
    }
  }

  /** Sees to it that there are as many strips; there never are fewer again. */
  strips(count: number): void {
    if ((this.settings.get('strips') ?? 0) >= count) return;
    this.settings.set('strips', count);
    this.send({ kind: 'strips', count });
  }

  /** Makes a channel strike drums, or play pitches again. */
  drums(channel: number, on: boolean): void {
    if (!this.isNew(`drums ${channel}`, on ? 1 : 0)) return;
    this.send({ kind: 'drums', channel, on });
    // The same program number is a kit on one kind of channel and an instrument on the other.
    this.settings.delete(`program ${channel}`);
  }

  program(channel: number, program: number): void {
    if (this.isNew(`program ${channel}`, program))
      this.send({ kind: 'now', events: Float64Array.of(0, EVENT.program, channel, program, 0) });
  }

  /** @param moves  true where events of the queue set it too: where they do no more, it is set again */
  controller(channel: number, controller: number, value: number, moves = false): void {
    if (this.isNew(`controller ${channel} ${controller}`, moves ? value + MOVING : value))
      this.send({ kind: 'now', events: Float64Array.of(0, EVENT.controller, channel, controller, value) });
  }

  /** Sets a controller that events of the queue set too, so that what was set last here says nothing. */
  moved(channel: number, controller: number, value: number): void {
    this.settings.delete(`controller ${channel} ${controller}`);
    this.send({ kind: 'now', events: Float64Array.of(0, EVENT.controller, channel, controller, value) });
  }

  /** Lets a controller be moved by hand: what is queued does not move it until it is let go. */
  grip(channel: number, controller: number, on: boolean): void {
    this.send({ kind: 'grip', channel, controller, on });
  }

  expression(channel: number, value: number): void {
    this.moved(channel, EXPRESSION, value);
  }

  /** Forgets what levels and pans were set to, since events of the queue have moved them. */
  forgetControllers(): void {
    for (const name of this.settings.keys()) if (name.startsWith('controller ')) this.settings.delete(name);
  }

  /** @param level  of the whole mix, in %; it goes by the square, as General MIDI has it */
  master(level: number): void {
    if (this.isNew('master', level)) this.send({ kind: 'master', gain: (level / 100) ** 2 });
  }

  gain(channel: number, gain: number): void {
    if (this.isNew(`gain ${channel}`, gain)) this.send({ kind: 'gain', channel, gain });
  }

  /** Remembers what has been set, so that only changes travel. */
  private isNew(name: string, value: number): boolean {
    if (this.settings.get(name) === value) return false;
    this.settings.set(name, value);
    return true;
  }

  stop(): void {
    this.send({ kind: 'stop' });
  }
}

import { inject, Injectable, signal } from '@angular/core';
import type { Family } from '@fendro/core/sounding/instruments';
import { EVENT, type FromProcessor, type ToProcessor } from '../../worklets/protocol';
import { Banks } from './banks';

/** The metronome's channel, a second drum channel. */
export const CLICK_CHANNEL = 15;
/** The chord line is heard here when it sounds by itself. */
export const GUIDE_CHANNEL = 14;

const START_LIMIT_MS = 5000;
/** Decoded samples beyond this give way, the family longest unused first. */
const MEMORY_LIMIT = 96 * 1024 * 1024;

export type EngineState = { readonly kind: 'asleep' | 'starting' | 'ready' } | { readonly kind: 'failed'; readonly reason: string };

/** The audio context, the song processor in it and the sounds it has. */
@Injectable({ providedIn: 'root' })
export class SoundEngine {
  private readonly banks = inject(Banks);
  readonly state = signal<EngineState>({ kind: 'asleep' });
  /** Peaks of the sixteen channels and of the mix, as of the last report. */
  readonly levels = new Float32Array(17);
  /** Notes that came after their frame; 0 unless something is badly wrong. */
  late = 0;
  private context: AudioContext | null = null;
  private node: AudioWorkletNode | null = null;
  private starting: Promise<boolean> | null = null;
  private readonly loaded = new Map<Family, number>();
  private readonly adding = new Map<Family, Promise<void>>();
  private readonly settings = new Map<string, number>();
  private readonly addedCallbacks = new Map<string, () => void>();

  get sampleRate(): number {
    return this.context?.sampleRate ?? 48_000;
  }

  /** The frame being rendered now. */
  get frame(): number {
    return Math.round((this.context?.currentTime ?? 0) * this.sampleRate);
  }

  /** The frame that leaves the speakers now. */
  get heardFrame(): number {
    const latency = this.context ? this.context.baseLatency + this.context.outputLatency : 0;
    return this.frame - Math.round((Number.isFinite(latency) ? latency : 0) * this.sampleRate);
  }

  /** Must first be called from a click or a key press: browsers keep silent before. */
  start(): Promise<boolean> {
    if (this.context?.state === 'suspended') void this.context.resume();
    this.starting ??= this.boot();
    return this.starting;
  }

  private async boot(): Promise<boolean> {
    this.state.set({ kind: 'starting' });
    try {
      const context = new AudioContext({ latencyHint: 'interactive' });
      this.context = context;
      await context.resume();
      await context.audioWorklet.addModule('worklets/song-processor.js');
      const node = new AudioWorkletNode(context, 'fendro-song', { numberOfInputs: 0, outputChannelCount: [2] });
      await this.awaitReady(node);
      node.connect(context.destination);
      this.node = node;
      this.settings.clear();
      this.send({ kind: 'drums', channel: CLICK_CHANNEL, on: true });
      this.state.set({ kind: 'ready' });
      return true;
    } catch (problem) {
      const reason = problem instanceof Error ? problem.message : String(problem);
      this.state.set({ kind: 'failed', reason: `Sound could not start: ${reason} Check that this page may play sound and that a device is connected, then press play again.` });
      this.starting = null;
      await this.context?.close().catch(() => undefined);
      this.context = null;
      return false;
    }
  }

  private awaitReady(node: AudioWorkletNode): Promise<void> {
    return new Promise((resolve, reject) => {
      const limit = setTimeout(() => { reject(new Error('the synthesizer did not answer within five seconds.')); }, START_LIMIT_MS);
      node.port.onmessage = ({ data }: MessageEvent<FromProcessor>) => {
        if (data.kind === 'levels') {
          this.levels.set(data.peaks);
          this.late = data.late;
        } else if (data.kind === 'bank added') this.addedCallbacks.get(data.id)?.();
        else {
          clearTimeout(limit);
          if (data.kind === 'ready') resolve();
          else reject(new Error(data.reason));
        }
      };
      node.onprocessorerror = () => { this.state.set({ kind: 'failed', reason: 'The sound engine stopped unexpectedly. Reload the page; your song is saved.' }); };
    });
  }

  send(message: ToProcessor): void {
    const transfer = 'bytes' in message ? [message.bytes] : 'events' in message ? [message.events.buffer as ArrayBuffer] : [];
    this.node?.port.postMessage(message, transfer);
  }

  /** Sees to it that the families' sounds are there. */
  async ensure(families: Iterable<Family>): Promise<void> {
    await Promise.all([...new Set(families)].map((family) => this.add(family)));
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
    const added = new Promise<void>((resolve) => this.addedCallbacks.set(family, resolve));
    this.send({ kind: 'bank', id: family, bytes });
    await added;
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

  /** Makes a channel strike drums, or play pitches again. */
  drums(channel: number, on: boolean): void {
    if (!this.isNew(`drums ${channel}`, on ? 1 : 0)) return;
    this.send({ kind: 'drums', channel, on });
    // The same program number is a kit on one kind of channel and an instrument on the other.
    this.settings.delete(`program ${channel}`);
  }

  program(channel: number, program: number): void {
    if (this.isNew(`program ${channel}`, program)) this.send({ kind: 'now', events: Float64Array.of(0, EVENT.program, channel, program, 0) });
  }

  controller(channel: number, controller: number, value: number): void {
    if (this.isNew(`controller ${channel} ${controller}`, value)) this.send({ kind: 'now', events: Float64Array.of(0, EVENT.controller, channel, controller, value) });
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

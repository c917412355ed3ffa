import { Injectable, signal } from '@angular/core';
import { ownMoment, readWire, WIRE, wiredMoment, type Wired } from '../../../studio/wire';
import type { Access, MidiIn, MidiOut, MidiSystem } from '../ports';
import { SimulatedIn } from './simulated-in';

export const STUDIO_NAME = 'Simulated studio';

/** What comes earlier than this is not waited for, in ms. */
const AT_ONCE_MS = 1;

/** The simulated studio, as long as its page is open in another tab: opening it plugs it in, closing it pulls it out. */
@Injectable({ providedIn: 'root' })
export class StudioLink implements MidiSystem {
  private readonly wire = typeof BroadcastChannel === 'function' ? new BroadcastChannel(WIRE) : null;
  private readonly input = new SimulatedIn('simulated studio', STUDIO_NAME);
  private readonly output: MidiOut = {
    id: 'simulated studio',
    name: STUDIO_NAME,
    simulated: true,
    send: (bytes, at = performance.now()) => {
      this.post({ says: 'message', to: 'studio', bytes: [...bytes], at: wiredMoment(at) });
    },
  };
  readonly access = signal<Access>('open');
  readonly inputs = signal<readonly MidiIn[]>([]);
  readonly outputs = signal<readonly MidiOut[]>([]);

  constructor() {
    this.wire?.addEventListener('message', ({ data }: MessageEvent<unknown>) => {
      this.hear(readWire(data));
    });
    this.post({ says: 'who is there', from: 'fendro' });
    globalThis.addEventListener('pagehide', () => {
      this.post({ says: 'gone', from: 'fendro' });
    });
  }

  open(): Promise<void> {
    return Promise.resolve();
  }

  private post(wired: Wired): void {
    this.wire?.postMessage(wired);
  }

  private hear(wired: Wired | null): void {
    if (wired?.says === 'message') {
      if (wired.to === 'fendro') this.deliver(wired.bytes, ownMoment(wired.at));
    } else if (wired?.from === 'studio') {
      const there = wired.says !== 'gone';
      if (there) this.post({ says: 'here', from: 'fendro' });
      if (there === this.inputs().length > 0) return;
      this.inputs.set(there ? [this.input] : []);
      this.outputs.set(there ? [this.output] : []);
    }
  }

  /** A tab that nobody sees sends ahead of time: then it comes when it is meant. */
  private deliver(bytes: readonly number[], at: number): void {
    const wait = at - performance.now();
    if (wait < AT_ONCE_MS) this.input.saysBytes(bytes, at);
    else
      setTimeout(() => {
        this.input.saysBytes(bytes, at);
      }, wait);
  }
}

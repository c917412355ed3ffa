import { writeMessage, type MidiMessage } from '@fendro/core/live/midi-message';
import type { MidiIn } from '../ports';

/** A device that comes with Fendro and is played from the page, or by a script: it says whatever it is told to say. */
export class SimulatedIn implements MidiIn {
  readonly simulated = true;
  private readonly hearers = new Set<(bytes: ArrayLike<number>, at: number) => void>();

  constructor(
    readonly id: string,
    readonly name: string,
  ) {}

  listen(hear: (bytes: ArrayLike<number>, at: number) => void): () => void {
    this.hearers.add(hear);
    return () => this.hearers.delete(hear);
  }

  /** @param at  when it says so, in ms of the page's clock */
  say(message: MidiMessage, at = performance.now()): void {
    this.saysBytes(writeMessage(message), at);
  }

  /** Any bytes at all, as a device that has gone mad would send them. */
  saysBytes(bytes: ArrayLike<number>, at = performance.now()): void {
    for (const hear of this.hearers) hear(bytes, at);
  }
}

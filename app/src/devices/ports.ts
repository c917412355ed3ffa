import type { Signal } from '@angular/core';

/** Something that plays: a keyboard, a controller, another program. */
export interface MidiIn {
  readonly id: string;
  readonly name: string;
  /** True for those that come with Fendro: they never appear as real ones. */
  readonly simulated: boolean;
  /**
   * Hears every message. @param hear  its bytes, and when it came, in ms of the page's clock
   *
   * @returns what ends it
   */
  listen(hear: (bytes: ArrayLike<number>, at: number) => void): () => void;
}

/** Something that is played to: an instrument, a studio. */
export interface MidiOut {
  readonly id: string;
  readonly name: string;
  readonly simulated: boolean;
  /** @param at  when it is to arrive, in ms of the page's clock; at once where nothing is said */
  send(bytes: readonly number[], at?: number): void;
}

/**
 * Whether devices can be seen: not asked for yet, asked for, seen, refused by the writer or the system, or unknown to
 * this browser.
 */
export type Access = 'not asked' | 'asked' | 'open' | 'refused' | 'not there';

/** Where devices come from: the browser, or Fendro itself. Both lists change as things are plugged in and pulled out. */
export interface MidiSystem {
  readonly access: Signal<Access>;
  readonly inputs: Signal<readonly MidiIn[]>;
  readonly outputs: Signal<readonly MidiOut[]>;
  /** Asks for access, where it must be asked for. */
  open(): Promise<void>;
}

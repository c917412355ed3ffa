import { inject, Injectable } from '@angular/core';
import { chordOn } from '@fendro/core/live/keys-of-device';
import { PRESSED } from '@fendro/core/live/device-control';
import type { MidiMessage } from '@fendro/core/live/midi-message';
import type { MidiNote } from '@fendro/core/theory/units';
import type { DeviceUse } from '../../storage/device-schema';
import { PlayDesk } from '../playing/play-desk';

/** Controllers that mean something to whoever plays, as the MIDI standard numbers them. */
const [WAVERING, PEDAL, SILENCE, NO_NOTES] = [1, 64, 120, 123];
/** How far a bend goes either way, in cents: two semitones, as devices have it by themselves. */
const BENT = 200;
const FURTHEST = 8192;

/** Lets the keys, wheels and pedals of devices play the line in focus. */
@Injectable({ providedIn: 'root' })
export class DeviceHands {
  private readonly desk = inject(PlayDesk);
  /** Keys that are down, by device. */
  private readonly down = new Map<string, Set<string>>();

  /** @param at  when it came, in ms of the page's clock. @returns whether it was for the hands */
  hear(use: DeviceUse, message: MidiMessage, at: number): boolean {
    switch (message.says) {
      case 'note on':
        this.strike(use, message.channel, message.pitch, message.velocity, at);
        return true;
      case 'note off':
        this.letGo(use.id, keyOf(use.id, message.channel, message.pitch), at);
        return true;
      case 'bend':
        this.desk.bend(Math.round((message.value / FURTHEST) * BENT), at);
        return true;
      case 'pressure':
        this.desk.waver(percentOf(message.value), at);
        return true;
      case 'control':
        return this.control(message.controller, message.value, at);
      default:
        return false;
    }
  }

  private control(controller: number, value: number, at: number): boolean {
    if (controller === WAVERING) this.desk.waver(percentOf(value), at);
    else if (controller === PEDAL) this.desk.pedal(value >= PRESSED, at);
    else if (controller === SILENCE || controller === NO_NOTES) this.desk.rest();
    else return false;
    return true;
  }

  private strike(use: DeviceUse, channel: number, pitch: MidiNote, velocity: number, at: number): void {
    const key = keyOf(use.id, channel, pitch);
    // A key that never said that it came up did so before it is struck again.
    this.letGo(use.id, key, at);
    const keys = this.down.get(use.id) ?? new Set<string>();
    this.down.set(use.id, keys.add(key));
    const chooses = use.split !== null && pitch < use.split && !this.desk.drums();
    if (chooses) this.desk.hold(key, chordOn(pitch, this.desk.offered()), at, velocity);
    else this.desk.note(key, pitch, use.keys === 'fitted', velocity, at);
  }

  private letGo(device: string, key: string, at: number): void {
    if (this.down.get(device)?.delete(key)) this.desk.letGo(key, at);
  }

  /** Takes all fingers off a device that is not there any more, and puts its wheels and pedals back. */
  pulledOut(device: string): void {
    const at = performance.now();
    for (const key of this.down.get(device) ?? []) this.desk.letGo(key, at);
    this.down.delete(device);
    this.desk.pedal(false, at);
    this.desk.bend(0, at);
    this.desk.waver(0, at);
  }
}

const keyOf = (device: string, channel: number, pitch: MidiNote): string => `${device} ${channel} ${pitch}`;
const percentOf = (value: number): number => Math.round((value / 127) * 100);

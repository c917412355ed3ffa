import { computed, Injectable, signal } from '@angular/core';
import type { Access, MidiIn, MidiOut, MidiSystem } from '../ports';
import { SimulatedIn } from './simulated-in';

/** Sliders and buttons of the simulated controller, by their numbers; they speak on channel 1, counted as 0 here. */
export const SLIDERS: readonly number[] = [20, 21, 22, 23];
export const BUTTONS: readonly number[] = [36, 37, 38, 39];

/** Devices that come with Fendro, to try what real ones would do. Each is plugged in and pulled out on the page. */
@Injectable({ providedIn: 'root' })
export class SimulatedDevices implements MidiSystem {
  readonly keyboard = new SimulatedIn('simulated keyboard', 'Simulated keyboard');
  readonly controller = new SimulatedIn('simulated controller', 'Simulated controller');
  private readonly plugged = signal<readonly SimulatedIn[]>([]);
  readonly access = signal<Access>('open');
  readonly inputs = computed((): readonly MidiIn[] => this.plugged());
  readonly outputs = signal<readonly MidiOut[]>([]);

  open(): Promise<void> {
    return Promise.resolve();
  }

  isIn(device: SimulatedIn): boolean {
    return this.plugged().includes(device);
  }

  plug(device: SimulatedIn): void {
    this.plugged.update((devices) => [...devices.filter((other) => other !== device), device]);
  }

  pull(device: SimulatedIn): void {
    this.plugged.update((devices) => devices.filter((other) => other !== device));
  }
}

import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { readMessage, type MidiMessage } from '@fendro/core/live/midi-message';
import type { MidiIn } from '../../devices/ports';
import { SimulatedDevices } from '../../devices/simulated/simulated-devices';
import { StudioLink } from '../../devices/simulated/studio-link';
import { WebMidiSystem } from '../../devices/web-midi';
import { News } from '../../store/news';
import { PlayDesk } from '../playing/play-desk';
import { PlayPort } from '../playing/play-port';
import { RecordDesk } from '../playing/record-desk';
import { ClockFollower } from './clock-follower';
import { DeviceHands } from './device-hands';
import { DeviceUses } from './device-uses';

/** Hears a message of a device. @returns whether it was for it: then nobody else hears it */
type Hearer = (device: string, message: MidiMessage, at: number) => boolean;

/** All devices that are there, real and simulated, and who hears what they say. */
@Injectable({ providedIn: 'root' })
export class DeviceDesk {
  private readonly uses = inject(DeviceUses);
  private readonly hands = inject(DeviceHands);
  private readonly clock = inject(ClockFollower);
  private readonly play = inject(PlayDesk);
  private readonly port = inject(PlayPort);
  private readonly record = inject(RecordDesk);
  private readonly news = inject(News);
  private readonly systems = [inject(WebMidiSystem), inject(SimulatedDevices), inject(StudioLink)];
  readonly inputs = computed(() => this.systems.flatMap((system) => system.inputs()));
  readonly outputs = computed(() => this.systems.flatMap((system) => system.outputs()));
  /** Who hears before the hands do, the first first. */
  private readonly hearers: Hearer[] = [];
  private readonly listening = new Map<MidiIn, () => void>();
  /** True once what was there at the beginning has been listened to. */
  private begun = false;
  /** The device that said something last. */
  readonly speaking = signal<string | null>(null);

  constructor() {
    // Where devices play, recording needs no drawer.
    effect(() => {
      const plays = this.inputs().some(({ name }) => this.uses.of(name).plays);
      this.play.listens.set(plays);
      if (plays) untracked(() => this.port.acts.set(this.record));
    });
    effect(() => {
      const inputs = this.inputs();
      untracked(() => {
        this.listenTo(inputs);
      });
    });
  }

  /** Lets somebody hear before the hands do. */
  first(hearer: Hearer): void {
    this.hearers.push(hearer);
  }

  private listenTo(inputs: readonly MidiIn[]): void {
    for (const [input, end] of this.listening)
      if (!inputs.includes(input)) {
        end();
        this.listening.delete(input);
        this.hands.pulledOut(input.name);
        this.clock.gone(input.name);
        this.news.say(`${input.name} is not connected any more`);
      }
    for (const input of inputs) {
      if (this.listening.has(input)) continue;
      const end = input.listen((bytes, at) => {
        this.hear(input.name, readMessage(bytes), at);
      });
      this.listening.set(input, end);
      if (this.begun) this.news.say(`${input.name} is connected`);
    }
    this.begun = true;
  }

  private hear(device: string, message: MidiMessage | null, at: number): void {
    if (!message) return;
    // A clock speaks all the time, whether anybody listens or not.
    if (this.clock.hear(device, message, at)) return;
    this.speaking.set(device);
    if (this.hearers.some((hear) => hear(device, message, at))) return;
    const use = this.uses.of(device);
    if (use.plays) this.hands.hear(use, message, at);
  }
}

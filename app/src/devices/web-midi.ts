import { Injectable, signal } from '@angular/core';
import type { Input, Output } from 'webmidi';
import type { Access, MidiIn, MidiOut, MidiSystem } from './ports';

const inputOf = (input: Input): MidiIn => ({
  id: input.id,
  name: input.name,
  simulated: false,
  listen(hear) {
    const listener = input.addListener('midimessage', ({ message, timestamp }) => {
      hear(message.data, timestamp);
    });
    return () => {
      for (const each of Array.isArray(listener) ? listener : [listener]) each.remove();
    };
  },
});

const outputOf = (output: Output): MidiOut => ({
  id: output.id,
  name: output.name,
  simulated: false,
  send(bytes, at) {
    output.send([...bytes], at === undefined ? undefined : { time: at });
  },
});

/** The devices that the browser sees. It asks the writer first; what is plugged in later comes by itself. */
@Injectable({ providedIn: 'root' })
export class WebMidiSystem implements MidiSystem {
  readonly access = signal<Access>('requestMIDIAccess' in navigator ? 'not asked' : 'not there');
  readonly inputs = signal<readonly MidiIn[]>([]);
  readonly outputs = signal<readonly MidiOut[]>([]);

  /** Opens what the writer has allowed before: nobody is asked out of the blue. */
  async reopen(): Promise<void> {
    const allowed = await navigator.permissions.query({ name: 'midi' }).catch(() => null);
    if (allowed?.state === 'granted') await this.open();
  }

  async open(): Promise<void> {
    if (this.access() === 'open' || this.access() === 'not there') return;
    this.access.set('asked');
    try {
      const { WebMidi } = await import('webmidi');
      await WebMidi.enable();
      const look = (): void => {
        this.inputs.set(WebMidi.inputs.map(inputOf));
        this.outputs.set(WebMidi.outputs.map(outputOf));
      };
      WebMidi.addListener('portschanged', look);
      look();
      this.access.set('open');
    } catch {
      this.access.set('refused');
    }
  }
}

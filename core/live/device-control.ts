import * as z from 'zod';
import { spellIn } from '../theory/key';
import { pitchName } from '../theory/pitch';
import { modulo, type MidiNote } from '../theory/units';
import type { MidiMessage } from './midi-message';

const seven = z.number().int().min(0).max(127);

/** Something on a device that can be touched: a key or pad, a slider or knob, a program. Channels are counted from 0. */
export const deviceControlSchema = z
  .object({ says: z.enum(['note', 'control', 'program']), channel: z.number().int().min(0).max(15), number: seven })
  .readonly();
export type DeviceControl = z.infer<typeof deviceControlSchema>;

/** A control that was touched, and how far it stands or how hard it was struck: 0 to 127. */
export interface ControlTouch {
  readonly control: DeviceControl;
  readonly value: number;
}

export const sameControl = (a: DeviceControl, b: DeviceControl): boolean =>
  a.says === b.says && a.channel === b.channel && a.number === b.number;

/** From here on a control that is moved counts as pressed, as switches and pedals have it in the MIDI standard. */
export const PRESSED = 64;

/** Controllers that say something about others, or about a whole channel: they are nobody's slider. */
const FIRST_MODE = 120;
const SELECTS = [0, 32];

/** The control that a message comes from; null where it comes from none that something can be learned by. */
export function touchOf(message: MidiMessage): ControlTouch | null {
  switch (message.says) {
    case 'note on':
      return touch('note', message.channel, message.pitch, message.velocity);
    case 'note off':
      return touch('note', message.channel, message.pitch, 0);
    case 'program':
      return touch('program', message.channel, message.program, 127);
    case 'control': {
      const { controller } = message;
      const none = controller >= FIRST_MODE || SELECTS.includes(controller);
      return none ? null : touch('control', message.channel, controller, message.value);
    }
    default:
      return null;
  }
}

const touch = (says: DeviceControl['says'], channel: number, number: number, value: number): ControlTouch => ({
  control: { says, channel, number },
  value,
});

/** What a key is called where no music says how: as in C major. */
export const sayPitch = (pitch: MidiNote): string =>
  pitchName(pitch, spellIn({ tonic: 0, scale: 'major' }, modulo(pitch, 12)));

/** “Controller 21, channel 1”, “Key C3, channel 10”. */
export function sayControl({ says, channel, number }: DeviceControl): string {
  const what = { note: `Key ${sayPitch(number)}`, control: `Controller ${number}`, program: `Program ${number + 1}` };
  return `${what[says]}, channel ${channel + 1}`;
}

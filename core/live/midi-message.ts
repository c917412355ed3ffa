import { clamp, type MidiNote, type Velocity } from '../theory/units';

/** What devices say to each other: channel messages, and those of the clock, as the MIDI 1.0 standard has them. */
export type MidiMessage =
  | { readonly says: 'note on'; readonly channel: number; readonly pitch: MidiNote; readonly velocity: Velocity }
  | { readonly says: 'note off'; readonly channel: number; readonly pitch: MidiNote }
  | { readonly says: 'pressure'; readonly channel: number; readonly pitch: MidiNote | null; readonly value: number }
  | { readonly says: 'control'; readonly channel: number; readonly controller: number; readonly value: number }
  | { readonly says: 'program'; readonly channel: number; readonly program: number }
  /** From −8192 to 8191. */
  | { readonly says: 'bend'; readonly channel: number; readonly value: number }
  | { readonly says: 'clock' | 'start' | 'continue' | 'stop' }
  /** Sixteenths from the song's start. */
  | { readonly says: 'position'; readonly sixteenths: number };

/** Channels are counted from 0 here, and from 1 where people read them. */
const CHANNELS = 16;
const REAL_TIME: Readonly<Record<number, 'clock' | 'start' | 'continue' | 'stop'>> = {
  0xf8: 'clock',
  0xfa: 'start',
  0xfb: 'continue',
  0xfc: 'stop',
};
const STATUS = {
  'note off': 0x80,
  'note on': 0x90,
  'key pressure': 0xa0,
  control: 0xb0,
  program: 0xc0,
  pressure: 0xd0,
  bend: 0xe0,
  position: 0xf2,
} as const;
const MIDDLE = 8192;

/**
 * Reads one message.
 *
 * @returns null for what is no message, is cut off, or says nothing that Fendro listens to
 */
export function readMessage(bytes: ArrayLike<number>): MidiMessage | null {
  const status = bytes[0] ?? 0;
  const says = REAL_TIME[status];
  if (says !== undefined) return { says };
  const [a, b] = [dataByte(bytes[1]), dataByte(bytes[2])];
  if (status === STATUS.position)
    return a === null || b === null ? null : { says: 'position', sixteenths: a + 128 * b };
  if (status < STATUS['note off'] || status >= 0xf0 || a === null) return null;
  const [kind, channel] = [status & 0xf0, status & 0x0f];
  if (kind === STATUS.program) return { says: 'program', channel, program: a };
  if (kind === STATUS.pressure) return { says: 'pressure', channel, pitch: null, value: a };
  if (b === null) return null;
  switch (kind) {
    case STATUS['note on']:
      // Struck with no loudness at all is let go: so the standard has it.
      return b === 0 ? { says: 'note off', channel, pitch: a } : { says: 'note on', channel, pitch: a, velocity: b };
    case STATUS['note off']:
      return { says: 'note off', channel, pitch: a };
    case STATUS['key pressure']:
      return { says: 'pressure', channel, pitch: a, value: b };
    case STATUS.control:
      return { says: 'control', channel, controller: a, value: b };
    default:
      return { says: 'bend', channel, value: a + 128 * b - MIDDLE };
  }
}

/** Seven bits; null for what is none. */
const dataByte = (byte: number | undefined): number | null => (byte === undefined || byte > 127 ? null : byte);

/** The bytes of a message; what is beyond its range is drawn into it. */
export function writeMessage(message: MidiMessage): readonly number[] {
  switch (message.says) {
    case 'note on':
      return [status('note on', message.channel), seven(message.pitch), Math.max(1, seven(message.velocity))];
    case 'note off':
      return [status('note off', message.channel), seven(message.pitch), 64];
    case 'pressure':
      return message.pitch === null
        ? [status('pressure', message.channel), seven(message.value)]
        : [status('key pressure', message.channel), seven(message.pitch), seven(message.value)];
    case 'control':
      return [status('control', message.channel), seven(message.controller), seven(message.value)];
    case 'program':
      return [status('program', message.channel), seven(message.program)];
    case 'bend':
      return [status('bend', message.channel), ...fourteen(message.value + MIDDLE)];
    case 'position':
      return [STATUS.position, ...fourteen(message.sixteenths)];
    default:
      return [Number(Object.entries(REAL_TIME).find(([, says]) => says === message.says)?.[0] ?? 0xfc)];
  }
}

const status = (says: Exclude<keyof typeof STATUS, 'position'>, channel: number): number =>
  STATUS[says] | clamp(Math.round(channel), 0, CHANNELS - 1);
const seven = (value: number): number => clamp(Math.round(value), 0, 127);
const fourteen = (value: number): readonly [number, number] => {
  const whole = clamp(Math.round(value), 0, 2 * MIDDLE - 1);
  return [whole % 128, Math.floor(whole / 128)];
};

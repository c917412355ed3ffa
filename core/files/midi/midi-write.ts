import type { Ticks } from '../../theory/units';
import { longBytes, variable } from './bytes';
import { utf8 } from './text';

/** One event of a standard MIDI file; `at` counts ticks from the start of the track. */
export type MidiEvent = { readonly at: Ticks } & (
  | { readonly kind: 'name' | 'marker' | 'text'; readonly text: string }
  | { readonly kind: 'port'; readonly port: number }
  | { readonly kind: 'tempo'; readonly bpm: number }
  | { readonly kind: 'metre'; readonly beats: number; readonly unit: number }
  /** The level of all channels together, 0–127 (universal real time message, master volume). */
  | { readonly kind: 'master'; readonly value: number }
  | { readonly kind: 'key'; readonly accidentals: number; readonly minor: boolean }
  | { readonly kind: 'program'; readonly channel: number; readonly program: number }
  | { readonly kind: 'controller'; readonly channel: number; readonly controller: number; readonly value: number }
  /** 0–16383; 8192 is no bend. */
  | { readonly kind: 'bend'; readonly channel: number; readonly value: number }
  | { readonly kind: 'on' | 'off'; readonly channel: number; readonly pitch: number; readonly velocity: number }
);

export interface MidiTrack {
  readonly events: readonly MidiEvent[];
  /** Where the track ends, at least its last event. */
  readonly end: Ticks;
}

export interface MidiFile {
  readonly type: 0 | 1;
  /** Ticks to a quarter note. */
  readonly resolution: number;
  readonly tracks: readonly MidiTrack[];
}

/** A byte array that doubles as it grows: writing stays linear. */
class Bytes {
  private data = new Uint8Array(1024);
  length = 0;

  push(...values: number[]): void {
    if (this.length + values.length > this.data.length) {
      const grown = new Uint8Array(Math.max(this.data.length * 2, this.length + values.length));
      grown.set(this.data);
      this.data = grown;
    }
    for (const value of values) this.data[this.length++] = value;
  }

  append(bytes: Uint8Array): void {
    for (const byte of bytes) this.push(byte);
  }

  result(): Uint8Array<ArrayBuffer> {
    return this.data.slice(0, this.length);
  }
}

/**
 * At one moment: names and settings first, then releases, then new notes, so that repeated notes end before they
 * start again.
 */
const RANK: Readonly<Record<MidiEvent['kind'], number>> = {
  name: 0,
  port: 0,
  text: 1,
  marker: 1,
  metre: 2,
  key: 2,
  tempo: 2,
  master: 2,
  program: 3,
  controller: 4,
  bend: 4,
  off: 5,
  on: 6,
};

function encode(event: MidiEvent): number[] {
  switch (event.kind) {
    case 'name':
    case 'marker':
    case 'text': {
      // The standard says ASCII; readers today expect UTF-8, and plain letters are the same in both.
      const bytes = utf8(event.text);
      return [0xff, { text: 1, name: 3, marker: 6 }[event.kind], ...variable(bytes.length), ...bytes];
    }
    case 'port':
      return [0xff, 0x21, 1, event.port];
    case 'tempo':
      return [0xff, 0x51, 3, ...longBytes(Math.round(60_000_000 / event.bpm)).slice(1)];
    case 'metre':
      return [
        0xff,
        0x58,
        4,
        event.beats,
        31 - Math.clz32(event.unit),
        event.unit === 8 && event.beats % 3 === 0 ? 36 : (24 * 4) / event.unit,
        8,
      ];
    case 'key':
      return [0xff, 0x59, 2, event.accidentals & 255, event.minor ? 1 : 0];
    case 'master':
      return [0xf0, 7, 0x7f, 0x7f, 4, 1, 0, event.value, 0xf7];
    case 'program':
      return [0xc0 | event.channel, event.program];
    case 'controller':
      return [0xb0 | event.channel, event.controller, event.value];
    case 'bend':
      return [0xe0 | event.channel, event.value & 127, event.value >> 7];
    case 'on':
      return [0x90 | event.channel, event.pitch, event.velocity];
    case 'off':
      return [0x80 | event.channel, event.pitch, 64];
  }
}

function encodeTrack(track: MidiTrack): Uint8Array {
  const bytes = new Bytes();
  const events = [...track.events].sort((a, b) => a.at - b.at || RANK[a.kind] - RANK[b.kind]);
  let now = 0;
  for (const event of events) {
    bytes.push(...variable(event.at - now), ...encode(event));
    now = event.at;
  }
  bytes.push(...variable(Math.max(0, track.end - now)), 0xff, 0x2f, 0);
  return bytes.result();
}

/**
 * Writes a standard MIDI file (type 0 or 1). Linear in the number of events.
 */
export function writeMidi(file: MidiFile): Uint8Array<ArrayBuffer> {
  const bytes = new Bytes();
  bytes.push(
    0x4d,
    0x54,
    0x68,
    0x64,
    ...longBytes(6),
    0,
    file.type,
    ...longBytes(file.tracks.length).slice(2),
    ...longBytes(file.resolution).slice(2),
  );
  for (const track of file.tracks) {
    const body = encodeTrack(track);
    bytes.push(0x4d, 0x54, 0x72, 0x6b, ...longBytes(body.length));
    bytes.append(body);
  }
  return bytes.result();
}

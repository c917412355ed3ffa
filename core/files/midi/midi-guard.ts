export type Guarded =
  | { readonly ok: true; readonly bytes: Uint8Array }
  | { readonly ok: false; readonly reason: string; readonly at: number };

const LARGEST = 16 * 1024 * 1024;
/** More ticks than this from the beginning is no music: a day of it at the finest resolution. */
const LATEST = 0x3fff_ffff;

const refuse = (reason: string, at: number): Guarded => ({ ok: false, reason, at });

/** A MIDI file inside a RIFF wrapper, as some old programs save it; other files as they are. */
function unwrapped(bytes: Uint8Array): Uint8Array {
  if (bytes.length < 20 || tag(bytes, 0) !== 'RIFF' || tag(bytes, 8) !== 'RMID') return bytes;
  const little = (at: number): number =>
    ((bytes[at] ?? 0) | ((bytes[at + 1] ?? 0) << 8) | ((bytes[at + 2] ?? 0) << 16) | ((bytes[at + 3] ?? 0) << 24)) >>>
    0;
  for (let at = 12; at + 8 <= bytes.length; at += 8 + little(at + 4) + (little(at + 4) & 1)) {
    if (tag(bytes, at) === 'data') return bytes.subarray(at + 8, Math.min(bytes.length, at + 8 + little(at + 4)));
  }
  return bytes;
}

/**
 * Walks a MIDI file byte by byte before anything else reads it: header, chunk lengths, variable-length numbers, data
 * bytes, ends of tracks. A RIFF wrapper is taken off; chunks of other kinds are skipped.
 *
 * @returns the bytes of the MIDI file itself, or in words what is wrong and at which byte
 */
export function guardMidi(file: Uint8Array): Guarded {
  const bytes = unwrapped(file);
  if (bytes.length > LARGEST) return refuse('This file is larger than 16 MB, far beyond any song in MIDI.', 0);
  if (bytes.length < 14 || tag(bytes, 0) !== 'MThd')
    return refuse('This is not a MIDI file: it does not start with a MIDI header.', 0);
  if (long(bytes, 4) !== 6) return refuse('The header of this MIDI file has a wrong length.', 4);
  const division = ((bytes[12] ?? 0) << 8) | (bytes[13] ?? 0);
  if (division === 0) return refuse('This MIDI file has no time resolution.', 12);
  if (division & 0x8000)
    return refuse(
      'This MIDI file counts film frames (SMPTE) instead of beats. Save it with ticks per quarter note.',
      12,
    );
  const promised = ((bytes[10] ?? 0) << 8) | (bytes[11] ?? 0);
  let at = 14;
  let tracks = 0;
  let aliens = false;
  const known: Uint8Array[] = [bytes.subarray(0, 14)];
  while (at < bytes.length) {
    // Some programs pad the file after its last track.
    if (at + 8 > bytes.length && tracks >= promised && tracks > 0) break;
    if (at + 8 > bytes.length) return refuse('This MIDI file is cut off in the middle of a chunk.', at);
    const length = long(bytes, at + 4);
    const end = at + 8 + length;
    if (end > bytes.length) return refuse('This MIDI file is cut off: a track is shorter than it says.', at);
    if (tag(bytes, at) === 'MTrk') {
      const track = guardTrack(bytes, at + 8, end);
      if (!track.ok) return track;
      tracks++;
      known.push(bytes.subarray(at, end));
    } else aliens = true;
    at = end;
  }
  if (tracks === 0) return refuse('This MIDI file holds no track.', 14);
  return tracks < promised
    ? refuse(`This MIDI file promises ${promised} tracks but holds ${tracks}.`, 10)
    : { ok: true, bytes: aliens ? joined(known) : bytes.subarray(0, at) };
}

/** The chunks that are read, one after the other; chunks of other programs are left out. */
function joined(chunks: readonly Uint8Array[]): Uint8Array {
  const result = new Uint8Array(chunks.reduce((size, chunk) => size + chunk.length, 0));
  let at = 0;
  for (const chunk of chunks) {
    result.set(chunk, at);
    at += chunk.length;
  }
  return result;
}

const tag = (bytes: Uint8Array, at: number): string => String.fromCharCode(...bytes.subarray(at, at + 4));
const long = (bytes: Uint8Array, at: number): number =>
  (((bytes[at] ?? 0) << 24) | ((bytes[at + 1] ?? 0) << 16) | ((bytes[at + 2] ?? 0) << 8) | (bytes[at + 3] ?? 0)) >>> 0;

/** The place after the variable-length number at `from`; −1 when it has more than four bytes or runs out. */
function afterVariable(bytes: Uint8Array, from: number, end: number): number {
  for (let at = from; at < from + 4 && at < end; at++) if ((bytes[at] as number) < 128) return at + 1;
  return -1;
}

/** The number that ends before `to`. */
function variableValue(bytes: Uint8Array, from: number, to: number): number {
  let value = 0;
  for (let at = from; at < to; at++) value = (value << 7) | ((bytes[at] as number) & 127);
  return value;
}

/** Data bytes after each status nibble from 8 to E. */
const DATA_BYTES = [2, 2, 2, 2, 1, 1, 2] as const;

function guardTrack(bytes: Uint8Array, from: number, end: number): Guarded {
  let at = from;
  let running = 0;
  let now = 0;
  while (at < end) {
    const afterTime = afterVariable(bytes, at, end);
    if (afterTime < 0) return refuse('A time in this MIDI file is damaged.', at);
    now += variableValue(bytes, at, afterTime);
    if (now > LATEST) return refuse('A time in this MIDI file is absurdly late.', at);
    at = afterTime;
    const first = bytes[at] ?? 0;
    if (at >= end) return refuse('A track of this MIDI file stops in the middle of an event.', at);
    if (first === 0xff || first === 0xf0 || first === 0xf7) {
      const head = first === 0xff ? 2 : 1;
      const body = afterVariable(bytes, at + head, end);
      const next = body + variableValue(bytes, at + head, body);
      if (body < 0 || next > end) return refuse('An event of this MIDI file is longer than its track.', at);
      const ends = first === 0xff && bytes[at + 1] === 0x2f;
      // The standard ends a running status here; many programs write on under it, and it can be read all the same.
      at = next;
      if (ends)
        return at === end ? { ok: true, bytes } : refuse('A track of this MIDI file goes on after its end.', at);
      continue;
    }
    if (first >= 0xf0) return refuse('This MIDI file holds an event that has no place in files.', at);
    if (first >= 0x80) {
      running = first;
      at++;
    } else if (running === 0) return refuse('An event of this MIDI file lacks its kind.', at);
    const count = DATA_BYTES[(running >> 4) - 8] ?? 0;
    for (let index = 0; index < count; index++) {
      if (at + index >= end || (bytes[at + index] ?? 255) > 127)
        return refuse('An event of this MIDI file holds a value over 127.', at + index);
    }
    at += count;
  }
  return refuse('A track of this MIDI file has no end.', end);
}

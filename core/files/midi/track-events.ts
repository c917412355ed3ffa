import { variableAt } from './bytes';

/** Data bytes after each status nibble from 8 to E. */
const DATA_BYTES = [2, 2, 2, 2, 1, 1, 2] as const;
/** Data bytes after each status from F1 to F6: system messages, which have no place in files. */
const COMMON_BYTES = [1, 2, 1, 0, 0, 0] as const;

/** Meta events that have one length only, by their kind: sequence number, channel, port, tempo, SMPTE, metre, key. */
const META_LENGTHS: Readonly<Record<number, number>> = { 0: 2, 0x20: 1, 0x21: 1, 0x51: 3, 0x54: 5, 0x58: 4, 0x59: 2 };

/** True where a meta event is as long as its kind has to be; readers stop at others. */
const isMetaSound = (kind: number, length: number): boolean => (META_LENGTHS[kind] ?? length) === length;

/** Clocks and the like, which some recorders let slip into files; they may stand anywhere. */
const isRealTime = (byte: number): boolean => byte >= 0xf8 && byte < 0xff;

/** One event as it lies in a track. */
export interface TrackEvent {
  /** Ticks since the event before. */
  readonly delta: number;
  /** What it is: a channel message, a meta event or one of a system, one that is only stepped over, the end. */
  readonly kind: 'channel' | 'long' | 'stray' | 'end';
  /** The status of a channel message; else what its first byte is. */
  readonly status: number;
  /** Data of a channel message. */
  readonly data: readonly number[];
  /** Where the bytes after the time begin, and where the next event does. */
  readonly body: number;
  readonly next: number;
  /** True where its time was written with more bytes than the standard knows. */
  readonly overlong: boolean;
}

/** Why there is no event: the track ends within it, or what stands here is none. */
export interface NoEvent {
  readonly kind: 'cut' | 'bad';
  readonly delta: number;
  /** Where its time ended, as far as that can be said, and where reading may go on if its length can be believed. */
  readonly body: number;
  readonly next: number;
}

/** Times of more bytes than this are no times. */
const LONGEST_TIME = 9;

const none = (kind: NoEvent['kind'], delta: number, body: number, next = body + 1): NoEvent => ({
  kind,
  delta,
  body,
  next,
});

/**
 * Reads one event, strays of real time among its bytes left out.
 *
 * @param running  the status that holds on for messages without one of their own; 0 where there is none
 * @param timed    false where its time was read before
 */
export function eventAt(
  bytes: Uint8Array,
  at: number,
  end: number,
  running: number,
  timed = true,
): TrackEvent | NoEvent {
  const time = timed ? variableAt(bytes, at, end, LONGEST_TIME) : { value: 0, next: at };
  if (time.next < 0) return none(end - at < LONGEST_TIME ? 'cut' : 'bad', 0, at);
  const [delta, body] = [time.value, time.next];
  if (body >= end) return none('cut', delta, body);
  const first = bytes[body] as number;
  const said = { delta, status: first, body, overlong: time.next - at > 4 };
  if (first === 0xff || first === 0xf0 || first === 0xf7) {
    const head = body + (first === 0xff ? 2 : 1);
    const length = variableAt(bytes, head, end);
    const next = length.next + length.value;
    if (length.next < 0 || next > end) return none('cut', delta, body);
    const meta = first === 0xff ? (bytes[body + 1] as number) : null;
    const sound = meta === null || isMetaSound(meta, length.value);
    return { ...said, kind: meta === 0x2f ? 'end' : sound ? 'long' : 'stray', data: [], next };
  }
  if (first >= 0xf0) {
    const next = body + 1 + (COMMON_BYTES[first - 0xf1] ?? 0);
    return { ...said, kind: 'stray', data: [], next: Math.min(next, end) };
  }
  const status = first >= 0x80 ? first : running;
  if (status === 0) return none('bad', delta, body);
  return channelEvent(bytes, { ...said, status }, first >= 0x80 ? body + 1 : body, end);
}

function channelEvent(
  bytes: Uint8Array,
  said: Pick<TrackEvent, 'delta' | 'status' | 'body' | 'overlong'>,
  from: number,
  end: number,
): TrackEvent | NoEvent {
  const { delta, status, body } = said;
  const data: number[] = [];
  const count = DATA_BYTES[(status >> 4) - 8] ?? 0;
  let at = from;
  for (; data.length < count; at++) {
    if (at >= end) return none('cut', delta, body);
    const byte = bytes[at] as number;
    if (isRealTime(byte)) continue;
    if (byte > 127) return none('bad', delta, body, from + count);
    data.push(byte);
  }
  return { ...said, kind: 'channel', data, next: at };
}

/** How far a track is sound. */
export interface SoundStretch {
  /** The end of its last sound event, and the status that holds on there; 0 where none does. */
  readonly at: number;
  readonly running: number;
  /** True where all of it is sound, its one end included. */
  readonly whole: boolean;
}

/**
 * How far a track is sound, which nearly all are to their ends: lengths, data bytes, one end, no time beyond what is
 * asked. The quick look before anything is mended.
 *
 * @param longestRest  ticks between two events, at the most
 */
export function soundUntil(bytes: Uint8Array, from: number, end: number, longestRest: number): SoundStretch {
  let [at, running] = [from, 0];
  while (at < end) {
    const time = variableAt(bytes, at, end);
    let next = time.next;
    if (next < 0 || next >= end || time.value > longestRest) break;
    const first = bytes[next] as number;
    if (first === 0xff || first === 0xf0 || first === 0xf7) {
      const length = variableAt(bytes, next + (first === 0xff ? 2 : 1), end);
      const after = length.next + length.value;
      if (length.next < 0 || after > end) break;
      const kind = first === 0xff ? (bytes[next + 1] as number) : -1;
      if (kind === 0x2f) return { at, running, whole: after === end };
      if (kind >= 0 && !isMetaSound(kind, length.value)) break;
      // The standard ends a running status here; many programs write on under it, and it can be read all the same.
      at = after;
      continue;
    }
    if (first >= 0xf0 || (first < 0x80 && running === 0)) break;
    const status = first >= 0x80 ? first : running;
    if (first >= 0x80) next++;
    const data = next + (DATA_BYTES[(status >> 4) - 8] ?? 0);
    if (data > end) break;
    while (next < data && (bytes[next] as number) < 128) next++;
    if (next < data) break;
    running = status;
    at = data;
  }
  return { at, running, whole: false };
}

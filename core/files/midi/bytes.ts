/** Bytes of a MIDI file: big-endian numbers, names of chunks, numbers of variable length. */

/** Four letters at a place, as chunks are named. */
export const tagAt = (bytes: Uint8Array, at: number): string => String.fromCharCode(...bytes.subarray(at, at + 4));

/** An unsigned number of four bytes. */
export const longAt = (bytes: Uint8Array, at: number): number =>
  (((bytes[at] ?? 0) << 24) | ((bytes[at + 1] ?? 0) << 16) | ((bytes[at + 2] ?? 0) << 8) | (bytes[at + 3] ?? 0)) >>> 0;

/** An unsigned number of two bytes. */
export const shortAt = (bytes: Uint8Array, at: number): number => ((bytes[at] ?? 0) << 8) | (bytes[at + 1] ?? 0);

/**
 * Where a name of a chunk stands next.
 *
 * @returns −1 where it stands nowhere in the stretch
 */
export function findTag(bytes: Uint8Array, tag: string, from: number, to = bytes.length): number {
  const first = tag.charCodeAt(0);
  for (let at = bytes.indexOf(first, from); at >= 0 && at + tag.length <= to; at = bytes.indexOf(first, at + 1))
    if (tagAt(bytes, at) === tag) return at;
  return -1;
}

/** The bytes of a number of variable length: seven bits a byte, all but the last marked; at most four of them. */
export function variable(value: number): number[] {
  const bytes = [value & 127];
  for (let rest = value >>> 7; rest > 0; rest >>>= 7) bytes.unshift((rest & 127) | 128);
  return bytes;
}

/** A number of variable length as it lies in a file. */
export interface VariableAt {
  readonly value: number;
  /** The place after it; −1 where it runs out or has more bytes than was allowed. */
  readonly next: number;
}

/** @param most  bytes at the most; the standard knows four */
export function variableAt(bytes: Uint8Array, from: number, end: number, most = 4): VariableAt {
  let value = 0;
  for (let at = from; at < from + most && at < end; at++) {
    const byte = bytes[at] as number;
    value = value * 128 + (byte & 127);
    if (byte < 128) return { value, next: at + 1 };
  }
  return { value, next: -1 };
}

/** A number in four bytes. */
export const longBytes = (value: number): number[] => [
  (value >>> 24) & 255,
  (value >>> 16) & 255,
  (value >>> 8) & 255,
  value & 255,
];

/** Several stretches of bytes, one after the other. */
export function joined(chunks: readonly (Uint8Array | readonly number[])[]): Uint8Array {
  const result = new Uint8Array(chunks.reduce((size, { length }) => size + length, 0));
  let at = 0;
  for (const each of chunks) {
    result.set(each, at);
    at += each.length;
  }
  return result;
}

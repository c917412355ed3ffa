/** What tells whether a file is still the same: 64 bits as text. */
export type Fingerprint = string;

const PRIME = 0x01000193;

/** 32-bit FNV-1a over bytes (Fowler, Noll and Vo), begun with a seed. */
function fnv(bytes: Uint8Array, seed: number): number {
  let hash = seed;
  for (const byte of bytes) hash = Math.imul(hash ^ byte, PRIME);
  return hash >>> 0;
}

const hex = (value: number): string => value.toString(16).padStart(8, '0');

/** The fingerprint of a file's bytes: two hashes of different beginnings. */
export const fingerprintOf = (bytes: Uint8Array): Fingerprint =>
  hex(fnv(bytes, 0x811c9dc5)) + hex(fnv(bytes, 0x5bd1e995 ^ bytes.length));

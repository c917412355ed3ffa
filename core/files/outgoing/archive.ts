import { unzipSync, Zip, ZipPassThrough, zipSync } from 'fflate';
import { withNamesApart } from './file-names';

/** A file of an archive. */
export interface NamedBytes {
  readonly name: string;
  readonly bytes: Uint8Array<ArrayBuffer>;
}

/** Every entry carries one fixed date, so that the same files give the same bytes. */
const MADE = '1980-01-01T00:00:00';

/** Packs files into a zip. */
export function zipFiles(files: readonly NamedBytes[]): Uint8Array<ArrayBuffer> {
  const entries = Object.fromEntries(withNamesApart(files).map(({ name, bytes }) => [name, bytes]));
  return new Uint8Array(zipSync(entries, { level: 6, mtime: MADE }));
}

/** A zip that takes files as they come, as they are: sound is hardly smaller when it is packed. */
export interface OpenZip {
  /** @param name  unlike all that came before */
  add(name: string, bytes: Uint8Array): void;
  /** Ends it. @returns its bytes, piece by piece */
  end(): Uint8Array<ArrayBuffer>[];
}

/** @throws Error by its methods where a zip cannot hold what comes */
export function openZip(): OpenZip {
  const pieces: Uint8Array<ArrayBuffer>[] = [];
  const zip = new Zip((problem, piece) => {
    if (problem) throw problem;
    pieces.push(piece);
  });
  return {
    add(name, bytes) {
      const entry = new ZipPassThrough(name);
      entry.mtime = MADE;
      zip.add(entry);
      entry.push(bytes, true);
    },
    end() {
      zip.end();
      return pieces;
    },
  };
}

/** What is unpacked at most, in bytes: more would not fit into memory. */
const MOST = 1 << 30;

/**
 * The files of a zip in their order, without its folders.
 *
 * @throws Error where it is no zip, or holds more than can be held
 */
export function unzipFiles(zip: Uint8Array): NamedBytes[] {
  let total = 0;
  const entries = unzipSync(zip, {
    filter: ({ name, originalSize }) => {
      total += originalSize;
      if (total > MOST) throw new Error('there is more in it than fits into memory');
      return !name.endsWith('/');
    },
  });
  return Object.entries(entries).map(([name, bytes]) => ({ name, bytes: new Uint8Array(bytes) }));
}

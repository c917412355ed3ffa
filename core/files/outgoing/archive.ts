import { zipSync } from 'fflate';
import type { Delivery } from './deliver';
import { withNamesApart } from './file-names';

/**
 * Packs files into a zip, each of them; the same files give the same bytes, since every entry carries one fixed date.
 */
export function zipFiles(files: readonly Pick<Delivery, 'name' | 'bytes'>[]): Uint8Array<ArrayBuffer> {
  const entries = Object.fromEntries(withNamesApart(files).map(({ name, bytes }) => [name, bytes]));
  return new Uint8Array(zipSync(entries, { level: 6, mtime: '1980-01-01T00:00:00' }));
}

import { readBankFile } from '@fendro/core/files/incoming/bank';
import { unzipFiles, zipFiles, type NamedBytes } from '@fendro/core/files/outgoing/archive';
import { handOver, type HandOver, type HandOverWish } from '@fendro/core/files/outgoing/hand-over';
import { printedSheet, type PrintedSheet } from '@fendro/core/files/outgoing/printed-sheet';
import type { Provenance } from '@fendro/core/song/own-phrase';
import type { Music } from '@fendro/core/song/resolve';
import type { PartId } from '@fendro/core/song/schema';

/** A song file's text as data, with its takes beside it: they are fetched some at a time. */
export interface ReadSong {
  readonly frame: unknown;
  readonly takes: number;
}

export type BankFile = ReturnType<typeof readBankFile>;

let takes: readonly (readonly [string, unknown])[] = [];

const isRecord = (data: unknown): data is Record<string, unknown> =>
  typeof data === 'object' && data !== null && !Array.isArray(data);

/** What is done with files away from the page: plain values in, plain values out. */
export const filesWork = {
  /** @returns null where the text is no JSON */
  readSong(bytes: Uint8Array): ReadSong | null {
    let data: unknown;
    try {
      data = JSON.parse(new TextDecoder().decode(bytes));
    } catch {
      return null;
    }
    const ledger = isRecord(data) ? data['ledger'] : null;
    if (!isRecord(data) || !isRecord(ledger) || !isRecord(ledger['takes'])) return { frame: data, takes: 0 };
    takes = Object.entries(ledger['takes']);
    return { frame: { ...data, ledger: { ...ledger, takes: {} } }, takes: takes.length };
  },

  /** Some takes of the file that was read last, by their places. */
  takes: (from: number, to: number): readonly (readonly [string, unknown])[] => takes.slice(from, to),

  handOver: (music: Music, wish: HandOverWish): HandOver => handOver(music, wish),

  leadSheet: (music: Music, part: PartId): PrintedSheet | null => printedSheet(music, part),

  /** The phrases and drum patterns of a MIDI file. */
  bankFile: (bytes: Uint8Array, from: Provenance): BankFile => readBankFile(bytes, from),

  zip: (files: readonly NamedBytes[]): Uint8Array<ArrayBuffer> => zipFiles(files),

  unzip: (bytes: Uint8Array): readonly NamedBytes[] => unzipFiles(bytes),
};
export type FilesWork = typeof filesWork;

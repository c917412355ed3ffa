/// <reference lib="webworker" />
import { chordsOfFile, keysOfFile } from '@fendro/core/files/incoming/imported-song';
import { readImport } from '@fendro/core/files/incoming/midi-import';
import { toImportWorkerSchema, type FromImportWorker } from './import-messages';

function answer(data: unknown): FromImportWorker {
  const message = toImportWorkerSchema.parse(data);
  if (message.kind === 'chords')
    return { kind: 'chords', chords: chordsOfFile(message.file, message.picked, message.key) };
  const reading = readImport(message.bytes);
  if (!reading.ok) return { kind: 'refused', reason: reading.reason };
  return { kind: 'found', file: reading.file as never, keys: keysOfFile(reading.file).slice(0, 6) };
}

/** Reads and studies MIDI files away from the page, so that no file can hold it up. */
addEventListener('message', ({ data }: MessageEvent<unknown>) => {
  postMessage(answer(data));
});

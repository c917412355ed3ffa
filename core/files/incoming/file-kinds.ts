/** A recording is listened to instead. */
const recording = (name: string): string =>
  `This is a recording (${name}) and no MIDI file. Open it on the page “Bring in”: it is listened to there.`;

/** Recordings by how their files begin. */
const RECORDINGS: readonly (readonly [begins: RegExp, name: string])[] = [
  [/^RIFF....WAVE/s, 'WAV'],
  [/^(?:ID3|\u00FF[\u00E2-\u00FB])/, 'MP3'],
  [/^OggS/, 'Ogg'],
  [/^fLaC/, 'FLAC'],
  [/^....ftyp/s, 'M4A'],
  [/^FORM....AIF/s, 'AIFF'],
];

/** Files that are no MIDI files, by how they begin, and what to do with them. */
const KINDS: readonly (readonly [begins: RegExp, advice: string])[] = [
  ...RECORDINGS.map(([begins, name]) => [begins, recording(name)] as const),
  [/^PK\p{Cc}\p{Cc}/u, 'This is a zip archive. Unpack it, and bring in the MIDI files that are in it.'],
  [/^\p{Cc}\u008B/u, 'This is a packed file (gzip). Unpack it, and bring in the MIDI file that is in it.'],
  [/^Rar!/, 'This is a packed file (RAR). Unpack it, and bring in the MIDI files that are in it.'],
  [/^%PDF/, 'This is a printed page (PDF). Fendro reads MIDI files: export one from where the music was written.'],
  [/^\s*<!DOCTYPE html|^\s*<html/i, 'This is a web page and no MIDI file: the download may have failed. Try it again.'],
  [/^\s*\{\s*"/, 'This looks like a song file of Fendro’s. Open it on the Songs page.'],
  [
    /^(?:\u00EF\u00BB\u00BF)?\s*<\?xml/,
    'This is an XML file, perhaps a score. Export a MIDI file from the program that wrote it.',
  ],
];

/**
 * What to do with a file that is of another kind.
 *
 * @returns null where it may be a MIDI file
 */
export function otherKindOfFile(bytes: Uint8Array): string | null {
  if (bytes.length === 0) return 'This file is empty: nothing is in it. Copy it once more from where it comes from.';
  const begins = beginningOf(bytes);
  return KINDS.find(([pattern]) => pattern.test(begins))?.[1] ?? null;
}

const beginningOf = (bytes: Uint8Array): string => String.fromCharCode(...bytes.subarray(0, 64));

/** Whether a file that begins so is a recording. */
export const isRecording = (bytes: Uint8Array): boolean =>
  RECORDINGS.some(([pattern]) => pattern.test(beginningOf(bytes)));

import { isDrumRole, roleOf } from '../../song/roles';
import type { Brief } from '../../song/schema';
import { instrumentOf } from '../../sounding/instruments';
import { clamp, TICKS_PER_QUARTER } from '../../theory/units';
import { readMidi } from '../midi/midi-read';
import { barLinesOf } from './bar-lines';
import { namedChords } from './chord-names';
import type { ImportFile, ImportLine, ImportNote } from './file-model';
import { otherKindOfFile } from './file-kinds';
import { linesOf } from './lines';
import { remarksOf } from './remarks';
import { endOfMusic, markersOf, sectionsOf } from './sections';
import { statedKeys } from './stated-keys';

export type ImportReading =
  | { readonly ok: true; readonly file: ImportFile }
  | { readonly ok: false; readonly reason: string };

const MOST_NOTES = 200_000;
const LONGEST_BARS = 2000;

/**
 * Reads a standard MIDI file into lines that can become parts and stretches that can become sections. What is broken is
 * mended as far as it can be, and what was lost is told.
 */
export function readImport(bytes: Uint8Array): ImportReading {
  const other = otherKindOfFile(bytes);
  if (other !== null) return { ok: false, reason: other };
  const reading = readMidi(bytes);
  if (!reading.ok) return reading;
  const { file } = reading;
  const total = file.tracks.reduce((sum, track) => sum + track.notes.length, 0);
  if (total === 0) {
    const why = file.lost.length > 0 ? ': what could be read of it ends before its first note' : '';
    return { ok: false, reason: `This MIDI file holds no notes${why}. Choose another one, or export it once more.` };
  }
  if (total > MOST_NOTES)
    return {
      ok: false,
      reason: `This MIDI file holds ${total} notes; Fendro takes up to ${MOST_NOTES}. Cut it into shorter ones.`,
    };
  const scale = TICKS_PER_QUARTER / file.resolution;
  const lines = linesOf(file, scale);
  const { chords, markers } = namedChords(file, scale);
  const named = markersOf(markers, scale);
  const bars = barLinesOf(
    file,
    lines,
    named.map(({ at }) => at),
    scale,
  );
  const keys = statedKeys(file, pitchedNotes(lines), scale);
  const sections = sectionsOf(file, lines, { bars, keys, markers: named }, scale);
  if (sections.reduce((sum, section) => sum + section.bars, 0) > LONGEST_BARS)
    return { ok: false, reason: `This MIDI file is longer than ${LONGEST_BARS} bars. Cut it into shorter ones.` };
  return {
    ok: true,
    file: { lines, sections, length: endOfMusic(lines), chords, remarks: remarksOf(file, bars, { chords }) },
  };
}

/** Notes of all pitched lines together, in order, for finding key and chords. */
export const pitchedNotes = (lines: readonly ImportLine[]): ImportNote[] =>
  lines
    .filter(({ drums }) => !drums)
    .flatMap(({ notes }) => notes)
    .sort((a, b) => a.start - b.start);

/** The brief that an imported part starts with: its role's own, around the notes that it has. */
export function briefFor({ role, notes, instrument }: ImportLine): Brief {
  const usual = roleOf(role).brief;
  if (isDrumRole(role)) return usual;
  const { low, high } = instrumentOf(instrument);
  const pitches = notes.map(({ pitch }) => pitch);
  const from = clamp(
    pitches.reduce((least, pitch) => Math.min(least, pitch), 127),
    low,
    high - 7,
  );
  const to = pitches.reduce((most, pitch) => Math.max(most, pitch), 0);
  return { ...usual, low: from, high: clamp(to, from + 7, Math.max(high, from + 7)) };
}

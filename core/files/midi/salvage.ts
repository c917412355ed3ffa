import { findTag, joined, longAt, longBytes, shortAt, tagAt } from './bytes';
import { mendTrack } from './mend-track';
import { soundUntil } from './track-events';

/** What could not be brought over from a broken file; tracks are counted from 0 as they are found. */
export type Loss =
  /** The file breaks off in a track. */
  | { readonly kind: 'cut'; readonly track: number }
  /** Places of a track that could not be read were stepped over. */
  | { readonly kind: 'unreadable'; readonly track: number; readonly places: number }
  /** A rest that was too long to be meant was left out. */
  | { readonly kind: 'late'; readonly track: number }
  /** The header speaks of more tracks than there are. */
  | { readonly kind: 'missing'; readonly promised: number; readonly found: number }
  /** The file does not say how its ticks count. */
  | { readonly kind: 'resolution' }
  /** Something was broken, and nothing is lost by it. */
  | { readonly kind: 'mended' };

/** How the ticks of a file count: a quarter note's, a second's (film frames, SMPTE), or nothing is said of it. */
export type Counting =
  | { readonly by: 'quarter'; readonly ticks: number }
  | { readonly by: 'second'; readonly ticks: number }
  | { readonly by: 'unknown' };

interface Salvaged {
  readonly ok: true;
  /** A sound MIDI file of the tracks that were found; its header counts quarters whatever the file did. */
  readonly bytes: Uint8Array;
  readonly counting: Counting;
  readonly lost: readonly Loss[];
}

export type Salvage = Salvaged | { readonly ok: false; readonly reason: string };

const LARGEST = 16 * 1024 * 1024;
/** A rest of more quarters than this is no music. */
const LONGEST_REST = 4000;
/** So far into a file its header is looked for: other programs put their own before it. */
const FURTHEST_HEADER = 1 << 20;
/** What a header says that says nothing of ticks. */
const USUAL_RESOLUTION = 480;

interface Header {
  readonly format: number;
  /** Tracks that it speaks of; null where it does not. */
  readonly promised: number | null;
  readonly counting: Counting;
  /** Where the first chunk after it begins. */
  readonly next: number;
  readonly broken: boolean;
}

/** Frames a second as a header says them: 29 stands for the 29.97 of colour television. */
const framesPerSecond = (said: number): number => (said === 29 ? 30_000 / 1001 : said);

function countingOf(division: number): Counting {
  if (division === 0) return { by: 'unknown' };
  if ((division & 0x8000) === 0) return { by: 'quarter', ticks: division };
  const frames = 256 - (division >> 8);
  const ticks = framesPerSecond(frames) * (division & 255);
  return ticks > 0 && frames <= 60 ? { by: 'second', ticks } : { by: 'unknown' };
}

/** A header that may be shorter or longer than it says: what stands before the first track counts. */
function headerAt(bytes: Uint8Array, at: number): Header {
  const said = longAt(bytes, at + 4);
  const first = findTag(bytes, 'MTrk', at + 8, Math.min(bytes.length, at + 8 + FURTHEST_HEADER));
  const sound = said >= 6 && said < 1024 && isChunk(bytes, at + 8 + said);
  const next = sound ? at + 8 + said : first < 0 ? bytes.length : first;
  const size = next - at - 8;
  return {
    format: size >= 2 ? shortAt(bytes, at + 8) : 1,
    promised: size >= 4 ? shortAt(bytes, at + 10) : null,
    counting: size >= 6 ? countingOf(shortAt(bytes, at + 12)) : { by: 'unknown' },
    next,
    broken: !sound,
  };
}

/** True where a chunk can begin: four letters, and room for what it says it holds. */
const isChunk = (bytes: Uint8Array, at: number): boolean =>
  at + 8 <= bytes.length &&
  (tagAt(bytes, at) === 'MTrk' ||
    (/^[\w .-]{4}$/.test(tagAt(bytes, at)) && at + 8 + longAt(bytes, at + 4) <= bytes.length));

interface Tracks {
  readonly chunks: readonly Uint8Array[];
  readonly lost: readonly Loss[];
}

/** Where a track ends: where it says, if another chunk or nothing stands there; else before the next track. */
function endOfTrack(bytes: Uint8Array, from: number, said: number): number {
  const end = from + said;
  if (end < bytes.length && isChunk(bytes, end)) return end;
  const next = findTag(bytes, 'MTrk', from);
  return next < 0 ? bytes.length : next;
}

function tracksFrom(bytes: Uint8Array, first: number, longestRest: number): Tracks {
  const chunks: Uint8Array[] = [];
  const lost: Loss[] = [];
  let at = first;
  while (at + 8 <= bytes.length) {
    if (tagAt(bytes, at) !== 'MTrk') {
      // Chunks of other programs are stepped over, and so is what is no chunk at all.
      const track = isChunk(bytes, at) ? at + 8 + longAt(bytes, at + 4) : findTag(bytes, 'MTrk', at);
      if (track < 0) break;
      at = track;
      continue;
    }
    const said = longAt(bytes, at + 4);
    const [from, ends] = [at + 8, at + 8 + said];
    if (ends <= bytes.length && soundUntil(bytes, from, ends, longestRest).whole) {
      chunks.push(bytes.subarray(at, ends));
      at = ends;
      continue;
    }
    const track = chunks.length;
    const end = endOfTrack(bytes, from, said);
    const mended = mendTrack(bytes, from, soundUntil(bytes, from, end, longestRest), { end, longestRest });
    chunks.push(chunk('MTrk', mended.body));
    // A track that says it goes on beyond the end of the file is cut off, even where it breaks off between two events.
    const cut = mended.cut || (!mended.ended && ends > bytes.length);
    if (cut) lost.push({ kind: 'cut', track });
    if (mended.unreadable > 0) lost.push({ kind: 'unreadable', track, places: mended.unreadable });
    if (mended.late) lost.push({ kind: 'late', track });
    if (!cut && mended.unreadable === 0 && !mended.late) lost.push({ kind: 'mended' });
    at = mended.next;
  }
  return { chunks, lost };
}

const short = (value: number): number[] => [value >> 8, value & 255];
const chunk = (tag: string, body: Uint8Array | readonly number[]): Uint8Array =>
  joined([
    Uint8Array.from([...tag].map((letter) => letter.charCodeAt(0))),
    Uint8Array.from(longBytes(body.length)),
    body,
  ]);

/** The part of a file that is a MIDI file: without a wrapper of RIFF or MacBinary, or whatever else stands before it. */
function startOf(bytes: Uint8Array): number {
  const header = findTag(bytes, 'MThd', 0, Math.min(bytes.length, FURTHEST_HEADER));
  return header >= 0 ? header : findTag(bytes, 'MTrk', 0, Math.min(bytes.length, FURTHEST_HEADER));
}

/** What stands after a MIDI file in a RIFF wrapper is none of it. */
function withinWrapper(bytes: Uint8Array, start: number): Uint8Array {
  if (start < 8 || tagAt(bytes, start - 8) !== 'data') return bytes.subarray(start);
  const [a = 0, b = 0, c = 0, d = 0] = bytes.subarray(start - 4, start);
  const length = (a | (b << 8) | (c << 16) | (d << 24)) >>> 0;
  return bytes.subarray(start, length >= 22 ? Math.min(bytes.length, start + length) : bytes.length);
}

/**
 * Takes what can be read out of a standard MIDI file, however broken: wrappers and chunks of other programs are taken
 * off, headers and tracks that say wrong lengths are measured, tracks are mended event by event. Most files are sound
 * and come back as they are.
 *
 * @returns a sound MIDI file and what was lost, or in words why nothing can be read
 */
export function salvageMidi(file: Uint8Array): Salvage {
  if (file.length > LARGEST)
    return { ok: false, reason: 'This file is larger than 16 MB, far beyond any song in MIDI. Choose another one.' };
  const start = startOf(file);
  if (start < 0)
    return {
      ok: false,
      reason: 'This is not a MIDI file: it has neither a MIDI header nor a track. Choose a file that ends in .mid.',
    };
  const bytes = withinWrapper(file, start);
  const header: Header =
    tagAt(bytes, 0) === 'MThd'
      ? headerAt(bytes, 0)
      : { format: 1, promised: null, counting: { by: 'unknown' }, next: 0, broken: true };
  const ticks = header.counting.by === 'quarter' ? header.counting.ticks : USUAL_RESOLUTION;
  const { chunks, lost } = tracksFrom(bytes, header.next, ticks * LONGEST_REST);
  if (chunks.length === 0)
    return {
      ok: false,
      reason:
        'This MIDI file breaks off before its first track: there is nothing in it to bring in. ' +
        'Copy or export it once more from where it comes from.',
    };
  const found = chunks.length;
  const promised = header.promised ?? found;
  const missing: Loss[] = promised > found ? [{ kind: 'missing', promised, found }] : [];
  const unsaid: Loss[] = header.counting.by === 'unknown' ? [{ kind: 'resolution' }] : [];
  const broken: Loss[] = header.broken && unsaid.length === 0 ? [{ kind: 'mended' }] : [];
  const head = chunk('MThd', [...short(header.format), ...short(Math.min(found, 0xffff)), ...short(ticks)]);
  return {
    ok: true,
    bytes: joined([head, ...chunks]),
    counting: header.counting,
    lost: [...unsaid, ...missing, ...lost, ...broken],
  };
}

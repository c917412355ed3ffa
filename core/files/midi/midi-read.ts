import { parseMidi, type MidiData, type MidiEvent } from 'midi-file';
import { ControlsOfTrack, type Controls } from './midi-controls';
import { guessedResolution } from './resolution';
import { salvageMidi, type Counting, type Loss } from './salvage';
import { readText } from './text';

/** A note read from a file; ticks in the file's own resolution. */
export interface ReadNote {
  readonly start: number;
  readonly duration: number;
  readonly pitch: number;
  readonly velocity: number;
  readonly channel: number;
}

export interface ReadTrack {
  readonly name: string;
  readonly program: number | null;
  /** The first program of each channel. */
  readonly programs: Readonly<Record<number, number>>;
  /** The first value of each controller, on whichever channel. */
  readonly controllers: Readonly<Record<number, number>>;
  /** What each channel does besides its notes. */
  readonly controls: Readonly<Record<number, Controls>>;
  /** The MIDI port that the track names; null where it names none. */
  readonly port: number | null;
  readonly notes: readonly ReadNote[];
}

export interface ReadText {
  readonly at: number;
  readonly text: string;
}

/** A key signature. */
interface ReadKey {
  readonly at: number;
  /** Sharps, or flats below 0. */
  readonly accidentals: number;
  readonly minor: boolean;
}

/** Text that a file may carry beside its music. */
type TextKind = 'text' | 'lyrics' | 'cuePoint';

export interface ReadMidi {
  readonly type: number;
  /** Ticks to a quarter note; not always whole, where a file counts film frames. */
  readonly resolution: number;
  readonly tempo: number | null;
  readonly metre: { readonly beats: number; readonly unit: number } | null;
  readonly key: Omit<ReadKey, 'at'> | null;
  readonly markers: readonly ReadText[];
  readonly texts: Readonly<Record<TextKind, readonly ReadText[]>>;
  /** Every change of tempo, metre and key, in order. */
  readonly tempos: readonly { readonly at: number; readonly bpm: number }[];
  readonly metres: readonly { readonly at: number; readonly beats: number; readonly unit: number }[];
  readonly keys: readonly ReadKey[];
  readonly tracks: readonly ReadTrack[];
  readonly counting: Counting;
  /** What could not be brought over from a broken file. */
  readonly lost: readonly Loss[];
}

export type MidiReading =
  | { readonly ok: true; readonly file: ReadMidi }
  | { readonly ok: false; readonly reason: string };

/**
 * Reads a standard MIDI file, as much of it as can be read: it is checked and mended byte by byte first, for the
 * library inside accepts broken files silently and throws strings.
 */
export function readMidi(bytes: Uint8Array): MidiReading {
  const salvage = salvageMidi(bytes);
  if (!salvage.ok) return salvage;
  try {
    return { ok: true, file: collect(parseMidi(salvage.bytes), salvage.counting, salvage.lost) };
  } catch (problem) {
    return {
      ok: false,
      reason: `This MIDI file cannot be read (${String(problem)}). Export it once more from where it comes from.`,
    };
  }
}

interface Collected {
  readonly markers: ReadText[];
  readonly texts: Record<TextKind, ReadText[]>;
  readonly tempos: { at: number; bpm: number }[];
  readonly metres: { at: number; beats: number; unit: number }[];
  readonly keys: ReadKey[];
}

const USUAL_TEMPO = 120;

function collect(data: MidiData, counting: Counting, lost: readonly Loss[]): ReadMidi {
  const whole: Collected = {
    markers: [],
    texts: { text: [], lyrics: [], cuePoint: [] },
    tempos: [],
    metres: [],
    keys: [],
  };
  const ticks = data.header.ticksPerBeat ?? 480;
  const patterns = data.header.format === 2 && data.tracks.length > 1;
  const tracks = patterns
    ? inTurn(data.tracks, whole, ticks)
    : data.tracks.map((track) => collectTrack(track, whole, 0).track);
  for (const list of [whole.markers, whole.tempos, whole.metres, whole.keys, ...Object.values(whole.texts)])
    list.sort((a, b) => a.at - b.at);
  // Film frames go by seconds: one tempo says where the beats are, and no change of it moves anything.
  const tempos = counting.by === 'second' ? whole.tempos.slice(0, 1).map(({ bpm }) => ({ at: 0, bpm })) : whole.tempos;
  const tempo = tempos[0]?.bpm ?? null;
  const [metre, key] = [whole.metres[0], whole.keys[0]];
  return {
    type: data.header.format,
    resolution: resolutionOf(counting, tempo ?? USUAL_TEMPO, tracks, ticks),
    ...whole,
    tempo,
    tempos,
    metre: metre ? { beats: metre.beats, unit: metre.unit } : null,
    key: key ? { accidentals: key.accidentals, minor: key.minor } : null,
    tracks,
    counting,
    lost,
  };
}

function resolutionOf(counting: Counting, tempo: number, tracks: readonly ReadTrack[], ticks: number): number {
  if (counting.by === 'second') return (counting.ticks * 60) / tempo;
  if (counting.by === 'quarter') return ticks;
  return guessedResolution(tracks.flatMap(({ notes }) => notes.map(({ start }) => start)));
}

/** Tracks of a file of patterns follow one another, each from a bar line and under its own name (type 2). */
function inTurn(tracks: MidiData['tracks'], whole: Collected, ticks: number): ReadTrack[] {
  let from = 0;
  return tracks.map((events, index) => {
    const { track, end } = collectTrack(events, whole, from);
    if (track.notes.length > 0) {
      whole.markers.push({ at: from, text: track.name || `Pattern ${index + 1}` });
      const metre = whole.metres.findLast(({ at }) => at <= from) ?? { beats: 4, unit: 4 };
      const bar = (metre.beats * ticks * 4) / metre.unit;
      from += Math.max(1, Math.ceil((end - from) / bar)) * bar;
    }
    return track;
  });
}

/** Pairs starts and ends of notes, the earliest start with the next end. */
class OpenNotes {
  private readonly notes: Writable<ReadNote>[] = [];
  /** Those that have not ended yet, by channel and pitch. */
  private readonly open: Writable<ReadNote>[][] = [];

  begin(start: number, channel: number, pitch: number, velocity: number): void {
    const note = { start, duration: 0, pitch, velocity, channel };
    this.notes.push(note);
    (this.open[channel * 128 + pitch] ??= []).push(note);
  }

  end(at: number, channel: number, pitch: number): void {
    const note = this.open[channel * 128 + pitch]?.shift();
    if (note) note.duration = at - note.start;
  }

  /** Notes that the file never ends last until its track does. */
  endAll(at: number): readonly ReadNote[] {
    for (const note of this.open.flat()) note.duration = at - note.start;
    return this.notes.sort((a, b) => a.start - b.start || a.pitch - b.pitch);
  }
}

type Writable<T> = { -readonly [K in keyof T]: T[K] };

/** @param from  where the track begins, in the file's ticks */
function collectTrack(
  events: MidiData['tracks'][number],
  whole: Collected,
  from: number,
): { readonly track: ReadTrack; readonly end: number } {
  let now = from;
  let name = '';
  let port: number | null = null;
  const programs: Record<number, number> = {};
  const controllers: Record<number, number> = {};
  const controls = new ControlsOfTrack();
  const open = new OpenNotes();
  for (const event of events) {
    now += event.deltaTime;
    // Notes are nearly all there is, so they are asked for first.
    if (event.type === 'noteOff') open.end(now, event.channel, event.noteNumber);
    else if (event.type === 'noteOn' && event.velocity === 0) open.end(now, event.channel, event.noteNumber);
    else if (event.type === 'noteOn') open.begin(now, event.channel, event.noteNumber, event.velocity);
    else if (event.type === 'trackName') name ||= readText(event.text);
    else if (event.type === 'programChange') programs[event.channel] ??= event.programNumber;
    else if (event.type === 'controller') {
      controllers[event.controllerType] ??= event.value;
      controls.controlled(now, event.channel, event.controllerType, event.value);
    } else if (event.type === 'pitchBend') controls.bent(now, event.channel, event.value);
    else if (event.type === 'portPrefix') port ??= event.port;
    else collectWhole(event, now, whole);
  }
  const notes = open.endAll(now);
  const program = Object.values(programs)[0] ?? null;
  return { track: { name, program, programs, controllers, controls: controls.result(), port, notes }, end: now };
}

/** What is said of the whole music, in whichever track. */
function collectWhole(event: MidiEvent, at: number, whole: Collected): void {
  if (event.type === 'setTempo') {
    // A tempo of no time at all stands in some damaged files.
    if (event.microsecondsPerBeat > 0) whole.tempos.push({ at, bpm: 60_000_000 / event.microsecondsPerBeat });
  } else if (event.type === 'timeSignature') whole.metres.push({ at, beats: event.numerator, unit: event.denominator });
  else if (event.type === 'keySignature') {
    if (Math.abs(event.key) <= 7) whole.keys.push({ at, accidentals: event.key, minor: event.scale === 1 });
  } else if (event.type === 'marker') whole.markers.push({ at, text: readText(event.text) });
  else if (event.type === 'text' || event.type === 'lyrics' || event.type === 'cuePoint')
    whole.texts[event.type].push({ at, text: readText(event.text) });
}

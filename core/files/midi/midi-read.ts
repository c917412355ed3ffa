import { parseMidi, type MidiData } from 'midi-file';
import type { CurveKind } from '../../song/schema';
import { ControlsOfTrack } from './midi-controls';
import { guardMidi } from './midi-guard';
import { readText } from './text';

/** A note read from a file; ticks in the file's own resolution. */
interface ReadNote {
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
  /** How each channel is bent, trembles and swells: cents and %. */
  readonly controls: Readonly<
    Record<number, Readonly<Record<CurveKind, readonly { readonly at: number; readonly value: number }[]>>>
  >;
  /** The MIDI port that the track names; null where it names none. */
  readonly port: number | null;
  readonly notes: readonly ReadNote[];
}

export interface ReadMidi {
  readonly type: number;
  readonly resolution: number;
  readonly tempo: number | null;
  readonly metre: { readonly beats: number; readonly unit: number } | null;
  readonly key: { readonly accidentals: number; readonly minor: boolean } | null;
  readonly markers: readonly { readonly at: number; readonly text: string }[];
  /** Every change of tempo and metre, in order. */
  readonly tempos: readonly { readonly at: number; readonly bpm: number }[];
  readonly metres: readonly { readonly at: number; readonly beats: number; readonly unit: number }[];
  readonly tracks: readonly ReadTrack[];
}

export type MidiReading =
  { readonly ok: true; readonly file: ReadMidi } | { readonly ok: false; readonly reason: string };

/**
 * Reads a standard MIDI file behind a guard that checks it byte by byte first: the library inside accepts broken files
 * silently and throws strings.
 */
export function readMidi(bytes: Uint8Array): MidiReading {
  const guard = guardMidi(bytes);
  if (!guard.ok) return guard;
  let data: MidiData;
  try {
    data = parseMidi(guard.bytes);
  } catch (problem) {
    return { ok: false, reason: `This MIDI file cannot be read: ${String(problem)}.` };
  }
  return { ok: true, file: collect(data) };
}

interface Collected {
  tempo: number | null;
  metre: ReadMidi['metre'];
  key: ReadMidi['key'];
  markers: { at: number; text: string }[];
  tempos: { at: number; bpm: number }[];
  metres: { at: number; beats: number; unit: number }[];
}

function collect(data: MidiData): ReadMidi {
  const whole: Collected = { tempo: null, metre: null, key: null, markers: [], tempos: [], metres: [] };
  const tracks = data.tracks.map((track) => collectTrack(track, whole));
  for (const list of [whole.markers, whole.tempos, whole.metres]) list.sort((a, b) => a.at - b.at);
  return { type: data.header.format, resolution: data.header.ticksPerBeat ?? 480, ...whole, tracks };
}

function collectTrack(track: MidiData['tracks'][number], whole: Collected): ReadTrack {
  let now = 0;
  let name = '';
  const programs: Record<number, number> = {};
  const controllers: Record<number, number> = {};
  const controls = new ControlsOfTrack();
  let port: number | null = null;
  const open = new Map<number, { start: number; velocity: number }[]>();
  const notes: ReadNote[] = [];
  const end = (channel: number, pitch: number): void => {
    const begun = open.get(channel * 128 + pitch)?.shift();
    if (begun)
      notes.push({ start: begun.start, duration: now - begun.start, pitch, velocity: begun.velocity, channel });
  };
  for (const event of track) {
    now += event.deltaTime;
    // Notes are nearly all there is, so they are asked for first.
    if (event.type === 'noteOff') end(event.channel, event.noteNumber);
    else if (event.type === 'noteOn' && event.velocity === 0) end(event.channel, event.noteNumber);
    else if (event.type === 'noteOn') {
      const place = event.channel * 128 + event.noteNumber;
      const begun = open.get(place);
      if (begun) begun.push({ start: now, velocity: event.velocity });
      else open.set(place, [{ start: now, velocity: event.velocity }]);
    } else if (event.type === 'trackName') name = readText(event.text);
    else if (event.type === 'programChange') programs[event.channel] ??= event.programNumber;
    else if (event.type === 'controller') {
      controllers[event.controllerType] ??= event.value;
      controls.controlled(now, event.channel, event.controllerType, event.value);
    } else if (event.type === 'pitchBend') controls.bent(now, event.channel, event.value);
    else if (event.type === 'portPrefix') port ??= event.port;
    else if (event.type === 'setTempo') {
      // A tempo of no time at all stands in some damaged files.
      if (event.microsecondsPerBeat <= 0) continue;
      whole.tempo ??= 60_000_000 / event.microsecondsPerBeat;
      whole.tempos.push({ at: now, bpm: 60_000_000 / event.microsecondsPerBeat });
    } else if (event.type === 'timeSignature') {
      whole.metre ??= { beats: event.numerator, unit: event.denominator };
      whole.metres.push({ at: now, beats: event.numerator, unit: event.denominator });
    } else if (event.type === 'keySignature') whole.key ??= { accidentals: event.key, minor: event.scale === 1 };
    else if (event.type === 'marker') whole.markers.push({ at: now, text: readText(event.text) });
  }
  // Notes that the file never ends last until its track does.
  for (const [place, begun] of open)
    for (let left = begun.length; left > 0; left--) end(Math.floor(place / 128), place % 128);
  return {
    name,
    program: Object.values(programs)[0] ?? null,
    programs,
    controllers,
    controls: controls.result(),
    port,
    notes: notes.sort((a, b) => a.start - b.start || a.pitch - b.pitch),
  };
}

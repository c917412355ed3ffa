import { CURVE_KINDS } from '../../song/curve';
import { LIMITS, numbered, shortened } from '../../song/limits';
import type { CurveKind } from '../../song/schema';
import { clamp, countLeading, type Ticks } from '../../theory/units';
import type { Controls } from '../midi/midi-controls';
import { curvesOver, saysSomething, type ReadControls } from '../midi/midi-expression';
import type { ReadMidi, ReadNote, ReadTrack } from '../midi/midi-read';
import type { ImportLine, ImportNote } from './file-model';
import { instrumentFor } from './instrument-for';
import { mixOfLine } from './mix-of-line';
import { drumRoleFor, roleFor } from './role-for';

/** The channel of drums in General MIDI, counted from 0. */
const DRUM_CHANNEL = 9;

/** A channel's controls in Fendro's own ticks; null where it has none. */
function expressionOf(own: Controls | undefined, scale: number): ReadControls | null {
  if (!own || CURVE_KINDS.every((kind) => own[kind].length === 0)) return null;
  const scaled = (kind: CurveKind) => own[kind].map(({ at, value }) => ({ at: Math.round(at * scale), value }));
  return saysSomething({ bend: scaled('bend'), vibrato: scaled('vibrato'), swell: scaled('swell') });
}

/** Notes with the curves that their channel drew over them; of notes struck together the first has them for all. */
const expressed = (notes: readonly ImportNote[], controls: ReadControls | null): readonly ImportNote[] =>
  controls === null
    ? notes
    : notes.map((note, index) =>
        notes[index - 1]?.start === note.start ? note : { ...note, ...curvesOver(note, controls) },
      );

interface Stretch {
  readonly from: Ticks;
  readonly to: Ticks;
}

/** When the pedal is down; one that is never let go of is down to the end. */
function pedalled(own: Controls | undefined, scale: number, end: Ticks): readonly Stretch[] {
  const stretches: Stretch[] = [];
  let down: Ticks | null = null;
  for (const { at, value } of own?.pedal ?? []) {
    const now = Math.round(at * scale);
    if (value >= 50) down ??= now;
    else if (down !== null) {
      stretches.push({ from: down, to: now });
      down = null;
    }
  }
  return down === null ? stretches : [...stretches, { from: down, to: end }];
}

/** Notes that sound on while the pedal is down, each until its key is struck again. */
function sustained(notes: readonly ImportNote[], pedals: readonly Stretch[]): readonly ImportNote[] {
  if (pedals.length === 0) return notes;
  const struckNext = new Map<number, Ticks>();
  return notes
    .toReversed()
    .map((note) => {
      const end = note.start + note.duration;
      const again = struckNext.get(note.pitch) ?? Number.POSITIVE_INFINITY;
      struckNext.set(note.pitch, note.start);
      const pedal = pedals[countLeading(pedals, ({ from }) => from <= end) - 1];
      const rung = Math.min(pedal?.to ?? end, Math.max(end, again));
      const duration = Math.max(end, rung) - note.start;
      return duration > note.duration ? { ...note, duration, held: note.duration } : note;
    })
    .reverse();
}

const scaled = ({ start, duration, pitch, velocity }: ReadNote, scale: number): ImportNote => {
  const from = Math.round(start * scale);
  const until = Math.round((start + duration) * scale);
  return { start: from, duration: Math.max(1, until - from), pitch, velocity: clamp(velocity, 1, 127) };
};

/** What a channel is set to in this track, else in whichever track says it. */
const anywhere = <T>({ tracks }: ReadMidi, track: ReadTrack, of: (track: ReadTrack) => T | undefined): T | undefined =>
  of(track) ??
  tracks
    .filter(({ port }) => port === track.port)
    .map(of)
    .find((said) => said !== undefined);

function lineOf(file: ReadMidi, track: ReadTrack, index: number, channel: number, scale: number): ImportLine {
  const own = track.notes.filter((note) => note.channel === channel);
  const drums = channel === DRUM_CHANNEL;
  const program = anywhere(file, track, ({ programs }) => programs[channel]);
  const controls = anywhere(file, track, (other) => other.controls[channel]);
  const struck = own.map((note) => scaled(note, scale));
  const end = struck.reduce((last, { start, duration }) => Math.max(last, start + duration), 0);
  const instrument = instrumentFor(program ?? 0, drums);
  const name = track.name.trim();
  const notes = drums ? struck : sustained(struck, pedalled(controls, scale, end));
  return {
    id: `line-${index}-${channel}`,
    name: shortened(name, LIMITS.name) || instrument.name,
    drums,
    role: drums ? drumRoleFor(struck) : roleFor(struck, instrument.family, name),
    instrument: instrument.id,
    ...mixOfLine(controls, struck[0]?.start ?? 0, scale),
    notes: expressed(notes, drums ? null : expressionOf(controls, scale)),
  };
}

/** Lines of a file of patterns that sound one after the other on one instrument are one (type 2). */
function joinedInTurn(lines: readonly ImportLine[]): readonly ImportLine[] {
  const joined = new Map<string, ImportLine>();
  for (const line of lines) {
    const like = `${line.id.split('-')[2] ?? ''} ${line.instrument}`;
    const before = joined.get(like);
    joined.set(like, before ? { ...before, notes: [...before.notes, ...line.notes] } : line);
  }
  return [...joined.values()];
}

/**
 * The lines of a file: each channel of each track by itself. A track of several channels is a whole band: its lines are
 * called by what they sound on.
 *
 * @param scale  Fendro's ticks for one of the file's
 */
export function linesOf(file: ReadMidi, scale: number): readonly ImportLine[] {
  const lines = file.tracks.flatMap((track, index) => {
    const channels = [...new Set(track.notes.map(({ channel }) => channel))].sort((a, b) => a - b);
    const whole = channels.length > 1 ? { ...track, name: '' } : track;
    return channels.map((channel) => lineOf(file, whole, index, channel, scale));
  });
  return namedApart(file.type === 2 ? joinedInTurn(lines) : lines);
}

/** Lines of one name by their number. */
function namedApart(lines: readonly ImportLine[]): readonly ImportLine[] {
  const taken = new Set<string>();
  return lines.map((line) => {
    const name = numbered(line.name, taken, LIMITS.name);
    taken.add(name);
    return { ...line, name };
  });
}

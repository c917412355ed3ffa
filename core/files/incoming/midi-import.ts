import { LIMITS, shortened } from '../../song/limits';
import { isDrumRole, roleOf } from '../../song/roles';
import { CURVE_KINDS } from '../../song/curve';
import type { CurveKind, Note, Role } from '../../song/schema';
import { instrumentOf, INSTRUMENTS, type Instrument } from '../../sounding/instruments';
import { METRES, metreName, type Metre } from '../../theory/metre';
import { clamp, TICKS_PER_QUARTER, type MidiNote, type Ticks, type Velocity } from '../../theory/units';
import { curvesOver, saysSomething, type ReadControls } from '../midi/midi-expression';
import { readMidi, type ReadMidi, type ReadTrack } from '../midi/midi-read';
import { type Brief } from '../../song/schema';

/** A note of an imported line, in Fendro's own ticks from the beginning of the file. */
export interface ImportNote extends Pick<Note, CurveKind> {
  readonly start: Ticks;
  readonly duration: Ticks;
  readonly pitch: MidiNote;
  readonly velocity: Velocity;
}

/** One channel of one track: what can become a part. */
export interface ImportLine {
  readonly id: string;
  readonly name: string;
  readonly drums: boolean;
  readonly role: Role;
  readonly instrument: string;
  readonly notes: readonly ImportNote[];
}

/** A stretch of the file that becomes a section. */
export interface ImportSection {
  readonly name: string;
  readonly start: Ticks;
  readonly bars: number;
  readonly metre: Metre;
  readonly tempo: number;
}

export interface ImportFile {
  readonly lines: readonly ImportLine[];
  readonly sections: readonly ImportSection[];
  readonly length: Ticks;
  /** What had to be changed to bring the file in, in words. */
  readonly remarks: readonly string[];
}

export type ImportReading =
  { readonly ok: true; readonly file: ImportFile } | { readonly ok: false; readonly reason: string };

/** “ 16” after the name of a track that plays on several channels. */
const ROOM_FOR_CHANNEL = 3;
/** Music without markers is cut to sections of this many bars. */
const UNMARKED_SECTION = 16;
const MOST_NOTES = 200_000;
const LONGEST_BARS = 2000;

/**
 * Reads a standard MIDI file into lines that can become parts and stretches that can become sections.
 */
export function readImport(bytes: Uint8Array): ImportReading {
  const reading = readMidi(bytes);
  if (!reading.ok) return reading;
  const { file } = reading;
  const total = file.tracks.reduce((sum, track) => sum + track.notes.length, 0);
  if (total === 0) return { ok: false, reason: 'This MIDI file holds no notes.' };
  if (total > MOST_NOTES)
    return { ok: false, reason: `This MIDI file holds ${total} notes; Fendro takes up to ${MOST_NOTES}.` };
  const scale = TICKS_PER_QUARTER / file.resolution;
  const lines = file.tracks.flatMap((track, index) => linesOf(track, index, scale));
  const length = Math.max(...lines.flatMap(({ notes }) => notes.map(({ start, duration }) => start + duration)));
  const sections = sectionsOf(file, length, scale);
  if (sections.reduce((sum, { bars }) => sum + bars, 0) > LONGEST_BARS)
    return { ok: false, reason: `This MIDI file is longer than ${LONGEST_BARS} bars.` };
  return { ok: true, file: { lines, sections, length, remarks: remarksOf(file) } };
}

/** A channel's controls in Fendro's own ticks; null where it has none. */
function controlsOf({ controls }: ReadTrack, channel: number, scale: number): ReadControls | null {
  const own = controls[channel];
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

function linesOf(whole: ReadTrack, index: number, scale: number): ImportLine[] {
  const { notes, name: track, programs } = whole;
  const channels = [...new Set(notes.map(({ channel }) => channel))].sort((a, b) => a - b);
  return channels.map((channel): ImportLine => {
    const own = notes
      .filter((note) => note.channel === channel)
      .map(({ start, duration, pitch, velocity }) => {
        const from = Math.round(start * scale);
        return {
          start: from,
          duration: Math.max(1, Math.round((start + duration) * scale) - from),
          pitch,
          velocity: clamp(velocity, 1, 127),
        };
      });
    const drums = channel === 9;
    const role = drums ? 'drums' : roleFor(own);
    const instrument = instrumentFor(programs[channel] ?? 0, drums, role);
    const plain = shortened(track.trim(), LIMITS.name - ROOM_FOR_CHANNEL) || instrument.name;
    return {
      id: `line-${index}-${channel}`,
      name: channels.length > 1 ? `${plain} ${channel + 1}` : plain,
      drums,
      role,
      instrument: instrument.id,
      notes: expressed(own, drums ? null : controlsOf(whole, channel, scale)),
    };
  });
}

/** A likely role by register, by how many notes sound together and by how much they move. */
function roleFor(notes: readonly ImportNote[]): Role {
  const starts = new Set(notes.map(({ start }) => start)).size;
  const together = notes.length / Math.max(1, starts);
  const mean = notes.reduce((sum, { pitch }) => sum + pitch, 0) / Math.max(1, notes.length);
  const length = notes.reduce((sum, { duration }) => sum + duration, 0) / Math.max(1, notes.length);
  if (together < 1.2) return mean < 50 ? 'bass' : 'melody';
  return length > 2 * TICKS_PER_QUARTER ? 'pad' : 'comping';
}

/** The instrument of a General MIDI program, or the nearest of its family of eight. */
function instrumentFor(program: number, drums: boolean, role: Role): Instrument {
  const options = INSTRUMENTS.filter((instrument) => (instrument.family === 'drums') === drums);
  const near = options.filter((instrument) => instrument.program >> 3 === program >> 3);
  const exact = near.find((instrument) => instrument.program === program);
  return (
    exact ??
    near[0] ??
    (drums ? instrumentOf('standard-kit') : instrumentOf(role === 'bass' ? 'fingered-bass' : 'grand-piano'))
  );
}

/** A metre of the file as Fendro groups it. */
function metreOf(beats: number, unit: number): Metre {
  const known = METRES.find((metre) => metreName(metre) === `${beats}/${unit}`);
  if (known) return known;
  const groups: number[] = [];
  for (let left = beats; left > 0; left -= groups.at(-1) as number)
    groups.push(left === 3 || (unit >= 8 && left % 3 === 0) ? 3 : Math.min(2, left));
  return { beats, unit: unit as Metre['unit'], groups };
}

const barLength = ({ beats, unit }: Metre): Ticks => (beats * TICKS_PER_QUARTER * 4) / unit;

const isUsable = ({ beats, unit }: { readonly beats: number; readonly unit: number }): boolean =>
  beats >= 1 && beats <= 16 && [2, 4, 8, 16].includes(unit);

/** Stretches between markers and changes of metre, in whole bars, cut where they are too long. */
function sectionsOf(file: ReadMidi, length: Ticks, scale: number): ImportSection[] {
  const metres = file.metres
    .filter(isUsable)
    .map(({ at, beats, unit }) => ({ at: Math.round(at * scale), metre: metreOf(beats, unit) }));
  const tempos = file.tempos.map(({ at, bpm }) => ({ at: Math.round(at * scale), bpm }));
  const markers = file.markers
    .map(({ at, text }) => ({ at: Math.round(at * scale), text: shortened(text.trim(), LIMITS.name) }))
    .filter(({ at }) => at < length);
  const metreAt = (at: Ticks): Metre =>
    metres.findLast((change) => change.at <= at)?.metre ?? metres[0]?.metre ?? (METRES[2] as Metre);
  const tempoAt = (at: Ticks): number =>
    clamp(
      Math.round((tempos.findLast((change) => change.at <= at)?.bpm ?? tempos[0]?.bpm ?? 120) * 100) / 100,
      20,
      300,
    );
  const edges = [...new Set([0, ...markers.map(({ at }) => at), ...metres.map(({ at }) => at)])]
    .filter((at) => at < length)
    .sort((a, b) => a - b);
  const longest = markers.length > 0 ? LIMITS.bars : UNMARKED_SECTION;
  const sections: ImportSection[] = [];
  let start = 0;
  edges.forEach((edge, index) => {
    const metre = metreAt(edge);
    const bar = barLength(metre);
    const until = edges[index + 1] ?? length;
    // A marker between bar lines counts from the nearest one.
    let bars = Math.max(0, Math.round((until - start) / bar));
    if (index === edges.length - 1) bars = Math.max(1, Math.ceil((until - start) / bar));
    const name = markers.findLast(({ at }) => at <= edge)?.text ?? '';
    while (bars > 0) {
      const size = Math.min(bars, bars <= LIMITS.bars && markers.length > 0 ? bars : longest);
      sections.push({ name, start, bars: size, metre, tempo: tempoAt(start) });
      start += size * bar;
      bars -= size;
    }
  });
  return sections;
}

function remarksOf(file: ReadMidi): string[] {
  const remarks: string[] = [];
  const odd = file.metres.filter((metre) => !isUsable(metre));
  if (odd.length > 0)
    remarks.push(
      `A metre of ${odd[0]?.beats}/${odd[0]?.unit} is not one of Fendro’s; its bars are counted in the metre before.`,
    );
  const tempos = new Set(file.tempos.map(({ bpm }) => Math.round(bpm)));
  if (tempos.size > 1) remarks.push('The tempo changes in this file; each section takes the tempo at its beginning.');
  return remarks;
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
  const from = clamp(Math.min(...pitches), low, high - 7);
  return { ...usual, low: from, high: clamp(Math.max(...pitches), from + 7, Math.max(high, from + 7)) };
}

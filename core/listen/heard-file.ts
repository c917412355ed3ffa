import type { ImportFile, ImportLine, ImportNote, ImportSection } from '../files/incoming/file-model';
import { TEMPO_LIMITS, type Role, type TempoPoint } from '../song/schema';
import { barTicks, type Metre } from '../theory/metre';
import { clamp, TICKS_PER_QUARTER, type Ticks } from '../theory/units';
import { barsFrom, barsIn } from './bars';
import { beatsOf, tempoOf } from './beats';
import { countedBeats, type CountedBeats } from './compound';
import { pulseOf } from './pulse';
import type { HeardNote } from './heard-note';
import type { HeardSound } from './heard-sound';
import { middlePitch, voicesOf, type HeardVoice } from './voices';
import { beatTicks, countedIn, tempoBetween, tickAt, writtenTime, type WrittenTime } from './written-time';

/** What a writer sets right by hand; what is absent is as it is heard. */
export interface Correction {
  /** Counted beats a minute: dotted quarters in 6/8. */
  readonly tempo?: number;
  /** A moment that a bar line stands at, in seconds: the beat nearest to it begins a bar. */
  readonly line?: number;
  readonly metre?: Metre;
}

/** A recording as it is written down. */
export interface WrittenRecording {
  readonly file: ImportFile;
  /** Where its first bar line lies, in seconds of the recording; below 0 where the bar begins before the sound does. */
  readonly first: number;
  /** Counted beats a minute, over all of it. */
  readonly tempo: number;
  readonly metre: Metre;
  /** Whether the beats come as even as a machine's. */
  readonly even: boolean;
  readonly time: WrittenTime;
}

const FOUR_FOUR: Metre = { beats: 4, unit: 4, groups: [2, 2] };
const METRES: Readonly<Record<string, Metre>> = {
  '3 simple': { beats: 3, unit: 4, groups: [3] },
  '4 simple': FOUR_FOUR,
  '2 compound': { beats: 6, unit: 8, groups: [3, 3] },
  '4 compound': { beats: 12, unit: 8, groups: [3, 3, 3, 3] },
};
/** Recordings have no markers: they are cut to sections of so many bars. */
const SECTION = 16;
/** Sound that rings on for so much of a bar makes none of its own. */
const RINGS = 0.5;
/** A note is put onto the grid where that moves it by no more than this, in seconds. */
const NEAR = 0.045;
/** The grid: sixteenths and triplets of a beat that divides in two, sixteenths of one that divides in three. */
const [STRAIGHT, TRIPLET, SHORTEST] = [120, 160, 60] as const;

/**
 * Writes a recording down: beats, bars, lines of notes, in the form in which MIDI files come in.
 *
 * @param sound       its notes in order of their starts
 * @param correction  what holds in place of what would be heard
 */
export function heardFile(sound: HeardSound, correction: Correction = {}): WrittenRecording {
  const pulse = pulseOf(sound);
  const { beats, compound } = beatsFor(pulse, correction);
  const counts = correction.metre ? [countedIn(correction.metre)] : compound ? [2, 4] : [3, 4];
  const heard = correction.line === undefined ? barsIn(sound, beats, counts) : barsFrom(beats, correction.line, counts);
  const metre = correction.metre ?? METRES[`${heard.count} ${compound ? 'compound' : 'simple'}`] ?? FOUR_FOUR;
  const time = writtenTime(heard, sound.notes, metre);
  const lines = voicesOf(sound.notes).map((voice, index) => lineOf(voice, time, index));
  const end = Math.max(barTicks(metre), ...lines.flatMap(({ notes }) => notes.map(endOf)));
  const last = Math.min(time.times.length - 1, Math.ceil(end / time.beat));
  return {
    file: { lines, sections: sectionsOf(time, lines, beats.even), length: end, chords: [], remarks: [] },
    first: time.times[0] ?? 0,
    tempo: (tempoBetween(time, 0, last) * TICKS_PER_QUARTER) / beatTicks(metre),
    metre,
    even: beats.even,
    time,
  };
}

/** Beats as they are counted: at the tempo that was typed, else as they are heard. */
function beatsFor(pulse: Float32Array, { tempo, metre }: Correction): CountedBeats {
  const beats = beatsOf(pulse, tempoOf(pulse, tempo));
  const compound = metre ? beatTicks(metre) !== TICKS_PER_QUARTER : undefined;
  if (tempo !== undefined) return { beats, compound: compound ?? false };
  const counted = countedBeats(pulse, beats);
  return compound === undefined ? counted : { ...counted, compound };
}

const endOf = ({ start, duration }: ImportNote): Ticks => start + duration;

const LINES: Readonly<Record<HeardVoice['plays'], { name: string; role: Role; instrument: string }>> = {
  bass: { name: 'Bass', role: 'bass', instrument: 'fingered-bass' },
  chords: { name: 'Chords', role: 'comping', instrument: 'grand-piano' },
  'upper line': { name: 'Upper line', role: 'melody', instrument: 'grand-piano' },
  'single line': { name: 'Line', role: 'melody', instrument: 'grand-piano' },
};
/** A single line whose middle lies below this is a bass. */
const LOW_LINE = 50;

function lineOf(voice: HeardVoice, time: WrittenTime, index: number): ImportLine {
  const plays = voice.plays === 'single line' && middlePitch(voice.notes) < LOW_LINE ? 'bass' : voice.plays;
  return { id: `heard-${index + 1}`, drums: false, moves: {}, ...LINES[plays], notes: writtenNotes(voice.notes, time) };
}

/** Notes in ticks, on the grid where that is near; no two of a key overlap. */
function writtenNotes(notes: readonly HeardNote[], time: WrittenTime): ImportNote[] {
  const ends = new Map<number, number>();
  const written: ImportNote[] = [];
  for (const note of notes) {
    const start = Math.max(0, Math.round(onGrid(time, note.start)));
    if (start < (ends.get(note.pitch) ?? 0)) continue;
    const duration = Math.max(SHORTEST, Math.round(tickAt(time, note.end)) - start);
    written.push({ start, duration, pitch: note.pitch, velocity: clamp(Math.round(30 + 90 * note.strength), 1, 127) });
    ends.set(note.pitch, start + 1);
  }
  const next = new Map<number, ImportNote>();
  return written
    .toReversed()
    .map((note) => {
      const after = next.get(note.pitch);
      const own = after && endOf(note) > after.start ? { ...note, duration: after.start - note.start } : note;
      next.set(note.pitch, own);
      return own;
    })
    .filter(({ duration }) => duration > 0)
    .reverse()
    .sort((a, b) => a.start - b.start || a.pitch - b.pitch);
}

/** The tick of a moment, on the grid where that moves it by little. */
function onGrid(time: WrittenTime, seconds: number): number {
  const tick = tickAt(time, seconds);
  const beat = Math.floor(tick / time.beat);
  const ticksNear = (NEAR * time.beat) / Math.max(0.1, (time.times[beat + 1] ?? 0.5) - (time.times[beat] ?? 0));
  const grids = time.beat === TICKS_PER_QUARTER ? [STRAIGHT, TRIPLET] : [STRAIGHT];
  const [place = tick] = grids
    .map((grid) => Math.round(tick / grid) * grid)
    // A triplet has to be clearly nearer.
    .sort(
      (a, b) =>
        Math.abs(a - tick) - Math.abs(b - tick) + (a % STRAIGHT === 0 ? -10 : 0) + (b % STRAIGHT === 0 ? 10 : 0),
    );
  return Math.abs(place - tick) <= ticksNear ? place : tick;
}

const steady = (tempo: number): number => clamp(Math.round(tempo * 100) / 100, TEMPO_LIMITS.low, TEMPO_LIMITS.high);

/** Sections of whole bars; where beats are uneven, each bar has its own tempo. */
function sectionsOf(time: WrittenTime, lines: readonly ImportLine[], even: boolean): ImportSection[] {
  const bar = barTicks(time.metre);
  const notes = lines.flatMap((line) => line.notes);
  const [last, end] = [Math.max(0, ...notes.map(({ start }) => start)), Math.max(0, ...notes.map(endOf))];
  const count = countedIn(time.metre);
  // What only rings on makes no bar of its own.
  const bars = Math.max(1, Math.ceil(end / bar - RINGS), Math.floor(last / bar) + 1);
  const sections: ImportSection[] = [];
  const whole = steady(tempoBetween(time, 0, Math.min(time.times.length - 1, bars * count)));
  for (let from = 0; from < bars; from += SECTION) {
    const size = Math.min(SECTION, bars - from);
    const tempoOfBar = (at: number): number => steady(tempoBetween(time, at * count, (at + 1) * count));
    const tempo = even ? whole : tempoOfBar(from);
    const tempos = even ? [] : temposOf(tempo, size, bar, (at) => tempoOfBar(from + at));
    sections.push({ name: '', start: from * bar, bars: size, metre: time.metre, tempo, tempos, key: null });
  }
  return sections;
}

/** Bars that each have a tempo of their own, in % of the first. */
const temposOf = (tempo: number, bars: number, bar: Ticks, tempoOfBar: (at: number) => number): TempoPoint[] =>
  Array.from({ length: bars }, (_, at): TempoPoint[] => {
    const value = (100 * tempoOfBar(at)) / tempo;
    const before = at === 0 ? [] : [{ at: at * bar - 1, value: (100 * tempoOfBar(at - 1)) / tempo }];
    return [...before, { at: at * bar, value }];
  }).flat();

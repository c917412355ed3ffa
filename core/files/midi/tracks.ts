import type { Ground, Score } from '../../song/schema';
import { tempoOf, tempoStretches, type Course } from '../../sounding/course';
import type { ControlEvent } from '../../sounding/expression';
import type { NoteEvent, Performance } from '../../sounding/performance';
import { levelController, type Voice } from '../../sounding/setup';
import { keySignature } from '../../theory/key';
import { printedName } from '../../theory/pitch';
import { scaleOf } from '../../theory/scale';
import { TICKS_PER_QUARTER, type Ticks } from '../../theory/units';
import type { Address } from './midi-channels';
import { bendRange, controlValue, rangeEvents, toneControllers } from './midi-expression';
import type { MidiEvent, MidiTrack } from './midi-write';

/** A scale by its name; one of a writer's own with its degrees, which nobody else knows. */
const toldScale = (id: string): string => {
  const { name, family, degrees } = scaleOf(id);
  return family === 'Own' ? `${name} (${degrees.join(' ')})` : name;
};

/**
 * What a ground tells other programs. The scale's own name goes along as text, since a key signature knows only two
 * modes.
 */
const groundEvents = (at: Ticks, { tonic, scale, metre }: Ground): MidiEvent[] => [
  { at, kind: 'text', text: `Key: ${printedName(tonic)} ${toldScale(scale)}` },
  { at, kind: 'metre', beats: metre.beats, unit: metre.unit },
  { at, kind: 'key', ...keySignature({ tonic, scale }) },
];

/** A tempo that changes evenly is written in steps of a sixteenth, each as long as it is heard. */
const TEMPO_STEP: Ticks = 120;

/** Tempos wherever they change, in ticks of the course. */
function tempoEvents(course: Course, score: Score): { at: Ticks; bpm: number }[] {
  const { secondsAt } = tempoOf(course, score);
  const events: { at: Ticks; bpm: number }[] = [];
  const say = (at: Ticks, bpm: number): void => {
    if (events.at(-1)?.bpm !== bpm) events.push({ at, bpm });
  };
  for (const { start, end, tempo, endTempo = tempo } of course.flatMap(tempoStretches)) {
    if (tempo === endTempo) {
      say(start, tempo);
      continue;
    }
    for (let at = start; at < end; at += TEMPO_STEP) {
      const next = Math.min(end, at + TEMPO_STEP);
      say(at, ((next - at) / TICKS_PER_QUARTER) * (60 / (secondsAt(next) - secondsAt(at))));
    }
  }
  return events;
}

export interface ConductorRequest {
  readonly title: string;
  readonly course: Course;
  readonly score: Score;
  /** Ticks that stand before the first bar for a pick-up; they go by the first ground. */
  readonly lead: Ticks;
  readonly end: Ticks;
  /** Whether sections are named where they begin. */
  readonly markers: boolean;
}

/** Tempo, metre and key wherever they change, the level of the whole, and markers. */
export function conductor({ title, course, score, lead, end, markers }: ConductorRequest): MidiTrack {
  const grounds = course.flatMap(({ start, part, ground }, index) => {
    if (ground === course[index - 1]?.ground) return [];
    return groundEvents(index === 0 ? 0 : start + part.from + lead, ground);
  });
  return {
    events: [
      { at: 0, kind: 'name', text: title },
      ...(score.master === undefined ? [] : [{ at: 0, kind: 'master', value: levelController(score.master) } as const]),
      ...(course.length === 0 ? groundEvents(0, score.ground) : grounds),
      ...(course.length === 0 ? [{ at: 0, bpm: score.ground.tempo }] : tempoEvents(course, score)).map(
        ({ at, bpm }, index): MidiEvent => ({ at: index === 0 ? 0 : at + lead, kind: 'tempo', bpm }),
      ),
      ...(markers
        ? course.map(({ start, part, section }): MidiEvent => ({
            at: start + part.from + lead,
            kind: 'marker',
            text: section.name,
          }))
        : []),
    ],
    end,
  };
}

/** A voice's instrument, volume, pan and tone on its channel, from the start. */
const setupEvents = ({ instrument, level, pan, tone }: Voice, { channel }: Address): MidiEvent[] => [
  { at: 0, kind: 'program', channel, program: instrument.program },
  { at: 0, kind: 'controller', channel, controller: 7, value: level },
  { at: 0, kind: 'controller', channel, controller: 10, value: pan },
  ...toneControllers(tone).map((said): MidiEvent => ({ at: 0, kind: 'controller', channel, ...said })),
];

const strokeEvents = (notes: readonly NoteEvent[], channel: number, lead: Ticks): MidiEvent[] =>
  notes.flatMap(({ at, end, pitch, velocity }): MidiEvent[] => {
    // A hand that is a hair early on the first beat of a file strikes at its very start.
    const start = Math.max(0, at + lead);
    return [
      { at: start, kind: 'on', channel, pitch, velocity },
      { at: Math.max(start + 1, end + lead), kind: 'off', channel, pitch, velocity: 0 },
    ];
  });

/** How a voice is bent and swells, in as narrow a range as its bends need. */
function controlledEvents(controls: readonly ControlEvent[], channel: number, lead: Ticks): MidiEvent[] {
  const range = bendRange(controls);
  return [
    ...rangeEvents(range, channel),
    ...controls.map((control) => ({ at: Math.max(0, control.at + lead), channel, ...controlValue(control, range) })),
  ];
}

export interface TrackRequest {
  readonly performance: Performance;
  readonly lead: Ticks;
  readonly end: Ticks;
}

/** A voice and where it sounds in a file. */
export interface Addressed {
  readonly voice: Voice;
  readonly address: Address;
}

/**
 * A track: its name, and for each of its voices the instrument, how it stands in the mix, and what it plays.
 *
 * @param voices  one, or a line's own and those that double it; all on one port
 * @param ported  true where the file uses several ports, and so every track has to name its own
 */
export function voiceTrack(
  voices: readonly Addressed[],
  ported: boolean,
  { performance, lead, end }: TrackRequest,
): MidiTrack {
  const tracks = voices.map(({ voice, address }) => voiceEvents(voice, address, { performance, lead, end }));
  return {
    events: [
      { at: 0, kind: 'name', text: voices[0]?.voice.name ?? '' },
      ...(ported ? [{ at: 0, kind: 'port', port: voices[0]?.address.port ?? 0 } as const] : []),
      ...tracks.flatMap(({ events }) => events),
    ],
    end: Math.max(end, ...tracks.map((track) => track.end)),
  };
}

/** What a voice does on its channel. */
function voiceEvents(voice: Voice, address: Address, { performance, lead, end }: TrackRequest): MidiTrack {
  const own = performance.events.filter((event) => event.voice === voice.id);
  const notes = own.filter((event) => event.kind === 'note');
  const { channel } = address;
  const programs = own
    .filter((event) => event.kind === 'program')
    .filter(({ instrument }, index, all) => (all[index - 1]?.instrument ?? voice.instrument) !== instrument);
  return {
    events: [
      ...setupEvents(voice, address),
      ...programs.map(({ at, instrument }): MidiEvent => ({
        at: at + lead,
        kind: 'program',
        channel,
        program: instrument.program,
      })),
      ...controlledEvents(
        own.filter((event) => event.kind === 'control'),
        channel,
        lead,
      ),
      ...strokeEvents(notes, channel, lead),
    ],
    end: notes.reduce((last, note) => Math.max(last, note.end + lead), end),
  };
}

/**
 * All voices in one track. Where several share a channel, as kits do, its first voice says what it sounds on, and
 * strokes on one key that meet are put a tick apart: two notes of one key that overlap are one to most readers.
 */
export function oneTrack(
  head: MidiTrack,
  voices: readonly Voice[],
  addresses: ReadonlyMap<string, Address>,
  { performance, lead, end }: TrackRequest,
): MidiTrack {
  const byChannel = new Map<
    number,
    { voice: Voice; address: Address; notes: NoteEvent[]; controls: readonly ControlEvent[] }
  >();
  for (const voice of voices) {
    const address = addresses.get(voice.id);
    if (!address) continue;
    const own = performance.events.filter((event) => event.voice === voice.id);
    const notes = own.filter((event) => event.kind === 'note');
    const controls = own.filter((event) => event.kind === 'control');
    const known = byChannel.get(address.channel);
    if (known) known.notes.push(...notes);
    else byChannel.set(address.channel, { voice, address, notes, controls });
  }
  const channels = [...byChannel.values()];
  return {
    events: [
      ...head.events,
      ...channels.flatMap(({ voice, address }) => setupEvents(voice, address)),
      ...channels.flatMap(({ address, controls }) => controlledEvents(controls, address.channel, lead)),
      ...channels.flatMap(({ address, notes }) => strokeEvents(apart(notes), address.channel, lead)),
    ],
    end: channels.flatMap(({ notes }) => notes).reduce((last, note) => Math.max(last, note.end + lead), end),
  };
}

/** Strokes of several voices on one channel, each with a start and an end of its own on its key. */
function apart(notes: readonly NoteEvent[]): NoteEvent[] {
  const last = new Map<number, NoteEvent>();
  const result: NoteEvent[] = [];
  const places = new Map<number, number>();
  for (const note of [...notes].sort((a, b) => a.at - b.at)) {
    const before = last.get(note.pitch);
    const at = before && before.at >= note.at ? before.at + 1 : note.at;
    const moved = { ...note, at, end: Math.max(at + 1, note.end) };
    const place = places.get(note.pitch);
    if (before && place !== undefined && before.end > at) result[place] = { ...before, end: at };
    places.set(note.pitch, result.length);
    last.set(note.pitch, moved);
    result.push(moved);
  }
  return result;
}

import { rested } from '../song/bar-edit';
import { begunLater } from '../song/curve';
import { energised, energyCurve } from '../song/energy';
import { groundOf } from '../song/ground';
import { restStretches } from '../song/place';
import type { Music } from '../song/resolve';
import { isDrumRole, roleOf } from '../song/roles';
import { HARMONY, type ChordSetting, type LineId, type Note, type Part, type Section } from '../song/schema';
import { barTicks } from '../theory/metre';
import type { MidiNote, Percent, Semitones, Ticks, Velocity } from '../theory/units';
import { chordLineNotes } from './chord-line';
import type { Course, Passage, Span } from './course';
import { controlEvents, controlsAt, type ControlEvent } from './expression';
import type { Instrument } from './instruments';
import { chordInstrument, voicesOf, type Voice, type VoiceId } from './setup';
import { moveEvents, partMoves, standsAt } from './mix-moves';
import { soundingNotes, strummedNotes } from './stages';
import { sounds, strokesOf } from './strokes';

/** A note as it sounds; ticks along the course. */
export interface NoteEvent {
  readonly kind: 'note';
  readonly voice: VoiceId;
  readonly at: Ticks;
  readonly end: Ticks;
  readonly pitch: MidiNote;
  readonly velocity: Velocity;
}

/** From here on a voice sounds on another instrument. */
interface ProgramEvent {
  readonly kind: 'program';
  readonly voice: VoiceId;
  readonly at: Ticks;
  readonly instrument: Instrument;
}

/** What happens while music sounds. */
export type PerformanceEvent = NoteEvent | ProgramEvent | ControlEvent;

/** Music as it sounds: what playback, files and tools all read. */
export interface Performance {
  /** Everything that can sound, with its instrument, level and pan. */
  readonly setup: readonly Voice[];
  /** What begins inside the span, in order. */
  readonly events: readonly PerformanceEvent[];
  /**
   * What began before the span and still holds when it begins: notes that sound, the last program of a voice, and how
   * far it is bent.
   */
  readonly chase: readonly PerformanceEvent[];
}

/** What a curve over a note does. */
type CurveEvent = ReturnType<typeof controlEvents>[number];

/** How a section's chord line sounds by itself; null where it does not. */
export type ChordLine = (section: Section) => ChordSetting | null;

export interface PerformanceRequest {
  readonly music: Music;
  readonly course: Course;
  /** Ticks along the course; all of it, with any pick-up, where nothing is said. */
  readonly span?: Span;
  /** Where the chord line sounds by itself; nowhere where nothing is said. */
  readonly chordLine?: ChordLine;
  /** Lines that are asked for; all where nothing is said. */
  readonly only?: (line: LineId) => boolean;
  /** How often the course has been played before, in a loop: what is left to chance differs from pass to pass. */
  readonly round?: number;
}

const EVERYTHING: Span = { from: Number.NEGATIVE_INFINITY, to: Number.POSITIVE_INFINITY };

/** How long a note may ring past its section, and how early a pick-up may start: one bar. */
const seamOf = ({ ground }: Passage): Ticks => barTicks(ground.metre);

/** A line's notes in a passage, from the section's start; what lies beyond a shortened section is silent. */
function passageNotes(notes: readonly Note[], passage: Passage): readonly Note[] {
  const { from, to } = passage.part;
  const earliest = from === 0 ? -seamOf(passage) : from;
  return notes.flatMap((note) => {
    if (note.start >= to) return [];
    if (note.start >= earliest) return [note];
    // Bars that are looped by themselves begin with what is held there.
    const left = note.start + note.duration - from;
    return from > 0 && left > 0 && note.start >= 0 ? [begunLater(note, from - note.start)] : [];
  });
}

/** One line of the music: what it sounds in a section, and how loud the energy line leaves it. */
interface Line {
  readonly id: LineId;
  readonly notesIn: (passage: Passage) => readonly Note[];
  /** Velocity at a moment of the running order, where it has one; null where the line rests. */
  readonly loudness: (velocity: Velocity, at: Ticks | null) => Velocity | null;
  /** Rings over the end of its section for a bar, until it sounds again. */
  readonly rings: boolean;
}

/** Notes so many semitones higher; what would leave the MIDI range stays. */
const higher = (notes: readonly Note[], lift: Semitones): readonly Note[] =>
  lift === 0
    ? notes
    : notes.map((note) => {
        const pitch = note.pitch + lift;
        return pitch < 0 || pitch > 127 ? note : { ...note, pitch };
      });

function partLine(music: Music, part: Part, energy: ((at: Ticks) => Percent) | null): Line {
  return {
    id: part.id,
    notesIn: ({ section, place, ground, pass }) => {
      const notes = soundingNotes(music, section, part, pass);
      if (!place) return notes;
      const playing = restStretches(place, part.id, ground).reduce(rested, notes);
      return isDrumRole(part.role) ? playing : higher(playing, place.lift ?? 0);
    },
    loudness: (velocity, at) => {
      if (!energy || !part.brief.follows || at === null) return velocity;
      const felt = energy(at);
      return felt < roleOf(part.role).restsBelow ? null : energised(velocity, felt);
    },
    rings: true,
  };
}

const chordLineOf = (music: Music, settingOf: ChordLine): Line => ({
  id: HARMONY,
  notesIn: ({ section, place }) => {
    const setting = settingOf(section);
    if (!setting) return [];
    const notes = strummedNotes(chordLineNotes(music, section, setting), groundOf(music.score, section));
    return higher(notes, place?.lift ?? 0);
  },
  loudness: (velocity) => velocity,
  rings: false,
});

/**
 * What a line sounds along a course. A note may ring past its section for a bar, until the line's next onset; a pick-up
 * before a section silences the line's older notes. Both depend on two neighbouring passages only, so neighbouring
 * windows give the same notes as one.
 */
function lineEvents(line: Line, course: Course, span: Span): (NoteEvent | CurveEvent)[] {
  return course.flatMap((passage, index): (NoteEvent | CurveEvent)[] => {
    const { start, part, origin } = passage;
    const seam = seamOf(passage);
    if (start + part.from - seam >= span.to || start + part.to + seam <= span.from) return [];
    const own = passageNotes(line.notesIn(passage), passage).filter((note) => sounds(note, line.id, passage.pass));
    if (own.length === 0) return [];
    const next = course[index + 1];
    const following = next && passageNotes(line.notesIn(next), next).find((note) => sounds(note, line.id, next.pass));
    const takeOver = next && following ? next.start + following.start : Number.POSITIVE_INFINITY;
    const latest = Math.min(takeOver, start + part.to + (line.rings ? seam : 0));
    const notes = own.flatMap((note): NoteEvent[] => {
      const velocity = line.loudness(note.velocity, origin === null ? null : origin + note.start);
      if (velocity === null) return [];
      return strokesOf(note).flatMap((stroke): NoteEvent[] => {
        const at = start + stroke.start;
        const end = Math.min(at + stroke.duration, latest);
        // What is struck beyond the section rings into it no more: nobody would hear it where the song ends there.
        return end <= at || stroke.start >= part.to
          ? []
          : [{ kind: 'note', voice: line.id, at, end, pitch: note.pitch, velocity }];
      });
    });
    return [...notes, ...controlEvents(line.id, own, start, latest)];
  });
}

/** The chord line sounds in each section on what its voicing is meant for. */
function chordPrograms(course: Course, settingOf: ChordLine): ProgramEvent[] {
  return course.flatMap(({ section, start, part }): ProgramEvent[] => {
    const setting = settingOf(section);
    return setting
      ? [{ kind: 'program', voice: HARMONY, at: start + part.from, instrument: chordInstrument(setting.family) }]
      : [];
  });
}

/** What a line plays, on each instrument that it sounds on. */
function onAll(voices: readonly Voice[]): (event: PerformanceEvent) => readonly PerformanceEvent[] {
  const ofLine = new Map<VoiceId, Voice[]>();
  for (const voice of voices) ofLine.set(voice.line, [...(ofLine.get(voice.line) ?? []), voice]);
  return (event) =>
    (ofLine.get(event.voice) ?? []).flatMap((voice): PerformanceEvent[] => {
      const own = { ...event, voice: voice.id };
      if (own.kind === 'control' && own.control === 'level')
        return [{ ...own, value: (own.value * voice.share) / 100 }];
      if (own.kind !== 'note') return [own];
      const pitch = own.pitch + 12 * voice.octave;
      return pitch < 0 || pitch > 127 ? [] : [{ ...own, pitch }];
    });
}

/** In order; programs and controls before the notes that they are for. */
const inOrder = (a: PerformanceEvent, b: PerformanceEvent): number =>
  a.at - b.at || (a.kind === 'note' ? 1 : 0) - (b.kind === 'note' ? 1 : 0) || pitchOf(a) - pitchOf(b);

const pitchOf = (event: PerformanceEvent): MidiNote => (event.kind === 'note' ? event.pitch : -1);

/**
 * The one way from a song to what sounds. Playback, files, measurements and tools all read this, so that what is heard
 * is what is delivered.
 */
export function perform({
  music,
  course,
  span = EVERYTHING,
  chordLine,
  only,
  round = 0,
}: PerformanceRequest): Performance {
  const energy = energyCurve(music.score);
  const going = round === 0 ? course : course.map((passage) => ({ ...passage, pass: passage.pass + round }));
  const lines = [
    ...music.score.parts.map((part) => partLine(music, part, energy)),
    ...(chordLine ? [chordLineOf(music, chordLine)] : []),
  ];
  const played = lines.filter(({ id }) => !only || only(id)).flatMap((line) => lineEvents(line, going, span));
  const notes = played.filter((event) => event.kind === 'note');
  const controls = played.filter((event) => event.kind === 'control');
  const moving = music.score.parts.filter((part) => (!only || only(part.id)) && partMoves(music.score, part));
  const moves = moving.flatMap((part) => moveEvents(part, course));
  const programs = chordLine && (!only || only(HARMONY)) ? chordPrograms(course, chordLine) : [];
  const events: readonly PerformanceEvent[] = [...programs, ...moves, ...controls, ...notes];
  const before = programs.findLast(({ at }) => at < span.from);
  const setup = voicesOf(music.score, programs[0]?.instrument);
  const sounding = onAll(setup);
  return {
    setup,
    events: events
      .filter(({ at }) => at >= span.from && at < span.to)
      .flatMap(sounding)
      .sort(inOrder),
    chase: [
      ...(before ? [before] : []),
      ...moving.flatMap((part) => standsAt(music.score, part, course, span.from)),
      ...controlsAt(controls, span.from),
      ...notes.filter(({ at, end }) => at < span.from && end > span.from),
    ].flatMap(sounding),
  };
}

/**
 * How far before a course the first notes of it begin, in ticks: its pick-up.
 *
 * @param counts  which parts count; all where nothing is said
 */
export function pickUpOf(music: Music, course: Course, counts: (part: Part) => boolean = () => true): Ticks {
  const [first] = course;
  if (!first || first.part.from > 0) return 0;
  return music.score.parts.filter(counts).reduce((furthest, part) => {
    const [earliest] = passageNotes(partLine(music, part, null).notesIn(first), first);
    return Math.max(furthest, -(earliest?.start ?? 0));
  }, 0);
}

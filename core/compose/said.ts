import { isLine } from '../song/roles';
import type { MotifUse, Note, Role } from '../song/schema';
import { chordMask } from '../theory/chord';
import { beatsOf } from '../theory/metre';
import { inMask } from '../theory/pitch';
import { clamp, range, type MidiNote, type Ticks } from '../theory/units';
import { pickIndex, pickWeighted, type Random } from '../trellis/random';
import { chordAt, type PartContext, type Said } from './context';
import { barAt, strokesOf } from './held';
import { ladderOf } from './melody/recall';
import { motifNotes, type MotifNote } from './motif';

/**
 * A motif that a writer has said by hand in some bars of a part, laid over what the part's own drafter made. Lines take
 * its rhythm and its steps, on the step of the scale where it stands best; what plays chords strikes its own in its rhythm,
 * in inversions that go where it goes, and drums in its rhythm, with whatever keeps time going on.
 */

/** One saying of it. */
interface Saying {
  /** Its first bar. */
  readonly bar: number;
  /** Bars that it may fill. */
  readonly bars: number;
  /** Steps of the scale that it is moved by. */
  readonly moved: number;
}

/** Sayings of a sequence, at most. */
const IN_SEQUENCE = 3;

function sayingsOf(use: MotifUse, motifBars: number, from: number, to: number, random: Random): Saying[] {
  const own = Math.min(to - from, use === 'stretches' ? 2 * motifBars : motifBars);
  if (own <= 0) return [];
  const room = Math.floor((to - from) / own);
  const up = pickIndex(random, 2) === 0 ? 1 : -1;
  if (use === 'sequences')
    return range(Math.min(IN_SEQUENCE, room)).map((at) => ({ bar: from + at * own, bars: own, moved: up * at }));
  // Said again and again it leaves room between for something else, where there is room.
  const every = room > 2 ? 2 * own : own;
  const times = use === 'states' ? Math.ceil((room * own) / every) : 1;
  return range(times).map((at) => ({ bar: from + at * every, bars: own, moved: 0 }));
}

type Spoken = MotifNote & { readonly start: Ticks; readonly end: Ticks };

/** Notes of one saying in the part's own time, as long as they are until the next one; held bars stay as they are. */
function spoken({ bar, bars }: Saying, said: Said, context: PartContext, isFree: (bar: number) => boolean): Spoken[] {
  const { barTicks, brief } = context;
  const from = bar * barTicks;
  const notes = motifNotes(said.motif, bars * barTicks, barTicks, brief.grid);
  return notes
    .map((note, index): Spoken => {
      const next = notes[index + 1]?.at ?? bars * barTicks;
      const start = from + note.at;
      return { ...note, start, end: from + Math.min(note.at + note.duration, next) };
    })
    .filter(({ start }) => isFree(barAt(start, barTicks)));
}

/** What sounds or was struck last at a moment, else what comes next. */
const strokeBy = (strokes: readonly Note[][], at: Ticks): readonly Note[] =>
  strokes.findLast(([first]) => (first?.start ?? 0) <= at) ?? strokes[0] ?? [];

/** The step of the ladder that the motif's first note stands on best, drawn among those that serve. */
function standingOf(
  notes: readonly Spoken[],
  ladder: readonly MidiNote[],
  near: MidiNote,
  { chords }: PartContext,
  random: Random,
): number {
  const options = range(ladder.length).map((base): readonly [number, number] => {
    const pitches = notes.flatMap(({ step }) => (step === null ? [] : [ladder[base + step]]));
    if (pitches.some((pitch) => pitch === undefined)) return [base, 0];
    const fit = notes.filter(({ step, start }) => {
      const chord = step === null ? null : chordAt(chords, start);
      return chord !== null && inMask(chordMask(chord), ladder[base + (step ?? 0)] as MidiNote);
    }).length;
    const share = (1 + fit) / (1 + notes.length);
    const away = Math.abs((ladder[base] as MidiNote) - near) / 4;
    return [base, share ** 3 / (1 + away * away)];
  });
  if (options.every(([, weight]) => weight === 0)) return Math.floor(ladder.length / 2);
  return pickWeighted(random, options);
}

/** Another way for an answer: a chord note within a fifth of where it was. */
function answering(before: MidiNote, start: Ticks, ladder: readonly MidiNote[], context: PartContext, random: Random) {
  const chord = chordAt(context.chords, start);
  const near = ladder.filter((pitch) => Math.abs(pitch - before) <= 7);
  const fitting = near.filter((pitch) => chord === null || inMask(chordMask(chord), pitch));
  const from = fitting.length > 0 ? fitting : near;
  return from[pickIndex(random, from.length)] ?? before;
}

function asLine(
  notes: readonly Spoken[],
  moved: number,
  drafted: readonly Note[],
  context: PartContext,
  random: Random,
): Note[] {
  const { brief, keyMask } = context;
  const ladder = ladderOf(
    range(brief.high - brief.low + 1).map((index) => index + brief.low),
    keyMask,
  );
  if (ladder.length === 0) return [];
  const strokes = strokesOf(drafted);
  const model = strokeBy(strokes, notes[0]?.start ?? 0).at(-1);
  const base = standingOf(notes, ladder, model?.pitch ?? (brief.low + brief.high) / 2, context, random);
  let before = ladder[base] as MidiNote;
  return notes.map(({ start, end, step }): Note => {
    const place = base + moved + (step ?? 0);
    // What leaves the register turns back into it.
    const kept = ladder[place] ?? ladder[Math.max(0, Math.min(ladder.length - 1, place))] ?? before;
    before = step === null ? answering(before, start, ladder, context, random) : kept;
    return { start, duration: end - start, pitch: before, velocity: strokeBy(strokes, start)[0]?.velocity ?? 80 };
  });
}

/** Roles that speak one note at a time, be they lines or broken chords. */
const SINGLE: ReadonlySet<Role> = new Set(['bass', 'arpeggio', 'picking']);
/** Roles whose chords may stand in any inversion, so that the top of them can go where a motif goes. */
const INVERTED: ReadonlySet<Role> = new Set(['comping', 'pad', 'ensemble']);
/** Steps of the scale to one inversion of a chord. */
const STEPS_OF_INVERSION = 2;

/** A chord's notes in another inversion, up or down; as they were where that leaves the register. */
function inverted(pitches: readonly MidiNote[], by: number, { low, high }: PartContext['brief']): readonly MidiNote[] {
  let now = [...pitches].sort((a, b) => a - b);
  for (let turn = 0; turn < Math.abs(by); turn++) {
    const moved = by > 0 ? [...now.slice(1), (now[0] ?? 0) + 12] : [(now.at(-1) ?? 0) - 12, ...now.slice(0, -1)];
    const next = moved.sort((a, b) => a - b);
    if ((next[0] ?? 0) < low || (next.at(-1) ?? 0) > high || new Set(next).size < next.length) break;
    now = next;
  }
  return now;
}

/** What hands strike where a motif is said and nothing was drafted: an open conga. */
const [HAND, HAND_LOUDNESS] = [63, 80];

/** What the part plays, struck in the motif's rhythm: of what was drafted, what belongs to the chord of the moment. */
function asStrokes(
  notes: readonly Spoken[],
  moved: number,
  drafted: readonly Note[],
  { chords, role, brief }: PartContext,
  random: Random,
): Note[] {
  const strokes = strokesOf(drafted);
  const turns = ({ step }: Spoken): number =>
    INVERTED.has(role)
      ? step === null
        ? pickIndex(random, 3) - 1
        : Math.round((step + moved) / STEPS_OF_INVERSION)
      : 0;
  return notes.flatMap((note) => {
    const { start, end } = note;
    const span = chords.findLast((own) => own.start <= start);
    const own = span
      ? strokes.filter(([first]) => first && first.start >= span.start && first.start < span.start + span.duration)
      : [];
    const stroke = strokeBy(own.length > 0 ? own : strokes, start);
    if (stroke.length === 0 && role === 'percussion')
      return [{ start, duration: end - start, pitch: clamp(HAND, brief.low, brief.high), velocity: HAND_LOUDNESS }];
    const velocity = stroke.reduce((most, struck) => Math.max(most, struck.velocity), 1);
    return inverted(
      stroke.map(({ pitch }) => pitch),
      turns(note),
      brief,
    ).map((pitch) => ({ start, duration: end - start, pitch, velocity }));
  });
}

/** Keys of the kit that keep time while the others say something: hats, rides, crashes and small percussion. */
const KEEPS_TIME = new Set([42, 44, 46, 49, 51, 53, 54, 55, 57, 59, 69, 70, 82]);
const [KICK, SNARE] = [36, 38];
/** How long a stroke of the kit lasts, in ticks. */
const STROKE = 120;

function asHits(notes: readonly Spoken[], drafted: readonly Note[], { metre, barTicks }: PartContext): Note[] {
  const beats = new Set(beatsOf(metre).map(({ at }) => at));
  const strokes = strokesOf(drafted);
  return notes.map(({ start, end }) => ({
    start,
    duration: Math.min(STROKE, end - start),
    pitch: beats.has(start % barTicks) ? KICK : SNARE,
    velocity: Math.max(70, strokeBy(strokes, start)[0]?.velocity ?? 80),
  }));
}

/**
 * A part's notes with a motif said in them.
 *
 * @param drafted  what the part's drafter made, in ticks from where the stretch begins
 * @param random   draws on which step it stands, and where an answer goes
 */
export function saidOver(drafted: readonly Note[], said: Said, context: PartContext, random: Random): Note[] {
  const { barTicks, held, role } = context;
  const [from, to] = [Math.max(0, said.from), Math.min(context.bars, said.to)];
  const heldAlone = new Set(held.strokes.flatMap(({ notes }) => notes.map(({ start }) => barAt(start, barTicks))));
  const isFree = (bar: number): boolean => !held.bars.has(bar) && !heldAlone.has(bar);
  return sayingsOf(said.motif.use, said.motif.bars, from, to, random).reduce<Note[]>(
    (line, saying) => {
      const notes = spoken(saying, said, context, isFree);
      const [first, last] = [notes[0], notes.at(-1)];
      if (!first || !last) return line;
      const made =
        isLine(role) || SINGLE.has(role)
          ? asLine(notes, saying.moved, drafted, context, random)
          : role === 'drums'
            ? asHits(notes, drafted, context)
            : asStrokes(notes, saying.moved, drafted, context, random);
      const around = line.flatMap((note): Note[] => {
        const end = note.start + note.duration;
        if (!isFree(barAt(note.start, barTicks)) || end <= first.start || note.start >= last.end) return [note];
        if (role === 'drums' && KEEPS_TIME.has(note.pitch)) return [note];
        if (note.start >= first.start) return [];
        return [{ ...note, duration: first.start - note.start }];
      });
      return [...around, ...made].sort((a, b) => a.start - b.start || a.pitch - b.pitch);
    },
    [...drafted],
  );
}

import { energised, energyCurve, restsBelow } from '../song/energy';
import { groundOf } from '../song/ground';
import { layOut, type HeardTakes, type Placed, type Takes } from '../song/resolve';
import type { Ground, Note, Part, Score } from '../song/schema';
import { barTicks, beatsOf, type Metre } from '../theory/metre';
import type { MidiNote, Percent, Ticks, Velocity } from '../theory/units';
import { modulo, TICKS_PER_QUARTER } from '../theory/units';
import { styleIn } from '../styles/styles';
import { felt } from './feel';
import { humanised } from './humanise';
import { soundingNotes } from './parts';

/** A note as it sounds; ticks from the start of the running order. */
export interface SoundingNote {
  readonly part: string;
  readonly start: Ticks;
  readonly end: Ticks;
  readonly pitch: MidiNote;
  readonly velocity: Velocity;
}

export interface Span {
  readonly from: Ticks;
  readonly to: Ticks;
}

export interface Timeline {
  /** Notes that start inside the span, in order of their starts. */
  readonly notes: readonly SoundingNote[];
  /** Notes that started earlier and still sound when the span begins. */
  readonly chase: readonly SoundingNote[];
}

/** The longest drums or any note may ring past its section, and how early a pick-up may start: one bar. */
const seamOf = (metre: Metre): Ticks => barTicks(metre);

/**
 * Where a written moment sounds: swing delays the second half of every simple beat, at 100 % to the last triplet.
 */
export function swung(at: Ticks, swing: Percent, metre: Metre): Ticks {
  if (swing === 0 || beatsOf(metre).some(({ division }) => division === 3)) return at;
  const inBeat = modulo(at, TICKS_PER_QUARTER);
  const half = TICKS_PER_QUARTER / 2;
  const delay = (half / 3) * (swing / 100);
  const warped = inBeat < half ? inBeat * (1 + delay / half) : half + delay + (inBeat - half) * (1 - delay / half);
  return at - inBeat + Math.round(warped);
}

/** Memoised by the identity of the notes, which never change; the ground is part of the name. */
const swungNotes = new WeakMap<readonly Note[], { readonly name: string; readonly notes: readonly Note[] }>();

/** Notes where they sound on a ground: swung, then spread by their own nudges, in order of their starts. */
export function grooved(notes: readonly Note[], { swing, metre }: Pick<Ground, 'swing' | 'metre'>): readonly Note[] {
  const name = `${swing} ${metre.beats}/${metre.unit} ${metre.groups.join('+')}`;
  const known = swungNotes.get(notes);
  if (known?.name === name) return known.notes;
  const moved = notes.map((note) => {
    const start = swung(note.start, swing, metre) + (note.nudge ?? 0);
    return { ...note, start, duration: Math.max(1, swung(note.start + note.duration, swing, metre) - start) };
  });
  moved.sort((a, b) => a.start - b.start || a.pitch - b.pitch);
  swungNotes.set(notes, { name, notes: moved });
  return moved;
}

/**
 * Notes as a part's hands play them on a ground, in the feel of its style, on the drums of its kit that the writer
 * has put in place of others.
 */
export function played(
  notes: readonly Note[],
  { id, role, brief, swaps, style }: Part,
  ground: Ground,
  song: Pick<Score, 'styles'>,
): readonly Note[] {
  const bar = barTicks(ground.metre);
  const onFeel = felt(grooved(notes, ground), styleIn(song, style ?? ground.style).feel, ground.feel ?? 100, role, bar);
  return swapped(humanised(onFeel, brief.humanise, id, bar), swaps);
}

const swappedNotes = new WeakMap<readonly Note[], WeakMap<Part['swaps'], readonly Note[]>>();

function swapped(notes: readonly Note[], swaps: Part['swaps']): readonly Note[] {
  if (Object.keys(swaps).length === 0) return notes;
  const known = swappedNotes.get(notes) ?? new WeakMap<Part['swaps'], readonly Note[]>();
  swappedNotes.set(notes, known);
  const found =
    known.get(swaps) ??
    notes
      .map((note) => ({ ...note, pitch: swaps[note.pitch] ?? note.pitch }))
      .sort((a, b) => a.start - b.start || a.pitch - b.pitch);
  known.set(swaps, found);
  return found;
}

/**
 * A part's notes at one place of the running order, from the section's start; what lies beyond a shortened section is
 * silent.
 */
function placedNotes(placed: Placed, part: Part, score: Score, takes: Takes, heard: HeardTakes): readonly Note[] {
  const ground = groundOf(score, placed.section);
  const notes = played(soundingNotes(score, placed.section, part.id, takes, heard), part, ground, score);
  return notes.filter(({ start }) => start < placed.length && start >= -seamOf(ground.metre));
}

/**
 * The one way from a song to what sounds; playback, files and pictures all use it.
 *
 * A note may ring past its section for a bar, until the part's next onset; a pick-up before a section silences the same
 * part's older notes. Both depend on two neighbouring sections only, so neighbouring windows give the same notes as
 * one.
 *
 * @param heard  takes that sound in place of the chosen ones
 * @param span   ticks from the start of the running order
 */
export function timeline(score: Score, takes: Takes, heard: HeardTakes, span: Span): Timeline {
  const order = layOut(score);
  const notes: SoundingNote[] = [];
  const chase: SoundingNote[] = [];
  const energy = energyCurve(score, order);
  order.forEach((placed, index) => {
    const end = placed.start + placed.length;
    const seam = seamOf(groundOf(score, placed.section).metre);
    if (placed.start - seam >= span.to || end + seam <= span.from) return;
    const next = order[index + 1];
    for (const part of score.parts) {
      const own = placedNotes(placed, part, score, takes, heard);
      if (own.length === 0) continue;
      const following = next ? placedNotes(next, part, score, takes, heard)[0] : undefined;
      const takeOver = next && following ? next.start + following.start : Number.POSITIVE_INFINITY;
      for (const note of own) {
        const start = placed.start + note.start;
        if (start < 0 || start >= takeOver) continue;
        const stop = Math.min(start + note.duration, takeOver, end + seam);
        const felt = energy && part.brief.follows ? energy(start) : null;
        if (felt !== null && felt < restsBelow(part.role)) continue;
        const velocity = felt === null ? note.velocity : energised(note.velocity, felt);
        const sounding = { part: part.id, start, end: stop, pitch: note.pitch, velocity };
        if (start >= span.from && start < span.to) notes.push(sounding);
        else if (start < span.from && stop > span.from) chase.push(sounding);
      }
    }
  });
  notes.sort((a, b) => a.start - b.start || a.pitch - b.pitch);
  return { notes, chase };
}

/** Ends notes of one part before the same pitch starts again, so that every note that starts ends by itself. */
export function withoutOverlaps(notes: readonly SoundingNote[]): SoundingNote[] {
  const last = new Map<string, number>();
  const result = notes.map((note) => ({ ...note }));
  result.forEach((note, index) => {
    const name = `${note.part} ${note.pitch}`;
    const before = result[last.get(name) ?? -1];
    if (before && before.end > note.start) before.end = note.start;
    last.set(name, index);
  });
  return result.filter((note) => note.end > note.start);
}

/** A stroke of the metronome. */
export interface Click {
  readonly at: Ticks;
  readonly strong: boolean;
}

/** The beats of a span, the bar lines strong. */
export function clicks(score: Score, span: Span): Click[] {
  return layOut(score).flatMap(({ section, start, length }) => {
    if (start >= span.to || start + length <= span.from) return [];
    const { metre } = groundOf(score, section);
    const bar = barTicks(metre);
    return Array.from({ length: section.bars }, (_, index) => start + index * bar)
      .flatMap((line) => beatsOf(metre).map((beat) => ({ at: line + beat.at, strong: beat.at === 0 })))
      .filter(({ at }) => at >= span.from && at < span.to);
  });
}

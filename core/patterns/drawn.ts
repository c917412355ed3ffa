import { byStart, endsApart } from '../song/note-ends';
import { WIDEST_BEND, type DrawnPattern, type Note, type StripName } from '../song/schema';
import { underAt } from '../song/under';
import type { Key } from '../theory/key';
import { clamp, type MidiNote, type Ticks } from '../theory/units';
import { once, pickWeighted } from '../trellis/random';
import { pitchOfDegree } from './degrees';
import { rolled } from './dice';
import { isAsked, type Over } from './over';
import { stepAt, stepsIn, type Step } from './steps';

/** A note on its way: what a step strikes, and how long it is held on. */
interface Struck {
  readonly at: Ticks;
  readonly degree: number;
  readonly velocity: number;
  /** How far it slides in from the note before, in % of its step. */
  readonly slide: number;
  readonly strikes: number;
  /** Its length, in ticks, and until where it is tied over: a chord that changes there strikes it again. */
  duration: Ticks;
  tied: Ticks;
}

/** What is struck in a pass, step by step, before pitches are known. */
function struckSteps(pattern: DrawnPattern, over: Over): Struck[] {
  const steps = stepsIn(pattern, over);
  const window = pattern.redraw === null ? null : pattern.redraw * over.bar;
  const drawn = new Map<number, DrawnPattern>([[0, pattern]]);
  const patternAt = (moment: Ticks): DrawnPattern => {
    const turn = window === null ? 0 : Math.floor(moment / window);
    const own = drawn.get(turn) ?? rolled(pattern, over.ground, turn);
    drawn.set(turn, own);
    return own;
  };
  const struck: Struck[] = [];
  /** The last step held on to its end, so that the next may be tied to it. */
  let open: Struck | null = null;
  for (const step of steps) {
    if (!isAsked(over, step.at)) {
      open = null;
      continue;
    }
    const chance = (name: string): number => once(pattern.seed, name, step.moment);
    const { strips, ties, others, direction } = patternAt(step.moment);
    const indexIn = (name: StripName): number =>
      stepAt(direction, step.count, strips[name].values.length, () => chance(`order of ${name}`));
    const valueIn = (name: StripName): number => strips[name].values[indexIn(name)] ?? strips[name].low;
    const length = Math.max(1, Math.round(((step.until - step.at) * valueIn('length')) / 100));
    const place = indexIn('degree');
    if (ties.includes(place)) {
      if (open) hold(open, step, length);
      continue;
    }
    open = null;
    const likelihood = valueIn('likelihood');
    if (likelihood < 100 && chance('likelihood') * 100 >= likelihood) continue;
    const own = strips.degree.values[place] ?? 0;
    const instead = others.filter(({ step: at }) => at === place);
    const left = 100 - instead.reduce((all, { share }) => all + share, 0);
    const options = [[own, left], ...instead.map(({ value, share }) => [value, share])] as [number, number][];
    open = {
      at: step.at,
      degree: instead.length === 0 ? own : pickWeighted({ next: () => chance('which note') }, options),
      velocity: valueIn('loudness'),
      slide: valueIn('slide'),
      strikes: valueIn('strikes'),
      duration: length,
      tied: step.at,
    };
    struck.push(open);
  }
  return struck;
}

function hold(open: Struck, step: Step, length: Ticks): void {
  open.duration = step.at - open.at + length;
  open.tied = step.at;
}

/** What one stroke sounds: a note for each chord that it is held over and that wants another pitch. */
function notesOf(struck: Struck, end: Ticks, pattern: DrawnPattern, over: Over): Note[] {
  const key: Key = over.ground;
  const notes: Note[] = [];
  let at = struck.at;
  while (at < end) {
    const under = underAt(over.chords, at, over.length);
    const pitch = pitchOfDegree(struck.degree, pattern, under.span, key);
    const last = notes.at(-1);
    const to = Math.min(end, under.to);
    if (last?.pitch === pitch) notes[notes.length - 1] = { ...last, duration: to - last.start };
    // What only rings on ends with its chord; what is tied over or sustained is struck again on the new one.
    else if (last && pattern.degrees !== 'scale' && at > struck.tied && !pattern.sustain) break;
    else if (pitch !== null) notes.push({ start: at, duration: to - at, pitch, velocity: struck.velocity });
    else break;
    at = to;
  }
  return notes;
}

/** A note that slides in from the pitch before it. */
function slidInto(note: Note, slide: number, before: MidiNote | undefined, rate: Ticks): Note {
  if (slide === 0 || before === undefined || before === note.pitch) return note;
  const there = Math.min(note.duration, Math.max(1, Math.round((rate * slide) / 100)));
  const cents = clamp((before - note.pitch) * 100, -WIDEST_BEND, WIDEST_BEND);
  return { ...note, bend: [{ at: 0, value: cents }, ...(there > 0 ? [{ at: there, value: 0 }] : [])] };
}

/** A note that is struck no more often than it has ticks: one that the next cuts short may have few. */
function struckWithin({ strikes = 1, ...note }: Note): Note {
  const most = Math.min(strikes, note.duration);
  return most > 1 ? { ...note, strikes: most } : note;
}

/**
 * The notes of a drawn pattern in one pass. The same pattern over the same chords gives the same notes in the same pass,
 * on every machine; what is left to chance differs from pass to pass.
 *
 * @returns in order, inside the section, none over the next on its pitch
 */
export function drawnNotes(pattern: DrawnPattern, over: Over): Note[] {
  const struck = struckSteps(pattern, over);
  let before: MidiNote | undefined;
  const notes = struck.flatMap((stroke, index): Note[] => {
    const next = struck[index + 1]?.at ?? over.length;
    const end = Math.min(over.length, pattern.sustain ? next : stroke.at + stroke.duration);
    const [first, ...rest] = notesOf(stroke, end, pattern, over);
    if (!first) return [];
    const slid = slidInto(first, stroke.slide, before, pattern.rate);
    before = (rest.at(-1) ?? first).pitch;
    return [{ ...slid, strikes: stroke.strikes }, ...rest];
  });
  return endsApart(notes.sort(byStart), (_before, after) => after).map(struckWithin);
}

import { barOf, groundOf } from '../song/ground';
import { layOut, sectionTicks, type Placed } from '../song/resolve';
import { liftedGround } from '../song/place';
import { TEMPO_LIMITS, type Ground, type Occurrence, type Score, type Section, type SectionId } from '../song/schema';
import { barTicks, beatsOf } from '../theory/metre';
import { clamp, range, type Ticks } from '../theory/units';
import { valueAt } from '../song/curve';
import { tempoMap, type TempoMap, type TempoStretch } from './tempo-map';

/** A stretch in ticks, its end not included. */
export interface Span {
  readonly from: Ticks;
  readonly to: Ticks;
}

/** A section, or some bars of it, in the order in which it is played. */
export interface Passage {
  readonly section: Section;
  /** What is otherwise in this place; null where the section has none. */
  readonly place: Occurrence | null;
  readonly ground: Ground;
  /** Where the section's first bar lies on the course, in ticks. */
  readonly start: Ticks;
  readonly length: Ticks;
  /** What of the section is played, in ticks from its start; a pick-up belongs to its very start. */
  readonly part: Span;
  /** Where the same first bar lies in the running order, in ticks; null where the section has no place in it. */
  readonly origin: Ticks | null;
  /** How often the section has been played before: at earlier places, and where the course goes round. */
  readonly pass: number;
}

/** What is played, in order: the running order, or some of it that comes round again. */
export type Course = readonly Passage[];

const passageOf = (score: Score, { occurrence, section, start, length }: Placed, pass: number): Passage => ({
  section,
  place: occurrence,
  ground: liftedGround(groundOf(score, section), occurrence.lift ?? 0),
  start,
  length,
  part: { from: 0, to: length },
  origin: start,
  pass,
});

/** The running order as it is played through. */
export function songCourse(score: Score, placed: readonly Placed[] = layOut(score)): Course {
  const passes = new Map<SectionId, number>();
  return placed.map((place) => {
    const pass = passes.get(place.section.id) ?? 0;
    passes.set(place.section.id, pass + 1);
    return passageOf(score, place, pass);
  });
}

/**
 * The running order from a moment on: where a section begins there, nothing of what stands before it is played, only
 * its own pick-up.
 */
export function courseFrom(score: Score, from: Ticks, placed: readonly Placed[] = layOut(score)): Course {
  const course = songCourse(score, placed);
  const begins = course.findIndex(({ start }) => start === from);
  return begins > 0 ? course.slice(begins) : course;
}

/** A section by itself, from tick 0; it is as loud as at its first place in the running order. */
export function sectionCourse(score: Score, section: Section): Course {
  const length = sectionTicks(score, section);
  const origin = layOut(score).find((place) => place.section.id === section.id)?.start ?? null;
  return [
    {
      section,
      place: null,
      ground: groundOf(score, section),
      start: 0,
      length,
      part: { from: 0, to: length },
      origin,
      pass: 0,
    },
  ];
}

/**
 * Some of the running order, played round and round: what is looped follows itself, so that its pick-up sounds before
 * it comes again and its last notes ring on into it.
 *
 * @param rounds  how often; two stand for all
 */
export function loopCourse(
  score: Score,
  { from, to }: Span,
  placed: readonly Placed[] = layOut(score),
  rounds = 2,
): Course {
  const round = songCourse(score, placed)
    .filter(({ start, length }) => start < to && start + length > from)
    .map((passage) => ({
      ...passage,
      part: { from: Math.max(0, from - passage.start), to: Math.min(passage.length, to - passage.start) },
    }));
  return range(rounds).flatMap((count) =>
    round.map((passage) => ({ ...passage, start: passage.start + count * (to - from), pass: passage.pass + count })),
  );
}

/**
 * Where some bars of a place lie in the running order; all of the place where none are picked.
 *
 * @param bars  counted from 0, `to` not included
 */
export function spanOf(
  score: Score,
  { section, start, length }: Placed,
  bars: { readonly from: number; readonly to: number } | null,
): Span {
  if (!bars) return { from: start, to: start + length };
  const bar = barOf(score, section);
  return { from: start + bars.from * bar, to: start + Math.min(section.bars, bars.to) * bar };
}

/** The same course so many ticks earlier. */
export const begunAt = (course: Course, from: Ticks): Course =>
  course.map((passage) => ({ ...passage, start: passage.start - from }));

/** Seconds along a course; an empty one goes by the song's own tempo. */
export const tempoOf = (course: Course, score: Score): TempoMap =>
  tempoMap(
    course.length === 0
      ? [{ start: 0, end: 1, tempo: score.ground.tempo }]
      : course.flatMap((passage) => tempoStretches(passage)),
  );

/** The tempos of a passage, one stretch after the other: level, or changing evenly to the next point. */
export function tempoStretches({ start, part, ground, section: { tempos } }: Passage): TempoStretch[] {
  const [from, to] = [part.from, part.to];
  if (!tempos || tempos.length === 0) return [{ start: start + from, end: start + to, tempo: ground.tempo }];
  const at = (moment: Ticks): number =>
    clamp((ground.tempo * valueAt(tempos, moment)) / 100, TEMPO_LIMITS.low, TEMPO_LIMITS.high);
  const edges = [from, ...tempos.map((point) => point.at).filter((edge) => edge > from && edge < to), to];
  return edges.slice(1).map((end, index) => {
    const begin = edges[index] as Ticks;
    return { start: start + begin, end: start + end, tempo: at(begin), endTempo: at(end) };
  });
}

/** The ground at a moment; before and after the course, the song's own. */
export const groundAt = (course: Course, at: Ticks, score: Score): Ground =>
  course.find(({ start, part }) => start + part.from <= at && at < start + part.to)?.ground ?? score.ground;

/** Every bar line of a course and its end, rising. */
export function barLines(course: Course): Ticks[] {
  const lines = course.flatMap(({ start, length, part, ground }) => {
    const bar = barTicks(ground.metre);
    return Array.from({ length: Math.ceil(length / bar) }, (_, index) => index * bar)
      .filter((line) => line >= part.from && line < part.to)
      .map((line) => start + line);
  });
  const last = course.at(-1);
  return [...lines, last ? last.start + last.part.to : 0];
}

/** Every felt beat of a course, rising. */
export const beatLines = (course: Course): Ticks[] =>
  barLines(course)
    .slice(0, -1)
    .flatMap((line) => {
      const passage = course.find(({ start, part }) => start + part.from <= line && line < start + part.to);
      return passage ? beatsOf(passage.ground.metre).map(({ at }) => line + at) : [];
    });

/** A stroke of the metronome. */
export interface Click {
  readonly at: Ticks;
  readonly strong: boolean;
}

/** The beats of a span, the bar lines strong; before the first bar, those that a pick-up is counted by. */
export function clicks(course: Course, span: Span): Click[] {
  return course.flatMap(({ start, length, part, ground: { metre } }, index) => {
    const bar = barTicks(metre);
    const before = index === 0 && part.from === 0 ? -bar : 0;
    const to = Math.min(span.to, start + part.to);
    const from = Math.max(span.from, start + part.from + before);
    if (from >= to) return [];
    return Array.from({ length: Math.ceil((length - before) / bar) }, (_, count) => start + before + count * bar)
      .flatMap((line) => beatsOf(metre).map((beat) => ({ at: line + beat.at, strong: beat.at === 0 })))
      .filter(({ at }) => at >= from && at < to);
  });
}

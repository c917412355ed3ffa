import type { Note } from '../song/schema';
import { DRUM_KEYS, type DrumVoice, type Groove, type Style } from '../song/style';
import { STYLES } from '../styles/styles';
import { barTicks, type Metre } from '../theory/metre';
import { clamp, SIXTEENTH, type Ticks, type Velocity } from '../theory/units';
import { BALANCE } from './drums';
import { chanceOf, homeMetre, layFigure, type FigureStep } from '../styles/figure';

/** A fill that leads over a bar line, written over one bar of its style's home metre. */
export interface Fill {
  readonly id: string;
  readonly name: string;
  /** The style that it comes from. */
  readonly style: string;
  readonly groove: Groove;
  readonly home: Metre;
}

/** How long a fill may be, in bars. */
export const FILL_LENGTHS = [0.5, 1, 2] as const;
export type FillLength = (typeof FILL_LENGTHS)[number];

const fillsOf = (style: Style): Fill[] =>
  style.fills.map((groove) => ({
    id: `${style.id} ${groove.name}`,
    name: groove.name,
    style: style.name,
    groove,
    home: homeMetre(style.metres[0] ?? '4/4'),
  }));

const strokesOf = ({ groove }: Fill): number =>
  Object.values(groove.voices).reduce((total, steps) => total + steps.replaceAll(/[.|]/g, '').length, 0);

/** Every fill that ships: the style's own first, the others from sparse to busy. */
export function allFills(own: Style): readonly Fill[] {
  const others = STYLES.filter(({ id }) => id !== own.id).flatMap(fillsOf);
  return [...fillsOf(own), ...others.sort((a, b) => strokesOf(a) - strokesOf(b))];
}

/**
 * Strokes with a chance are struck where they are more likely than not, or likeliest of all: a fill that is placed is
 * the same every time.
 */
const CERTAIN = 50;
const chances = ({ groove }: Fill): number[] =>
  Object.values(groove.voices).flatMap((steps) => [...steps].filter((symbol) => symbol !== '|').map(chanceOf));

interface Stroke {
  readonly start: Ticks;
  readonly voice: DrumVoice;
  readonly symbol: string;
}

function strokesIn(
  fill: Fill,
  metre: Metre,
  from: Ticks,
  keep: (step: FigureStep, index: number) => boolean,
): Stroke[] {
  const certain = Math.min(CERTAIN, Math.max(...chances(fill)));
  return (Object.entries(fill.groove.voices) as [DrumVoice, string][]).flatMap(([voice, steps]) =>
    layFigure(steps, fill.home, metre, 0)
      .filter((step, index) => chanceOf(step.symbol) >= certain && keep(step, index))
      .map(({ at, symbol }) => ({ start: from + at, voice, symbol })),
  );
}

/**
 * The strokes of a fill that ends at a bar line. Half a bar takes the fill's second half, or its whole figure pushed
 * there where it has none; two bars begin with every other stroke.
 */
function strokesBefore(fill: Fill, bars: FillLength, end: Ticks, metre: Metre): Stroke[] {
  const bar = barTicks(metre);
  const all = strokesIn(fill, metre, end - bar, () => true);
  if (bars === 2) return [...strokesIn(fill, metre, end - 2 * bar, (_, index) => index % 2 === 0), ...all];
  const from = end - bars * bar;
  const late = all.filter(({ start }) => start >= from);
  return late.length > 0
    ? late
    : all.map((stroke) => ({
        ...stroke,
        start: from + Math.round(((stroke.start - end + bar) * bars) / SIXTEENTH) * SIXTEENTH,
      }));
}

/** How much louder a fill is at its end than at its beginning. */
const GROWTH = 16;

/**
 * Lays a fill over drums, up to a bar line. Whatever the drums played from the fill's first stroke on makes room; a
 * crash marks the arrival where the section goes on after it.
 *
 * @param notes     the drums, in order of their starts
 * @param end       the bar line, in ticks from the section's start
 * @param loudness  mean velocity of the drums
 * @param length    the section's length in ticks
 * @returns new notes in order of their starts
 */
export function placeFill(
  notes: readonly Note[],
  fill: Fill,
  bars: FillLength,
  end: Ticks,
  { metre, loudness, length }: { readonly metre: Metre; readonly loudness: Velocity; readonly length: Ticks },
): Note[] {
  const strokes = strokesBefore(fill, bars, end, metre).filter(({ start }) => start >= 0 && start < length);
  const first = strokes.reduce((least, { start }) => Math.min(least, start), end);
  const struck = strokes.map(({ start, voice, symbol }): Note => {
    const grown = Math.round((GROWTH * (start - first)) / Math.max(1, end - first)) - GROWTH / 2;
    return {
      start,
      duration: Math.min(SIXTEENTH, length - start),
      pitch: DRUM_KEYS[voice],
      velocity: clamp(loudness + (BALANCE[voice] ?? 0) + (symbol === 'X' ? 8 : 0) + grown, 1, 127),
    };
  });
  const crash: Note[] =
    end < length && strokes.length > 0
      ? [
          {
            start: end,
            duration: SIXTEENTH,
            pitch: DRUM_KEYS.crash,
            velocity: clamp(loudness + (BALANCE.crash ?? 0), 1, 127),
          },
        ]
      : [];
  const kept = notes
    .filter(
      ({ start, pitch }) =>
        (start < first || start >= end) && !(crash.length > 0 && start === end && pitch === DRUM_KEYS.crash),
    )
    .map((note) =>
      note.start < first && note.start + note.duration > first ? { ...note, duration: first - note.start } : note,
    );
  return [...kept, ...struck, ...crash].sort((a, b) => a.start - b.start || a.pitch - b.pitch);
}

import { byStart } from '../song/note-ends';
import type { ChordSetting, ChordSpan, Note } from '../song/schema';
import { chordRhythmOf, type ChordRhythm } from '../styles/chord-rhythms';
import type { Chord } from '../theory/chord';
import { barTicks, type Metre } from '../theory/metre';
import { clamp, SIXTEENTH, TICKS_PER_QUARTER, type Ticks } from '../theory/units';
import { happens, stream } from '../trellis/random';
import { isDeadEnd } from '../trellis/trellis';
import { chanceOf, homeMetre, layFigure } from '../styles/figure';
import type { Voicing } from './types';
import { rootPositions, voiceChords, type VoicingWish } from './voicing';

/** Registers in which each family sounds full; ensembles and guitars have their own limits. */
const WISHES: Readonly<Record<ChordSetting['family'], Omit<VoicingWish, 'family' | 'spread' | 'bass'>>> = {
  keyboard: { low: 48, high: 77, voices: 4, centre: 61 },
  guitar: { low: 40, high: 80, voices: 6, centre: 54 },
  ensemble: { low: 40, high: 81, voices: 4, centre: 60 },
};

/** What a family of instruments lays chords out for, where nobody says otherwise. */
export const familyWish = (family: ChordSetting['family']): VoicingWish => ({ ...WISHES[family], family });

export const wishFor = ({ family, spread, bass }: ChordSetting): VoicingWish => ({
  ...familyWish(family),
  spread,
  bass,
});

/** A chord that sounds, with how it is laid out. */
export interface VoicedChord extends ChordSpan {
  readonly chord: Chord;
  readonly pitches: Voicing;
}

/** Voiced once for each progression and setting; neither ever changes. */
const known = new WeakMap<readonly ChordSpan[], WeakMap<ChordSetting, readonly VoicedChord[]>>();

/** A section's chords as its setting voices them; chords that no setting can voice are left out. */
export function voicedChords(chords: readonly ChordSpan[], setting: ChordSetting): readonly VoicedChord[] {
  const bySetting = known.get(chords) ?? new WeakMap<ChordSetting, readonly VoicedChord[]>();
  known.set(chords, bySetting);
  const found = bySetting.get(setting);
  if (found) return found;
  const sounding = chords.flatMap((span) => (span.chord ? [{ ...span, chord: span.chord }] : []));
  const wish = wishFor(setting);
  const smooth = setting.smooth ? voiceChords(sounding, wish) : rootPositions(sounding, wish);
  const voiced = isDeadEnd(smooth) ? [] : sounding.map((span, index) => ({ ...span, pitches: smooth[index] ?? [] }));
  bySetting.set(setting, voiced);
  return voiced;
}

interface Stroke {
  readonly at: Ticks;
  readonly symbol: string;
}

const struckSymbol = (symbol: string): boolean => symbol !== '.' && symbol !== ',';

/**
 * The strokes of a rhythm over a section; chance is drawn from the place alone, so that a bar never depends on
 * another.
 */
function strokesOf(rhythm: ChordRhythm, metre: Metre, bars: number, seed: number): Stroke[] {
  const home = homeMetre(rhythm.metre);
  return Array.from({ length: bars }, (_, bar) => bar).flatMap((bar) =>
    layFigure(rhythm.steps, home, metre, bar)
      .map(({ at, symbol }) => ({ at: bar * barTicks(metre) + at, symbol }))
      .filter(({ at, symbol }) => !/\d/.test(symbol) || happens(stream(seed, 'chord line', at), chanceOf(symbol))),
  );
}

/** The chord that a stroke sounds: an anticipation takes the one that comes within the next beat. */
function chordFor(voiced: readonly VoicedChord[], { at, symbol }: Stroke): VoicedChord | undefined {
  const coming = symbol === '<' ? voiced.find(({ start }) => start > at && start - at <= TICKS_PER_QUARTER) : undefined;
  return coming ?? voiced.findLast(({ start, duration }) => start <= at && at < start + duration);
}

/**
 * Every stroke of a chord line: the rhythm's, a chord's own rhythm in its place, and each arrival that no stroke
 * reaches.
 */
function allStrokes(
  voiced: readonly VoicedChord[],
  setting: ChordSetting,
  metre: Metre,
  bars: number,
  seed: number,
): Stroke[] {
  const common = chordRhythmOf(setting.rhythm);
  const strokes = new Map<Ticks, Stroke>();
  const cache = new Map<string, Stroke[]>();
  for (const span of voiced) {
    const rhythm = span.rhythm === undefined ? common : chordRhythmOf(span.rhythm);
    if (rhythm && !cache.has(rhythm.id)) cache.set(rhythm.id, strokesOf(rhythm, metre, bars, seed));
    const own = (rhythm ? (cache.get(rhythm.id) ?? []) : []).filter(
      ({ at }) => at >= span.start && at < span.start + span.duration,
    );
    for (const stroke of own) strokes.set(stroke.at, stroke);
    const anticipated = [...strokes.values()].some(
      ({ at, symbol }) => symbol === '<' && at < span.start && span.start - at <= TICKS_PER_QUARTER,
    );
    const reached = own.some(({ at, symbol }) => struckSymbol(symbol) && at - span.start < TICKS_PER_QUARTER);
    if (!reached && !anticipated) strokes.set(span.start, { at: span.start, symbol: 'x' });
  }
  return [...strokes.values()].sort((a, b) => a.at - b.at);
}

const MUTED_LENGTH: Ticks = SIXTEENTH / 3;
const ACCENT: Readonly<Record<string, number>> = { X: 10, '~': -22, '<': 4 };

/**
 * Plays a section's chord line: each chord as it is voiced, in the rhythm of the section or its own, rolled and as loud
 * as set.
 *
 * @param bars  the section's length
 * @param seed  decides what is left to chance
 * @returns notes from the section's start, in order
 */
export function performChords(
  chords: readonly ChordSpan[],
  setting: ChordSetting,
  metre: Metre,
  bars: number,
  seed: number,
): Note[] {
  const all = voicedChords(chords, setting);
  // A chord whose notes were set one by one strikes those, and nothing of the rhythm.
  const voiced = all.filter(({ voicing }) => !voicing?.notes);
  const strokes = allStrokes(voiced, setting, metre, bars, seed);
  const end = bars * barTicks(metre);
  const byHand = chords.flatMap((span) => handNotes(span, end));
  const struck = strokes.flatMap((stroke, index): Note[] => {
    const span = chordFor(voiced, stroke);
    if (!span || !struckSymbol(stroke.symbol) || stroke.at >= end) return [];
    const rhythm = span.rhythm === undefined ? chordRhythmOf(setting.rhythm) : chordRhythmOf(span.rhythm);
    const limit = Math.min(
      strokes[index + 1]?.at ?? end,
      span.start > stroke.at ? end : span.start + span.duration,
      end,
    );
    const muted = stroke.symbol === '~';
    const length = muted ? MUTED_LENGTH : Math.round(((limit - stroke.at) * (rhythm?.length ?? 97)) / 100);
    return strike(span, stroke, Math.max(20, length), setting);
  });
  return byHand.length === 0 ? struck : [...struck, ...byHand].sort(byStart);
}

/** The notes that were set one by one in a chord, as far as they begin in it. */
const handNotes = ({ start, duration, voicing }: ChordSpan, end: Ticks): Note[] =>
  (voicing?.notes ?? [])
    .filter(({ at }) => at < duration && start + at < end)
    .map(({ at, ...note }) => ({ ...note, start: start + at }));

/** One stroke's notes: the lowest first, or the highest where the roll goes down. */
function strike(span: VoicedChord, { at, symbol }: Stroke, length: Ticks, setting: ChordSetting): Note[] {
  const { pitches } = span;
  const step = Math.abs(setting.roll) / Math.max(1, pitches.length - 1);
  return pitches.map((pitch, voice): Note => {
    const order = setting.roll >= 0 ? voice : pitches.length - 1 - voice;
    const nudge = Math.min(Math.round(step * order), Math.max(0, length - 10));
    const loudness =
      span.velocities?.[voice] ?? (span.velocity ?? setting.loudness) + (voice === pitches.length - 1 ? 3 : 0);
    const velocity = clamp(loudness + (ACCENT[symbol] ?? 0), 1, 127);
    return { start: at, duration: length, pitch, velocity, ...(nudge > 0 ? { nudge } : {}) };
  });
}

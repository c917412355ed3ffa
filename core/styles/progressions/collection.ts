import type { ChordSpan } from '../../song/schema';
import { isMinorish, type Key } from '../../theory/key';
import { barTicks, beatsOf, type Metre } from '../../theory/metre';
import { readRoman } from '../../theory/roman';
import { isScaleId, scaleOf } from '../../theory/scale';
import type { Ticks } from '../../theory/units';
import { PROGRESSION_TABLE } from './table';

/** A progression of the collection, in degrees. */
export interface Formula {
  readonly id: string;
  readonly family: string;
  /** A scale's id; plain `aeolian` and the like are taken by their trade names. */
  readonly mode: string;
  readonly moods: readonly string[];
  /** Bars, each with one or more degrees. */
  readonly bars: readonly (readonly string[])[];
  /** Everything it can be found by. */
  readonly words: string;
}

const MODES: Readonly<Record<string, string>> = { aeolian: 'minor' };

/** How full its chords are, in the words of the brief. */
function colouringOf(degrees: readonly string[]): string {
  if (degrees.some((degree) => /(?:9|11|13)/.test(degree.replace('add9', '')))) return 'extended';
  return degrees.filter((degree) => degree.split('/')[0]?.includes('7')).length * 2 >= degrees.length
    ? 'sevenths'
    : 'triads';
}

/** What a progression does, so that it can be found by it. */
function habits(bars: readonly (readonly string[])[]): string[] {
  const degrees = bars.flat();
  const last = degrees.at(-1) ?? '';
  const before = degrees.at(-2) ?? '';
  const found: string[] = [];
  if (/^[iI](?![iIvV])/.test(last))
    found.push(before.startsWith('V') ? 'authentic cadence' : /^(?:IV|iv)/.test(before) ? 'plagal cadence' : 'closed');
  else found.push(last.startsWith('V') && !last.startsWith('VI') ? 'half cadence' : 'open loop');
  if (degrees.some((degree) => /^[b#♭♯]/.test(degree) || /^iv(?!°)/.test(degree))) found.push('borrowed');
  if (degrees.some((degree) => degree.includes('/'))) found.push('slash bass');
  if (degrees.some((degree) => degree.includes('°'))) found.push('diminished');
  if (bars.some((bar) => bar.length > 1)) found.push('two chords a bar');
  return found;
}

/** Reads one row of degrees; null when it is no formula. */
function parseFormula(
  id: string,
  family: string,
  mode: string,
  moods: readonly string[],
  text: string,
): Formula | null {
  const scale = MODES[mode] ?? mode;
  if (!isScaleId(scale)) return null;
  const bars = text.split(',').map((bar) => bar.trim().split(/\s+/));
  const key: Key = { tonic: 0, scale };
  const degrees = bars.flat();
  if (degrees.some((degree) => readRoman(degree, key) === null)) return null;
  const character = isMinorish(scaleOf(scale)) ? 'minor' : 'major';
  const modal = ['major', 'minor'].includes(scale) ? '' : 'modal';
  const words = [
    family,
    mode,
    character,
    modal,
    ...moods,
    `${bars.length} bars`,
    colouringOf(degrees),
    ...habits(bars),
    text,
  ]
    .join(' ')
    .toLowerCase();
  return { id, family, mode: scale, moods, bars, words };
}

let loaded: readonly Formula[] | null = null;

/** The whole collection, read once when it is first asked for. */
export function collection(): readonly Formula[] {
  loaded ??= PROGRESSION_TABLE.trim()
    .split('\n')
    .flatMap((row, index) => {
      const [family = '', mode = '', moods = '', text = ''] = row.split('|').map((cell) => cell.trim());
      return parseFormula(`formula-${index + 1}`, family, mode, moods.split(', '), text) ?? [];
    });
  return loaded;
}

/**
 * Finds formulas by words in any order: “soul sevenths 8 bars”. A number with “bars” is exact; every other word may
 * be the
 * beginning of one. Those whose character fits the key come first.
 */
export function findFormulas(all: readonly Formula[], query: string, key: Key): Formula[] {
  const asked = query.toLowerCase().trim();
  const bars = /(\d+)[\s-]*bars?/.exec(asked)?.[1];
  const rest = asked
    .replace(/(\d+)[\s-]*bars?/, ' ')
    .split(/\s+/)
    .filter((word) => word !== '');
  const starts = (words: string, word: string): boolean => words.split(/[\s,]+/).some((own) => own.startsWith(word));
  const minor = isMinorish(scaleOf(key.scale));
  return all
    .filter(
      (formula) =>
        (bars === undefined || formula.bars.length === Number(bars)) &&
        rest.every((word) => starts(formula.words, word)),
    )
    .map((formula, index) => ({
      formula,
      index,
      fits: formula.mode === key.scale ? 0 : isMinorish(scaleOf(formula.mode)) === minor ? 1 : 2,
    }))
    .sort((a, b) => a.fits - b.fits || a.index - b.index)
    .map(({ formula }) => formula);
}

/** A formula's chords in a key and metre, over as many bars as asked: it goes round, or is cut. */
export function formulaChords(formula: Formula, key: Key, metre: Metre, bars: number): ChordSpan[] {
  const bar = barTicks(metre);
  const beats = beatsOf(metre);
  const modal: Key = { tonic: key.tonic, scale: formula.mode };
  return Array.from({ length: bars }, (_, index) => index).flatMap((index) => {
    const degrees = formula.bars[index % formula.bars.length] ?? [];
    const places = degrees.map(
      (_, place): Ticks => beats[Math.floor((place * beats.length) / degrees.length)]?.at ?? 0,
    );
    return degrees.map((degree, place): ChordSpan => {
      const start = places[place] ?? 0;
      return {
        start: index * bar + start,
        duration: (places[place + 1] ?? bar) - start,
        chord: readRoman(degree, modal),
      };
    });
  });
}

import { makeChord, type Chord } from './chord';
import { intervalOf } from './pitch';
import { readQuality } from './read-chord';
import type { Key } from './key';
import { isMinorish, keyMask } from './key';
import { inMask, pitchClassOf } from './pitch';
import { scaleOf } from './scale';

const NUMBERS: Readonly<Record<string, string>> = { I: '1', II: '2', III: '3', IV: '4', V: '5', VI: '6', VII: '7' };
const NUMERAL = /^([b#♭♯]*)(VII|VI|V|IV|III|II|I|vii|vi|v|iv|iii|ii|i)(.*)$/u;

/** Where a degree stands above the tonic in a key: plain numerals of minor keys mean the minor degrees. */
function rootOf(signs: string, numeral: string, key: Key): number {
  const plain = signs.replaceAll('♭', 'b').replaceAll('♯', '#');
  const number = NUMBERS[numeral.toUpperCase()] ?? '1';
  if (plain !== '') return key.tonic + intervalOf(plain + number);
  const minor = isMinorish(scaleOf(key.scale));
  const lowered = minor && ['3', '6', '7'].includes(number);
  if (!lowered) return key.tonic + intervalOf(number);
  const flat = key.tonic + intervalOf(`b${number}`);
  const natural = key.tonic + intervalOf(number);
  const inKey = (root: number): boolean => inMask(keyMask(key), pitchClassOf(root));
  return !inKey(flat) && inKey(natural) && number !== '3' ? natural : flat;
}

/**
 * Reads a chord written as a degree: `I`, `ii7`, `bVII`, `V7/V`, `vii°`, `IVmaj7`, `I/3` (the bass as a degree of the
 * chord), `iv6`. Capitals are major, small letters minor.
 *
 * @returns the chord in the key, or null when the text is no numeral
 */
export function readRoman(text: string, key: Key): Chord | null {
  const [head = '', over] = text.split('/');
  if (over !== undefined && /[iv]/iu.test(over)) {
    const goal = readRoman(over, key);
    return goal ? readRoman(head, { tonic: goal.root, scale: 'major' }) : null;
  }
  const match = NUMERAL.exec(head);
  if (!match) return null;
  const [, signs = '', numeral = '', suffix = ''] = match;
  const minor = numeral === numeral.toLowerCase();
  const diminished = /^[°ø]/u.test(suffix);
  const tones = readQuality((minor && !diminished ? 'm' : '') + suffix);
  if (!tones) return null;
  const root = rootOf(signs, numeral, key);
  const bass = over === undefined ? null : bassOf(over, tones, root);
  return makeChord(root, tones, bass);
}

const DEGREE = /^([b#♭♯]?)([1-7])(?:(?![\d#b♭♯])|(?=[679](?!\d)|1[13]|[#b♭♯]\d))([^/]*)(?:\/([b#♭♯]?[1-7]))?$/u;

/**
 * Reads a chord written as a number of the key: `1`, `6m`, `b7`, `57`, `4maj7`, `5/7` (the bass as a degree of the key).
 * A number alone is the chord that the key has there, minor where its third is.
 *
 * @returns the chord in the key, or null when the text is no degree
 */
export function readDegree(text: string, key: Key): Chord | null {
  const match = DEGREE.exec(text.trim());
  if (!match) return null;
  const [, sign = '', number = '', suffix = '', over] = match;
  const numeral = Object.keys(NUMBERS).find((name) => NUMBERS[name] === number) ?? 'I';
  const root = rootOf(sign, numeral, key);
  const tones = suffix === '' && sign === '' ? triadOn(root, key) : readQuality(suffix);
  if (!tones) return null;
  const bass = over === undefined ? null : key.tonic + intervalOf(over.replace('♭', 'b').replace('♯', '#'));
  return makeChord(root, tones, bass);
}

/** The triad that a key has on one of its notes: major where it cannot say. */
function triadOn(root: number, key: Key): readonly string[] {
  const mask = keyMask(key);
  const has = (interval: string): boolean => inMask(mask, pitchClassOf(root + intervalOf(interval)));
  if (has('3') && has('5')) return ['1', '3', '5'];
  if (has('b3')) return has('5') ? ['1', 'b3', '5'] : has('b5') ? ['1', 'b3', 'b5'] : ['1', 'b3', '5'];
  return ['1', '3', '5'];
}

/**
 * A bass written as a degree of the chord takes the chord's own kind of it: `/3` under a minor chord is its minor
 * third.
 */
function bassOf(degree: string, tones: readonly string[], root: number): number | null {
  if (!/^[b#]?\d$/.test(degree)) return null;
  const own = tones.find((tone) => tone.replaceAll(/[b#]/g, '') === degree);
  return root + intervalOf(own ?? degree);
}

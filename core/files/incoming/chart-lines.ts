import type { Writing } from '../../song/chord-typing';
import { TEMPO_LIMITS } from '../../song/schema';
import { countIn, isAgain, isHold } from '../../song/written-bars';
import type { Key } from '../../theory/key';
import { readName } from '../../theory/pitch';
import { readChord } from '../../theory/read-chord';
import { readDegree, readRoman } from '../../theory/roman';
import { SCALES } from '../../theory/scale';
import { clamp } from '../../theory/units';

/** The lines of a chord chart, told apart: headings, chords, and what holds for all of it. */

export type ChartLine =
  | { readonly kind: 'heading'; readonly name: string; readonly times: number }
  | { readonly kind: 'chords'; readonly text: string };

export interface ChartLines {
  readonly lines: readonly ChartLine[];
  readonly title: string;
  readonly key: Key | null;
  readonly tempo: number | null;
  /** As it is written. */
  readonly metre: string | null;
  /** Lines that say where to go on, which is not followed. */
  readonly left: readonly string[];
}

/** Parts of songs, as charts head them. */
const PART_NAMES =
  'intro verse strophe pre-?\\s?chorus chorus refrain hook bridge middle(?:\\s?8|\\seight)? solo interlude intermezzo ' +
  'instrumental break(?:down)? vamp turnaround tag coda outro ending end part section theme head';
const PARTS = new RegExp(`^(?:${PART_NAMES.split(' ').join('|')})\\b`, 'iu');
const JUMPS = /\b(?:D\.?\s?[CS]\.?(?:\s+al\s+\w+)?|da capo|dal segno|to coda|fine)\b/iu;
const BAR_LINE = /[|‖]/u;
const ANY_KEY: Key = { tonic: 0, scale: 'major' };

/** True where a word of a line can be a chord, or says how chords go on. */
function isMusic(word: string, writing: Writing): boolean {
  if (isHold(word) || isAgain(word) || countIn(word) !== null || /^(?:\d\.)+$/.test(word)) return true;
  const inner = word.replaceAll(/^[([{]+|[)\]}]+$/g, '');
  // A word in small letters is no chord among words: “a”, “be”, “add”.
  if (/^[a-z]+$/.test(inner) && !/^(?:[a-h]m?|[iv]+)$/.test(inner)) return false;
  return readChord(word, writing).ok || readRoman(word, ANY_KEY) !== null || readDegree(word, ANY_KEY) !== null;
}

/** Whether a line is one of chords: nearly all of its words are; words of a song are not. */
function isChordLine(text: string, writing: Writing): boolean {
  const words = text
    .split(/[\s|‖]+/u)
    .map((word) => word.replaceAll(/^:+|:+$/g, ''))
    .filter(Boolean);
  if (words.length === 0) return false;
  const music = words.filter((word) => isMusic(word, writing)).length;
  const quality = words.filter((word) => /^(?:major|minor|dur|moll|dim|aug|sus)\d*$/iu.test(word)).length;
  // A few words that cannot be read stay in their places and are marked.
  const share = (music + quality) / words.length;
  return BAR_LINE.test(text) ? share >= 0.5 : share >= (words.length > 4 ? 0.8 : 1);
}

interface Heading {
  readonly name: string;
  readonly times: number;
  /** Chords that stand on the same line. */
  readonly rest: string;
}

const BRACKETED = /^[[(<]\s*([^\]|)>]{1,60}?)\s*[\])>]\s*:?\s*(.*)$/u;
const BEFORE_COLON = /^([\p{L}\d][^|:]{0,58}?)\s*:(?=\s|$)\s*(.*)$/u;
const PART_AND_REST = new RegExp(`${PARTS.source}(?:\\s+(?:\\d+|[A-H](?=\\s|$)))?`, 'iu');

/** A heading’s name, and what stands after it on its line; null where the line is none. */
function parted(text: string, writing: Writing): readonly [name: string, rest: string] | null {
  const bracketed = BRACKETED.exec(text);
  if (bracketed) {
    const [, name = '', rest = ''] = bracketed;
    // “(F)” and “[Am7]” are chords, “[A]” is a letter that marks a place.
    const isChord =
      !PARTS.test(name) && isChordLine(name, writing) && !(text.startsWith('[') && /^[A-Z]\d?$/.test(name));
    return isChord ? null : [name, rest];
  }
  const colon = BEFORE_COLON.exec(text);
  if (colon) return [colon[1] ?? '', colon[2] ?? ''];
  if (BAR_LINE.test(text) && !PARTS.test(text)) return null;
  const [name = ''] = PART_AND_REST.exec(text) ?? [];
  const rest = text.slice(name.length).trim();
  if (name === '') return null;
  if (rest !== '' && isChordLine(rest, writing)) return [name, rest];
  return text.length <= 60 && !BAR_LINE.test(text) ? [text, ''] : null;
}

/** “[Verse 1]”, “Chorus x2:”, “Bridge”, “A: C | G”. */
function headingOf(text: string, writing: Writing): Heading | null {
  const found = parted(text, writing);
  if (!found) return null;
  const [whole, rest] = found;
  const [words, after] = [whole.split(/\s+/), countIn(rest.trim())];
  const own = words.length > 1 ? countIn(words.at(-1) ?? '') : null;
  const name = (own === null ? words : words.slice(0, -1)).join(' ').replace(/[\s:\-–]+$/u, '');
  return { name, times: own ?? after ?? 1, rest: after === null ? rest.trim() : '' };
}

/** The chords of a line of words that has them in brackets: “[C]Snow on the [Am]mast”. */
function chordsAmongWords(text: string, writing: Writing): string | null {
  const inside = [...text.matchAll(/\[([^\]]+)\]/gu)].map(([, chord = '']) => chord);
  const outside = text.replaceAll(/\[[^\]]*\]/gu, ' ').trim();
  if (inside.length === 0 || (outside === '' && inside.length === 1) || !inside.every((word) => isMusic(word, writing)))
    return null;
  return outside !== '' && isChordLine(outside, writing) ? null : inside.join(' ');
}

const KEY = /^(?:key|tonart|tonality)(?:\s+of)?\s*[:=]?\s*(.+)$/iu;
const TITLE = /^(?:title|titel|song)\s*[:=]\s*(.+)$/iu;
const TEMPO = /^(?:tempo\s*[:=]?\s*|[♩♪]\s*=\s*)(\d{2,3}(?:[.,]\d+)?)\s*(?:bpm)?$|^(\d{2,3}(?:[.,]\d+)?)\s*bpm$/iu;
const METRE = /^(?:time|metre|meter|time signature|takt)?\s*[:=]?\s*(\d{1,2}\s*\/\s*\d{1,2})$/iu;

/** “G”, “Em”, “C minor”, “D Dorian”. */
export function readKeyText(text: string): Key | null {
  const match = /^([A-Ga-g])\s*([#b♯♭]|sharp|flat)?\s*(.*)$/u.exec(text.trim());
  if (!match) return null;
  const sign = { sharp: '#', flat: 'b' }[match[2] ?? ''] ?? match[2] ?? '';
  const tonic = readName((match[1] ?? '').toUpperCase() + sign);
  if (tonic === null) return null;
  const mode = (match[3] ?? '').trim().toLowerCase();
  if (/^(?:|maj(?:or)?|dur)$/.test(mode)) return { tonic, scale: 'major' };
  if (/^(?:m|min(?:or)?|moll)$/.test(mode)) return { tonic, scale: 'minor' };
  const scale = SCALES.find(({ name }) => name.toLowerCase() === mode);
  return scale ? { tonic, scale: scale.id } : null;
}

/** What holds for the whole chart, as far as it was said; the first of each counts. */
interface Facts {
  readonly key?: Key;
  readonly title?: string;
  readonly tempo?: number;
  readonly metre?: string;
}

/** What a line says of the whole chart; null where it says something else. */
function factIn(line: string): Facts | null {
  const [key, title, tempo, metre] = [KEY, TITLE, TEMPO, METRE].map((pattern) => pattern.exec(line));
  const stated = key ? readKeyText(key[1] ?? '') : null;
  if (stated) return { key: stated };
  if (title) return { title: (title[1] ?? '').trim() };
  if (metre) return { metre: (metre[1] ?? '').replaceAll(/\s/g, '') };
  if (!tempo) return null;
  const bpm = Number((tempo[1] ?? tempo[2] ?? '').replace(',', '.'));
  return { tempo: clamp(bpm, TEMPO_LIMITS.low, TEMPO_LIMITS.high) };
}

/** Several facts may share a line: “Key: G   Tempo: 96   3/4”. */
function factsIn(line: string): Facts | null {
  const one = factIn(line);
  if (one) return one;
  const pieces = line.split(/\s{2,}|\s*[,;·•]\s*/u).map(factIn);
  if (pieces.length < 2 || pieces.includes(null)) return null;
  return Object.assign({}, ...pieces.toReversed()) as Facts;
}

/** Text in which each line is told for what it is; what is neither chords nor a heading is words, and left out. */
export function chartLines(text: string, writing: Writing): ChartLines {
  const lines: ChartLine[] = [];
  const left: string[] = [];
  let facts: Facts = {};
  for (const raw of text.split(/\r\n|\r|\n/)) {
    const line = raw.replaceAll('\t', '  ').trim();
    if (line === '') continue;
    const said = factsIn(line);
    const among = said ? null : chordsAmongWords(line, writing);
    const heading = said || among !== null ? null : headingOf(line, writing);
    if (said) facts = { ...said, ...facts };
    else if (among !== null) lines.push({ kind: 'chords', text: among });
    else if (heading) {
      lines.push({ kind: 'heading', name: heading.name, times: heading.times });
      if (heading.rest !== '' && isChordLine(heading.rest, writing)) lines.push({ kind: 'chords', text: heading.rest });
    } else if (JUMPS.test(line) && !BAR_LINE.test(line)) left.push(line);
    else if (isChordLine(line, writing)) lines.push({ kind: 'chords', text: line });
    else if (lines.length === 0) facts = { title: line, ...facts };
  }
  const { title = '', key = null, tempo = null, metre = null } = facts;
  return { lines, title, key, tempo, metre, left };
}

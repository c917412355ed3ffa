import { makeChord, type Chord } from './chord';
import { nearestChords } from './nearest-chords';
import { readName } from './pitch';

export type ChordReading =
  | { readonly ok: true; readonly chord: Chord | null }
  | { readonly ok: false; readonly reason: string; readonly nearest: readonly string[] };

/** What has been understood so far; degrees replace one another by their place in the chord. */
interface Draft {
  third: string | null;
  fifths: string[];
  sixth: boolean;
  seventh: string | null;
  added: Set<string>;
  /** True once a number such as 7, 9 or 13 has been read: signs after it alter, they name no quality. */
  numbered: boolean;
}

type Rule = readonly [pattern: RegExp, apply: (draft: Draft, match: RegExpExecArray) => void];

/** Stacks thirds up to a number; a dominant 13 leaves out the 11 that would rub against its major third. */
function extend(draft: Draft, number: string, seventh: string): void {
  draft.numbered = true;
  if (number === '6') {
    draft.sixth = true;
    return;
  }
  draft.seventh = seventh;
  if (number !== '7') draft.added.add('9');
  if (number === '11' || (number === '13' && draft.third === 'b3')) draft.added.add('11');
  if (number === '13') draft.added.add('13');
}

const flat = (sign: string | undefined): string => (sign === '-' || sign === 'b' ? 'b' : '#');

function alter(draft: Draft, sign: string, number: string): void {
  if (number === '5') draft.fifths = [...draft.fifths.filter((fifth) => fifth !== '5'), `${sign}5`];
  else draft.added.add(sign + ({ 2: '9', 4: '11', 6: '13' }[number] ?? number));
}

/** The grammar of a chord's quality: at each place the first rule that matches is applied. */
const RULES: readonly Rule[] = [
  [/^[(),\s]+/, () => undefined],
  [/^(?:6\/9|69)/, (draft) => (extend(draft, '6', ''), draft.added.add('9'))],
  [/^alt/, (draft) => (extend(draft, '7', 'b7'), (draft.fifths = ['b5', '#5']), draft.added.add('b9').add('#9'))],
  [/^sus(?:24|42|2sus4|4sus2)/, (draft) => ((draft.third = '4'), draft.added.add('9'))],
  [/^sus(2|4)?/, (draft, [, number]) => (draft.third = number ?? '4')],
  [/^add([b#]?)(2|4|6|9|11|13)(?!\d)/, (draft, [, sign = '', number = '']) => addDegree(draft, sign, number)],
  [/^(?:no|omit)3/, (draft) => (draft.third = null)],
  [/^(?:no|omit)5/, (draft) => (draft.fifths = [])],
  [
    /^mmaj(7|9|11|13)?/,
    (draft, [, number]) => {
      draft.third = 'b3';
      extend(draft, number ?? '7', '7');
    },
  ],
  [
    /^triangle(7|9|11|13)?/,
    (draft, [, number]) => {
      extend(draft, number ?? '7', '7');
    },
  ],
  [
    /^maj(6|7|9|11|13)?/,
    (draft, [, number]) => {
      if (number !== undefined) extend(draft, number, '7');
    },
  ],
  [
    /^half(7|9|11)?/,
    (draft, [, number]) => {
      draft.third = 'b3';
      draft.fifths = ['b5'];
      extend(draft, number ?? '7', 'b7');
    },
  ],
  [/^dim(7|9|11)?/, (draft, [, number]) => diminish(draft, number)],
  [/^aug/, (draft) => (draft.fifths = ['#5'])],
  [/^([b#+-])(5|9|11|13|6|4|2)(?!\d)/, (draft, [, sign, number = '']) => alter(draft, flat(sign), number)],
  [/^\+/, (draft) => (draft.fifths = ['#5'])],
  [/^m/, (draft) => (draft.third = 'b3')],
  [/^5/, (draft) => ((draft.third = null), (draft.fifths = ['5']), (draft.numbered = true))],
  [/^(7|9|11|13|6)/, (draft, [, number = '']) => extend(draft, number, draft.seventh ?? 'b7')],
  [/^2/, (draft) => (draft.added.add('9'), (draft.numbered = true))],
  [/^4/, (draft) => ((draft.third = '4'), (draft.numbered = true))],
];

function addDegree(draft: Draft, sign: string, number: string): void {
  if (number === '6' && sign === '') draft.sixth = true;
  else draft.added.add(sign + ({ 2: '9', 4: '11' }[number] ?? number));
}

function diminish(draft: Draft, number: string | undefined): void {
  draft.third = 'b3';
  draft.fifths = ['b5'];
  if (number === undefined) return;
  extend(draft, number, 'bb7');
}

/** Brings the many ways of writing a quality to the few that the rules read. */
function normalise(text: string): string {
  return text
    .replaceAll('♭', 'b')
    .replaceAll('♯', '#')
    .replaceAll(/[−–—]/gu, '-')
    .replaceAll(/[△Δ∆]/gu, 'triangle')
    .replaceAll(/[øØ]/gu, 'half')
    .replaceAll(/[°º]|(?<!n)o(?![mn])/gu, 'dim')
    .replace(/^(?:MIN|Min|min|mi(?!t))/u, 'm')
    .replace(/^-(?=$|[^\d]|6|7|9|1[13])/u, 'm')
    .replace(/^\+/u, 'aug')
    .replace(/^AUG|^Aug/u, 'aug')
    .replace(/^DIM|^Dim/u, 'dim')
    .replace(/^dom(?=\d)/iu, '')
    .replaceAll(/MAJ|Maj|maj|MA|Ma|ma(?!dd)|M|\^|j/gu, 'maj')
    .replaceAll('SUS', 'sus')
    .replaceAll('Sus', 'sus')
    .replaceAll('ADD', 'add')
    .replaceAll('Add', 'add')
    .replace(/^m\(maj/u, 'mmaj');
}

function finish(draft: Draft): string[] {
  const tones = ['1', ...draft.fifths, ...draft.added];
  if (draft.third !== null) tones.push(draft.third);
  if (draft.sixth) tones.push('6');
  if (draft.seventh !== null) tones.push(draft.seventh);
  // “7♯9” and the like replace no natural ninth, but “9♭9” would sound both: the altered one wins.
  const altered = new Set(tones.filter((tone) => /^[b#]/.test(tone)).map((tone) => tone.slice(1)));
  return tones.filter((tone) => !(altered.has(tone) && (tone === '9' || tone === '11' || tone === '13')));
}

/** The degrees of a chord's quality, such as `m7b5`; null when it is none. */
export function readQuality(text: string): string[] | null {
  const draft: Draft = { third: '3', fifths: ['5'], sixth: false, seventh: null, added: new Set(), numbered: false };
  let rest = normalise(text);
  while (rest !== '') {
    const hit = RULES.map(([pattern, apply]) => ({ match: pattern.exec(rest), apply })).find(
      ({ match }) => match !== null,
    );
    if (!hit?.match) return null;
    hit.apply(draft, hit.match);
    rest = rest.slice(hit.match[0].length);
  }
  return finish(draft);
}

/**
 * Reads a chord as songwriters type it: `Am7`, `F#m7b5`, `Bb△`, `C/E`, `G7sus4`, `d-`, `N.C.`.
 *
 * @returns the chord (null for “no chord”), or in plain words what could not be read
 */
export function readChord(typed: string): ChordReading {
  const text = typed.trim();
  if (/^(?:n\.?\s?c\.?|no chord)$/iu.test(text)) return { ok: true, chord: null };
  const match = /^([A-Ga-g](?:##|bb|[#b♯♭x𝄪𝄫])?)(.*)$/u.exec(text);
  const root = match ? readName(match[1] ?? '') : null;
  if (!match || root === null) {
    return {
      ok: false,
      reason: `“${text}” does not start with a note name (A to G, then # or b). Try Am, F#m7 or Bb/D.`,
      nearest: nearestChords(text),
    };
  }
  const split = /^(.*?)\s*[/\\]\s*([A-Ga-g](?:##|bb|[#b♯♭])?)$/u.exec(match[2] ?? '');
  const bass = split ? readName(split[2] ?? '') : null;
  const quality = split ? (split[1] ?? '') : (match[2] ?? '');
  const tones = readQuality(quality);
  if (!tones) {
    return {
      ok: false,
      reason: `“${quality}” in “${text}” is no chord quality Fendro knows. Try m, 7, maj7, m7b5, sus4, add9 or 7#11.`,
      nearest: nearestChords(text),
    };
  }
  return { ok: true, chord: makeChord(root, tones, bass) };
}

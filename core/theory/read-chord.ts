import { makeChord, type Chord } from './chord';
import { nearestChords } from './nearest-chords';
import { isSilence, plainChord, plainQuality } from './chord-spelling';
import { intervalOf, readName, type Fifths } from './pitch';

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
  let rest = plainQuality(text);
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

export interface ChordWriting {
  /** True where notes have German names: H is B, and B is B♭; `Fis` and `Es` are read too. */
  readonly german?: boolean;
}

/** Degrees of the chord that may stand under it: `C/3` is `C/E`. */
const DEGREE_BASS = /^(.*)\/(b?3|5|b7)$/u;
const NAMED_BASS = /^(.*?)\s*[/\\]\s*([A-Ga-g](?:##|bb|[#b])?)$/u;

/** What stands after the root: the quality, and the bass where one is named. */
function partsAfter(root: Fifths, rest: string): { readonly quality: string; readonly bass: Fifths | null } {
  const named = NAMED_BASS.exec(rest);
  if (named) return { quality: named[1] ?? '', bass: readName(named[2] ?? '') };
  const degree = DEGREE_BASS.exec(rest);
  return degree
    ? { quality: degree[1] ?? '', bass: root + intervalOf(degree[2] ?? '') }
    : { quality: rest, bass: null };
}

/**
 * Reads a chord as songwriters type it: `Am7`, `F#m7b5`, `Bb△`, `C/E`, `G7sus4`, `d-`, `A7M(9)`, `C minor 7`, `N.C.`.
 *
 * @returns the chord (null for “no chord”), or in plain words what could not be read
 */
export function readChord(typed: string, { german = false }: ChordWriting = {}): ChordReading {
  const text = typed.trim();
  const plain = plainChord(typed, german);
  if (isSilence(plain)) return { ok: true, chord: null };
  // As it is typed, C♭ and F♭ are hardly ever roots of a bare fifth: the letter b belongs to the 5. Print is exact.
  const flatFifth = /^\W*[CF]b5/u.test(text) ? /^([CF])(b5.*)$/u.exec(plain) : null;
  const match = flatFifth ?? /^([A-Ga-g](?:##|bb|[#bx𝄪𝄫])?)(.*)$/u.exec(plain);
  const root = match ? readName(match[1] ?? '') : null;
  if (!match || root === null) {
    const h = plain.startsWith('H')
      ? ' H is a German name of a note: among all commands, “Name notes as in German” reads it.'
      : '';
    return {
      ok: false,
      reason: `“${text}” does not start with a note name (A to G, then # or b). Try Am, F#m7 or Bb/D.${h}`,
      nearest: nearestChords(text),
    };
  }
  const { quality, bass } = partsAfter(root, match[2] ?? '');
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

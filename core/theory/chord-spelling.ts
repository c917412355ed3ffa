/** The many ways in which chords are written, brought to the few that are read. Pure text: nothing here knows notes. */

type Change = readonly [pattern: RegExp, instead: string | ((match: string, ...groups: string[]) => string)];

const changed = (text: string, changes: readonly Change[]): string =>
  changes.reduce(
    (now, [pattern, instead]) =>
      typeof instead === 'string' ? now.replace(pattern, instead) : now.replace(pattern, instead),
    text,
  );

/** Brackets around all of it, and what stands after it as in a sentence or as an accent. */
const AROUND: readonly Change[] = [
  [/^\s+|\s+$/g, ''],
  [/^[([{]\s*([^()[\]{}]*(?:\([^()]*\)[^()[\]{}]*)*)\s*[)\]}]$/u, '$1'],
  [/(?<!n\.?\s*c)[.,;:!*?'’]+$/iu, ''],
];

/** Signs of print and of other scripts. */
const SIGNS: readonly Change[] = [
  [/♭/gu, 'b'],
  [/♯/gu, '#'],
  [/♮/gu, ''],
  [/[−–—‐‑]/gu, '-'],
  [/[△Δ∆]/gu, 'triangle'],
  [/[øØ]/gu, 'half'],
  [/°|º/gu, 'dim'],
];

/** Names of notes with a word in place of a sign: “B flat”, “F-sharp minor”. */
const NOTES: readonly Change[] = [
  [/^([A-Ha-h])[\s-]*(?:sharp)(?![a-z])/u, '$1#'],
  [/^([A-Ha-h])[\s-]*(?:flat)(?![a-z])/u, '$1b'],
  [/^([A-Ha-h][b#]?)\s*:\s*/u, '$1'],
  [/\s+(?:over|on)\s+(?=[A-H])/u, '/'],
];

/** Note names of German-speaking countries: H, B, and -is and -es for sharps and flats. */
const GERMAN: readonly Change[] = [
  [/^([Bb])(?!es|b)/u, '$1b'],
  [/^[Hh]/u, (found) => (found === 'H' ? 'B' : 'b')],
  [/^([A-Ga-g])is(?:is)?/u, '$1#'],
  [/^([ae])s(?!us)/iu, '$1b'],
  [/^([CDFGcdfg])es/u, '$1b'],
];

/** A chord without what stands around it, in plain signs, its root in the language of the trade. */
export function plainChord(typed: string, german: boolean): string {
  const plain = changed(changed(typed.normalize('NFKC'), AROUND), SIGNS);
  if (!german) return changed(plain, NOTES);
  const [head = '', ...bass] = plain.split(/\s*[/\\]\s*(?=[A-Ha-h](?:is|es|s|b|#)?$)/u);
  return changed([head, ...bass].map((name) => changed(name, GERMAN)).join('/'), NOTES);
}

/** Ways of saying that no chord sounds. */
export const isSilence = (plain: string): boolean => /^(?:n\.?\s*\/?\s*c\.?|no\s+chord|tacet)$/iu.test(plain);

const WORDS: readonly Change[] = [
  [/half[\s-]*(?:diminished|dim)/giu, 'half'],
  [/hdim/gu, 'half'],
  [/\bminor|minor\b/giu, 'min'],
  [/major/giu, 'maj'],
  [/dominant|dom(?=[\s\d]|$)/giu, ''],
  [/\bdur\b/giu, 'maj'],
  [/\bmoll\b/giu, 'min'],
  [/diminished/giu, 'dim'],
  [/augmented/giu, 'aug'],
  [/suspended/giu, 'sus'],
  [/altered/giu, 'alt'],
  [/\bpower\b/giu, '5'],
  [/lyd(?:ian)?/giu, '#11'],
  [/\bsecond\b/giu, '2'],
  [/\bfourth\b/giu, '4'],
  [/\bsixth\b/giu, '6'],
  [/\bseventh\b/giu, '7'],
  [/\bninth\b/giu, '9'],
  [/\beleventh\b/giu, '11'],
  [/\bthirteenth\b/giu, '13'],
  [/(no|omit)\s*([35])(?:rd|th)?/giu, '$1$2'],
];

/** Numbers in brackets or after a stroke are added; all else stands as it would without them. */
function inBrackets(content: string, before: string): string {
  const seventh = /[79]|1[13]/.test(before);
  return content
    .split(/[\s,/;|]+/)
    .map((item) => {
      const number = /^\d+$/.exec(item)?.[0];
      if (number === '4' && seventh) return 'sus4';
      if (number === '6' || number === '5' || number === '7') return number;
      return number === undefined ? item : `add${number}`;
    })
    .join('');
}

const LETTERS: readonly Change[] = [
  [/^(?:MIN|Min|min|MI(?!N)|Mi(?!n)|mi(?![tn]))/u, 'm'],
  [/^-(?=$|[^\d]|6|7|9|1[13])/u, 'm'],
  [/^\+(?=5)/u, '#'],
  [/^5\+/u, '#5'],
  [/^\+/u, 'aug'],
  [/^AUG|^Aug/u, 'aug'],
  [/^DIM|^Dim/u, 'dim'],
  [/(?<!n)o(?![mn])/gu, 'dim'],
  [/^0/u, 'dim'],
  [/MAJ|Maj|maj|MA(?!DD)|Ma(?!dd)|ma(?!dd)|M|\^|j|J/gu, 'maj'],
  [/^(m?)(7|9|11|13)maj/u, (_found, minor = '', number = '') => `${minor}maj${number}`],
  [/^m\/?maj/u, 'mmaj'],
  // A raised seventh above a minor third, as it is written in Portuguese.
  [/^m(?:\+7|7\+)$/u, 'mmaj7'],
  [/SUS|Sus/gu, 'sus'],
  [/ADD|Add/gu, 'add'],
  [/sus(?:2\/4|4\/2)/u, 'sus24'],
  [/^4\/7|^sus4\/7|^7\/4/u, '7sus4'],
  [/^6(?:,|-|\/|add)?9/u, '69'],
  [/^(m|maj)6(?:,|-|\/|add)?9/u, '$169'],
];

/**
 * Brings the many ways of writing a quality to those that the grammar of chords reads: `minor 7`, `7M(9)`, `-7(b5)`,
 * `6(9)`, `7/13`.
 */
export function plainQuality(text: string): string {
  const words = changed(changed(text, SIGNS), WORDS).replaceAll(/\s+(?![^([{]*[)\]}])/g, '');
  const opened = words.replaceAll(/[([{]([^)\]}]*)[)\]}]/gu, (_found: string, content: string, at: number) =>
    inBrackets(content, words.slice(0, at)),
  );
  const letters = changed(opened, LETTERS);
  return letters.replaceAll(/\/(add\d+|[b#+-]?(?:9|11|13|5))(?!\d)/gu, (_found: string, item: string, at: number) =>
    inBrackets(item, letters.slice(0, at)),
  );
}

import type { Style } from '../song/style';

/**
 * Figures as lines of text, for reading and changing them by hand. Struck: `late stabs = ....X.....x...4. @55`, the
 * number is how long a stroke sounds in %. Drums: `deep pocket = kick x..3..5.; snare ....X..2`. Melodies:
 * `long and two = x.-..-x.-x.`. Forms: `eight bars = 1 5 4 4 1 5 1 1/5 @50`, the number is how readily it is taken. Own
 * chords: `minor 5 = 1 3 5 b7`.
 */

interface Timed {
  readonly name: string;
  readonly steps: string;
  readonly length: number;
}
interface Drummed {
  readonly name: string;
  readonly voices: Readonly<Partial<Record<string, string>>>;
}

export const timedText = (figures: readonly Timed[]): string =>
  figures.map(({ name, steps, length }) => `${name} = ${steps} @${length}`).join('\n');

export const drummedText = (figures: readonly Drummed[]): string =>
  figures
    .map(
      ({ name, voices }) =>
        `${name} = ${Object.entries(voices)
          .map(([drum, steps]) => `${drum} ${steps}`)
          .join('; ')}`,
    )
    .join('\n');

type Harmony = Style['harmony'];
type Sung = NonNullable<Style['melody']>[number];
type Form = NonNullable<Harmony['forms']>[number];

export const sungText = (cells: readonly Sung[]): string =>
  cells.map(({ name, steps }) => `${name} = ${steps}`).join('\n');

export const formsText = (forms: readonly Form[]): string =>
  forms.map(({ name, bars, weight }) => `${name} = ${bars}${weight === undefined ? '' : ` @${weight}`}`).join('\n');

export const ownChordsText = ({ majorChords, minorChords }: Harmony): string =>
  Object.entries({ major: majorChords, minor: minorChords })
    .flatMap(([mode, chords]) => Object.entries(chords ?? {}).map(([degree, tones]) => `${mode} ${degree} = ${tones}`))
    .join('\n');

export type TextRead<T> =
  | { readonly ok: true; readonly figures: T[] }
  | { readonly ok: false; readonly problem: string };

const linesOf = (text: string): string[] =>
  text
    .split('\n')
    .map((line) => line.trim())
    .filter((line) => line !== '');

function each<T>(text: string, what: string, read: (name: string, rest: string) => T | string): TextRead<T> {
  const figures: T[] = [];
  for (const [index, line] of linesOf(text).entries()) {
    const [, name, rest] = /^([^=]+?)\s*=\s*(.+)$/.exec(line) ?? [];
    const figure = name === undefined || rest === undefined ? 'a line needs a name, “=” and steps' : read(name, rest);
    if (typeof figure === 'string') return { ok: false, problem: `${what}, line ${index + 1}: ${figure}.` };
    figures.push(figure);
  }
  return { ok: true, figures };
}

/** Reads figures that sound for a share of their steps. */
export const readTimed = (text: string, what: string): TextRead<Timed> =>
  each(text, what, (name, rest) => {
    const [, steps, length] = /^(\S+)(?:\s*@\s*(\d{1,3}))?$/.exec(rest) ?? [];
    return steps === undefined
      ? 'steps must be written without spaces, then “@” and a length in %'
      : { name, steps, length: length === undefined ? 80 : Number(length) };
  });

/** Reads cells of melodies. */
export const readSung = (text: string, what: string): TextRead<Sung> =>
  each(text, what, (name, rest) => (/\s/.test(rest) ? 'steps must be written without spaces' : { name, steps: rest }));

/** Reads forms: a word of degrees for each bar, and how readily it is taken. */
export const readForms = (text: string, what: string): TextRead<Form> =>
  each(text, what, (name, rest) => {
    const [, bars, weight] = /^([^@]+?)(?:\s*@\s*(\d{1,4}))?$/.exec(rest) ?? [];
    return bars === undefined
      ? 'degrees must be parted by spaces, then “@” and how readily it is taken'
      : { name, bars: bars.replaceAll(/\s+/g, ' '), ...(weight === undefined ? {} : { weight: Number(weight) }) };
  });

/** Reads a style's own chords, those of major and of minor keys: by their degree, with their notes from the root on. */
export function readOwnChords(
  text: string,
  what: string,
): TextRead<{ readonly mode: 'major' | 'minor'; readonly degree: string; readonly tones: string }> {
  return each(text, what, (name, tones) => {
    const [, mode, degree] = /^(major|minor)\s+([b#]?[1-7])$/.exec(name) ?? [];
    return mode === undefined || degree === undefined
      ? '“major” or “minor” and a degree go before “=”'
      : { mode: mode === 'major' ? 'major' : 'minor', degree, tones: tones.replaceAll(/\s+/g, ' ') };
  });
}

/** Reads grooves and fills: a drum and its steps, parted by semicolons. */
export const readDrummed = (text: string, what: string): TextRead<{ name: string; voices: Record<string, string> }> =>
  each(text, what, (name, rest) => {
    const entries = rest.split(';').map((part) => /^([a-z ]+?)\s+(\S+)$/.exec(part.trim()));
    const broken = entries.findIndex((entry) => entry === null);
    if (broken >= 0) return `“${rest.split(';')[broken]?.trim()}” is no drum with its steps`;
    return {
      name,
      voices: Object.fromEntries(entries.flatMap((entry) => (entry ? [[entry[1] ?? '', entry[2] ?? '']] : []))),
    };
  });

/** A copy of a style under a name and id of its own. */
export const copyOfStyle = (style: Style, id: string, name: string): Style => ({ ...style, id, name });

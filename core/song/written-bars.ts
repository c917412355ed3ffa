/** Bars of chords as they are written on paper: bar lines, repeats, endings, beats that go on, bars said again. */

/** The words of one bar: chords, and signs that let the one before sound on. */
export type WrittenBar = readonly string[];

/** Lets the chord before sound on for its share of the bar. */
export const isHold = (word: string): boolean => /^(?:[/\-–—.~_]|\/{2,})$/u.test(word);

/** A bar that says the one before once more. */
export const isAgain = (word: string): boolean => /^(?:%|𝄎)$/u.test(word);

const COUNT = /^\(?(?:[x×]\s*(\d{1,2})|(\d{1,2})\s*[x×])\)?$/iu;

/** “x4”, “4x”, “(×4)”: how often something is played; null where a word says none. */
export function countIn(word: string): number | null {
  const match = COUNT.exec(word);
  const count = Number(match?.[1] ?? match?.[2] ?? 0);
  return count >= 1 ? count : null;
}

const ENDING = /^(\d)\.(?:\d\.)*$/;
const BAR_LINE = /\s*(:?)[|‖]+(:?)\]?\s*/gu;
/** Words that say more of the chord before them: “C minor”, “Bb major 7”. */
const OF_CHORD =
  /^(?:major|minor|maj|min|dim|aug|sus|dominant|diminished|augmented|half-diminished|suspended|dur|moll)\d*$/iu;

type Sign = { readonly kind: 'line'; readonly closes: boolean; readonly opens: boolean } | string;

/** Words and bar lines in their order, what belongs to one chord put together. */
function signsOf(text: string): Sign[] {
  const spaced = text.replaceAll(BAR_LINE, (_line: string, closes: string, opens: string) => ` ${closes}|${opens} `);
  const words = spaced
    .replaceAll(/([x×])\s+(?=\d{1,2}(?:\s|\)|$))/giu, '$1')
    .split(/\s+/)
    .filter(Boolean);
  const signs: Sign[] = [];
  for (const word of words) {
    const last = signs.at(-1);
    if (/^:?\|:?$/.test(word)) signs.push({ kind: 'line', closes: word.startsWith(':'), opens: word.endsWith(':') });
    else if (OF_CHORD.test(word) && typeof last === 'string' && /^[A-Ha-h]/u.test(last)) {
      signs.pop();
      signs.push(`${last} ${word}`);
    } else signs.push(word);
  }
  return signs;
}

/** Gathers bars, what is repeated written out. */
class Unrolled {
  private readonly out: WrittenBar[] = [];
  /** Bars since the repeat began. */
  private block: WrittenBar[] = [];
  private bar: string[] = [];
  /** True once a word was read, and where the sign before was a bar line that closed nothing. */
  private begun = false;
  private lineBefore = false;
  /** Bars of the block before its first ending. */
  private beforeEnding: number | null = null;
  /** What was closed last, in case a count says how often it is played. */
  private closed: { readonly bars: readonly WrittenBar[]; readonly body: readonly WrittenBar[] } | null = null;

  word(word: string): void {
    if (this.bar.length === 0 && ENDING.test(word)) this.beforeEnding ??= this.block.length;
    else if (isAgain(word)) this.bar.push(...(this.block.at(-1) ?? this.out.at(-1) ?? [word]));
    else this.bar.push(word);
    this.closed = null;
    this.begun = true;
    this.lineBefore = false;
  }

  line(closes: boolean, opens: boolean): void {
    // Nothing between two bar lines is a bar in which the chord goes on.
    if (this.bar.length > 0 || (this.begun && !closes && !opens && this.lineBefore)) this.block.push(this.bar);
    this.bar = [];
    this.lineBefore = !closes;
    if (closes) this.close();
    if (opens) this.flush();
  }

  private close(): void {
    const body = this.block.slice(0, this.beforeEnding ?? this.block.length);
    this.closed = { bars: this.block, body };
    this.out.push(...this.block, ...body);
    this.block = [];
    this.beforeEnding = null;
  }

  /** Plays what came before so often in all. */
  times(count: number): void {
    if (this.bar.length > 0) this.block.push(this.bar);
    this.bar = [];
    const bars = this.closed?.bars ?? this.block;
    const said = this.closed ? 2 : 1;
    const into = this.closed ? this.out : this.block;
    const once = [...bars];
    if (this.closed && count < said) this.out.length -= this.closed.body.length;
    for (let more = said; more < count; more++) into.push(...once);
    this.closed = null;
  }

  private flush(): void {
    this.out.push(...this.block);
    this.block = [];
    this.beforeEnding = null;
  }

  result(): readonly WrittenBar[] {
    if (this.bar.length > 0) this.block.push(this.bar);
    this.flush();
    return this.out;
  }
}

/** Words without bar lines: where beats are counted by strokes, so many to a bar; else all of them in one. */
function counted(words: readonly string[], beats: number): readonly WrittenBar[] {
  if (words.length <= beats || !words.some(isHold)) return [words];
  return Array.from({ length: Math.ceil(words.length / beats) }, (_, bar) =>
    words.slice(bar * beats, (bar + 1) * beats),
  );
}

/**
 * Reads bars as they are written: `C / / / | F G`, `|: Am F :| x4`, `|1. C :|2. G |`, `%` for the bar before. Repeats and
 * endings come written out.
 *
 * @param beats  felt beats of a bar
 * @returns words bar by bar; a text without bar lines is one bar, or as many as its strokes count
 */
export function writtenBars(text: string, beats: number): readonly WrittenBar[] {
  const signs = signsOf(text);
  const unrolled = new Unrolled();
  if (!signs.some((sign) => typeof sign !== 'string')) {
    const words = signs.filter((sign) => typeof sign === 'string');
    const count = words.length > 1 ? countIn(words.at(-1) ?? '') : null;
    const bars = counted(count === null ? words : words.slice(0, -1), beats);
    return Array.from({ length: count ?? 1 }, () => bars).flat();
  }
  for (const sign of signs) {
    if (typeof sign !== 'string') unrolled.line(sign.closes, sign.opens);
    else {
      const count = countIn(sign);
      if (count === null) unrolled.word(sign);
      else unrolled.times(count);
    }
  }
  return unrolled.result();
}

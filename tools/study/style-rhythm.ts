import type { Note } from '@fendro/core/song/schema';
import { barTicks, type Metre } from '@fendro/core/theory/metre';

interface Sample {
  readonly style: string;
  readonly notes: readonly Note[];
  readonly metre: Metre;
  readonly bars: number;
}

const SLOTS = 24;
/** Upper edges of times between onsets, in ticks. */
const GAPS = [100, 170, 230, 330, 420, 600, 800, 1200, Infinity];

/** Where in the bar a melody's notes start, how long it is between them, and how many there are: nothing of pitch. */
function features({ notes, metre, bars }: Sample): number[] {
  const bar = barTicks(metre);
  const places = new Array<number>(SLOTS).fill(0);
  const gaps = GAPS.map(() => 0);
  notes.forEach(({ start }, index) => {
    if (start < 0) return;
    const place = Math.min(SLOTS - 1, Math.round(((start % bar) * SLOTS) / bar));
    places[place] = (places[place] ?? 0) + 1 / bars;
    const next = notes[index + 1];
    const bin = next ? GAPS.findIndex((edge) => next.start - start <= edge) : -1;
    if (bin >= 0) gaps[bin] = (gaps[bin] ?? 0) + 2 / Math.max(1, notes.length - 1);
  });
  return [...places, ...gaps, notes.length / bars / 6, bar / 1920];
}

const distance = (a: readonly number[], b: readonly number[]): number =>
  a.reduce((sum, value, index) => sum + (value - (b[index] ?? 0)) ** 2, 0);

/** The share of melodies whose style is told from their rhythm alone, by the nearest mean of as many others. */
export function toldByRhythm(samples: readonly Sample[]): number {
  const styles = [...new Set(samples.map(({ style }) => style))];
  const own = (style: string, odd: number): Sample[] =>
    samples.filter((sample) => sample.style === style).filter((_, index) => index % 2 === odd);
  const centroids = styles.map((style) => {
    const rows = own(style, 0).map(features);
    return (rows[0] ?? []).map((_, at) => rows.reduce((sum, row) => sum + (row[at] ?? 0), 0) / rows.length);
  });
  const tested = styles.flatMap((style) => own(style, 1));
  const right = tested.filter((sample) => {
    const away = centroids.map((centroid) => distance(centroid, features(sample)));
    return styles[away.indexOf(Math.min(...away))] === sample.style;
  });
  return right.length / tested.length;
}

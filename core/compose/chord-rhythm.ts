import { ownRhythmId, type Fullness } from '../styles/chord-rhythms';
import type { Style } from '../song/style';
import { barTicks, metreName, metricalWeight, WEIGHT, type Metre } from '../theory/metre';
import { range, SIXTEENTH } from '../theory/units';
import { happens, pickIndex, stream } from '../trellis/random';
import { chanceOf, homeMetre, layFigure } from '../styles/figure';

const STROKES: Readonly<Record<Fullness, readonly [fewest: number, most: number]>> = {
  sparse: [1, 2],
  steady: [3, 5],
  busy: [6, 10],
};

/**
 * Draws a rhythm for chords within a style: each sixteenth is as likely as the style's own comping figures make it, the
 * bar line most of all.
 *
 * @returns the rhythm written out, as a song keeps it
 */
export function draftRhythm(style: Style, metre: Metre, fullness: Fullness, seed: number, attempt: number): string {
  const random = stream(seed, 'chord rhythm', attempt);
  const slots = barTicks(metre) / SIXTEENTH;
  const home = homeMetre(style.metres[0] ?? '4/4');
  const likely = new Float64Array(slots);
  for (const figure of style.comping) {
    const bars = figure.steps.split('|').length;
    for (const bar of range(bars))
      for (const { at, symbol } of layFigure(figure.steps, home, metre, bar))
        likely[at / SIXTEENTH] = (likely[at / SIXTEENTH] as number) + chanceOf(symbol) / bars;
  }
  const [fewest, most] = STROKES[fullness];
  const count = fewest + pickIndex(random, most - fewest + 1);
  const chosen = new Set<number>();
  const weightAt = (slot: number): number =>
    (likely[slot] as number) + 12 * metricalWeight(metre, slot * SIXTEENTH) + 4;
  while (chosen.size < Math.min(count, slots)) {
    const open = range(slots).filter((slot) => !chosen.has(slot));
    const total = open.reduce((sum, slot) => sum + weightAt(slot), 0);
    let left = random.next() * total;
    const found = open.find((slot) => (left -= weightAt(slot)) < 0) ?? open[0] ?? 0;
    chosen.add(found);
  }
  const symbol = (slot: number): string => {
    if (!chosen.has(slot)) return '.';
    const weight = metricalWeight(metre, slot * SIXTEENTH);
    if (slot === slots - 2 && happens(random, 60)) return '<';
    return weight >= WEIGHT.strong ? 'X' : 'x';
  };
  const lengths = [40, 60, 80, 92, 100];
  const steps = range(slots).map(symbol).join('');
  return ownRhythmId(
    `${style.name} ${fullness}, drawn`,
    metreName(metre),
    lengths[pickIndex(random, lengths.length)] ?? 80,
    steps,
  );
}

import { clamp, modulo, range } from '@fendro/core/theory/units';

/** Where the steps of a strip are drawn; all in px. */

/** What a step says; null where it says nothing. */
export type StepValue = number | null;

/** Bars that stand on the ground, lines at a height, or notches in a ribbon. */
export type StepLook = 'bar' | 'line' | 'ribbon';

/** How a strip is laid out: the values at its foot and its top, and how wide a step is. */
export interface StepLayout {
  readonly look: StepLook;
  readonly height: number;
  readonly low: number;
  readonly high: number;
  readonly stepWidth: number;
}

export interface Box {
  readonly step: number;
  readonly left: number;
  readonly width: number;
  readonly top: number;
  readonly height: number;
}

/** Room over and under what is drawn, and between two steps. */
export const PAD = 3;
const GAP = 2;
/** How high the line of a step is that stands at a height. */
const LINE = 6;
/** From one line of a hatch to the next. */
const HATCH = 6;

const insetOf = (look: StepLook): number => (look === 'bar' ? 0 : LINE / 2);

/** Where a value lies, from the top. */
export function heightOf({ look, height, low, high }: StepLayout, value: number): number {
  const inset = insetOf(look);
  return PAD + inset + ((height - 2 * PAD - 2 * inset) * (high - value)) / Math.max(1, high - low);
}

/** The value that lies at a height from the top; the nearest end's beyond them. */
export function valueAtHeight({ look, height, low, high }: StepLayout, y: number): number {
  const inset = insetOf(look);
  const share = clamp(1 - (y - PAD - inset) / (height - 2 * PAD - 2 * inset), 0, 1);
  // Nothing is minus nothing.
  return Math.round(low + share * (high - low)) + 0;
}

/** A step as it is drawn; what only holds on touches what it holds. */
export function boxOf(layout: StepLayout, value: number, step: number, tied: boolean): Box {
  const { look, height, stepWidth } = layout;
  const y = heightOf(layout, value);
  const left = step * stepWidth + (tied ? 0 : GAP / 2);
  const width = Math.max(1, stepWidth - (tied ? GAP / 2 : GAP));
  if (look === 'bar') {
    const bottom = height - PAD;
    return { step, left, width, top: Math.min(y, bottom - 1), height: Math.max(1, bottom - y) };
  }
  const high = tied ? LINE / 2 : LINE;
  return { step, left, width, top: y - high / 2, height: high };
}

/** What a tied step holds on: the value of the last one before it, the strip going round. */
export function heldValue(values: readonly StepValue[], ties: readonly number[], step: number): StepValue {
  for (let back = 1; back <= values.length; back++) {
    const other = modulo(step - back, values.length);
    if (!ties.includes(other)) return values[other] ?? null;
  }
  return values[step] ?? null;
}

/** The stretch of heights that chance may draw from. */
export function bandOf(layout: StepLayout, low: number, high: number): Pick<Box, 'top' | 'height'> {
  const [top, bottom] = [heightOf(layout, high), heightOf(layout, low)];
  return layout.look === 'bar'
    ? { top, height: Math.max(2, bottom - top) }
    : { top: top - LINE / 2, height: bottom - top + LINE };
}

/** What was drawn in one cycle said again to the end, as one path. */
export const repeatsOf = (boxes: readonly Box[], cycle: number, width: number): string =>
  range(cycle <= 0 ? 0 : Math.ceil(width / cycle))
    .slice(1)
    .flatMap((time) => boxes.map((box) => ({ ...box, left: box.left + time * cycle })))
    .filter(({ left }) => left < width)
    .map(({ left, top, width: wide, height }) => {
      const cut = Math.min(wide, width - left);
      return `M${left} ${top}h${cut}v${height}h${-cut}z`;
    })
    .join('');

/** The cycles of a ribbon after its first, as one path. */
export const ribbonsOf = (cycle: number, width: number, height: number): string =>
  range(cycle <= 0 ? 0 : Math.ceil(width / cycle))
    .slice(1)
    .map((time) => {
      const cut = Math.max(1, Math.min(cycle, width - time * cycle) - 2);
      return `M${time * cycle + 1} ${PAD}h${cut}v${height - 2 * PAD}h${-cut}z`;
    })
    .join('');

/** A quiet hatch over a step, as one path. */
export const hatchOf = (left: number, width: number, height: number): string =>
  range(Math.ceil((width - 2) / HATCH))
    .map((line) => {
      const wide = Math.min(HATCH, width - 2 - HATCH * line);
      return `M${left + 1 + HATCH * line} ${height}l${wide} ${-HATCH}`;
    })
    .join('');

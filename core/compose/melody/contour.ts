import { clamp } from '../../theory/units';
import { pickWeighted, type Random } from '../../trellis/random';
import type { PartContext } from '../context';
import type { PhraseUnit } from './plan';
import type { RhythmNote } from './rhythm';

type Contour = 'arch' | 'rise' | 'fall' | 'wave' | 'level';

/** A phrase's line as heights from −1 to 1 over its time from 0 to 1. */
function heightOf(contour: Contour, time: number): number {
  switch (contour) {
    case 'arch':
      return 1 - 8 * (time - 0.45) * (time - 0.45);
    case 'rise':
      return 1.5 * time - 0.8;
    case 'fall':
      return 0.8 - 1.5 * time;
    case 'wave':
      return time < 0.5 ? 1 - Math.abs(8 * time - 2) / 1 : Math.abs(8 * (time - 0.5) - 2) - 1;
    case 'level':
      return 0;
  }
}

const CONTOURS: readonly (readonly [Contour, number])[] = [
  ['arch', 40],
  ['fall', 18],
  ['rise', 16],
  ['wave', 18],
  ['level', 8],
];

/** Semitones by which a line that leads into a chorus rises. */
const LEADS_ON = 5;

/** The height each note is drawn to, in MIDI notes: one contour for each phrase, around the middle of the register. */
export function drawHeights(
  { brief, barTicks, length, kind, bound }: PartContext,
  rhythm: readonly RhythmNote[],
  plan: readonly PhraseUnit[],
  random: Random,
): number[] {
  const centre = (brief.low + brief.high) / 2 + (random.next() - 0.5) * 3;
  const reach = clamp((brief.high - brief.low) / 2 - 2, 1, 7);
  const contours = plan.map(() => pickWeighted(random, CONTOURS));
  return rhythm.map(({ start, unit }) => {
    const { firstBar, bars } = plan[unit] as PhraseUnit;
    const time = (start - firstBar * barTicks) / (bars * barTicks);
    const contour = contours[unit - (unit % 2)] ?? 'arch';
    // Two units make one phrase: the contour spans both.
    const rising = bound && kind === 'pre-chorus' ? LEADS_ON * (start / length - 0.5) : 0;
    return centre + rising + reach * heightOf(contour, (time + (unit % 2)) / 2);
  });
}

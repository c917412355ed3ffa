import type { Aspect, Asking } from '../song/schema';
import { barTicks } from '../theory/metre';
import { range } from '../theory/units';
import { barAt } from './held';
import type { Content } from './draft';

/**
 * What an asking leaves free, of notes or chords, as text; equal texts are equal takes. Velocities are dynamics and make
 * a take new only where nothing else is free.
 *
 * @returns gives the text of anything that was drafted or shown for the asking's line
 */
export function printFor({ holds = [], bars, ground }: Asking): (content: Content) => string {
  const bar = barTicks(ground.metre);
  const isHeld = (of: number, aspects: readonly Aspect[]): boolean =>
    aspects.every((aspect) => holds.some((hold) => hold.bars.includes(of) && hold.aspects.includes(aspect)));
  const all = range(bars);
  const onlyDynamics = all.every((of) => isHeld(of, ['rhythm', 'pitch']));
  const free = new Set(all.filter((of) => !isHeld(of, onlyDynamics ? ['dynamics'] : ['rhythm', 'pitch'])));
  return (content) =>
    content.of === 'part'
      ? content.notes
          .filter(({ start }) => free.has(barAt(start, bar)))
          .map(({ start, duration, pitch, velocity }) => [start, duration, pitch, ...(onlyDynamics ? [velocity] : [])])
          .join(';')
      : content.chords
          .filter(({ start }) => free.has(barAt(start, bar)))
          .map(({ start, duration, chord }) =>
            [start, duration, chord ? `${chord.root} ${chord.tones.join(' ')} ${chord.bass}` : ''].join(),
          )
          .join(';');
}

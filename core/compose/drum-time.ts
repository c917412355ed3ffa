import type { DrumVoice, Groove } from '../song/style';
import type { Brief } from '../song/schema';

/** Drums that keep the pulse: they run on as they are while the others play in half or double time. */
const PULSE: ReadonlySet<DrumVoice> = new Set([
  'closed hat',
  'pedal hat',
  'open hat',
  'ride',
  'shaker',
  'tambourine',
  'cabasa',
  'triangle',
]);

const STRENGTH = '.123456789xX';
const stronger = (a: string, b: string): string => (STRENGTH.indexOf(b) > STRENGTH.indexOf(a) ? b : a);

/** A figure over twice the time: every stroke lies twice as far from the first beat. */
function stretched(steps: string): string {
  const bars = steps.split('|');
  const [size, text] = [bars[0]?.length ?? 0, [...bars.join('')].map((symbol) => `${symbol}.`).join('')];
  return Array.from({ length: 2 * bars.length }, (_, bar) => text.slice(bar * size, (bar + 1) * size)).join('|');
}

/** A figure in half the time, played twice; of two strokes that fall together the stronger stays. */
function pressed(steps: string): string {
  const bars = steps
    .split('|')
    .map((bar) =>
      Array.from({ length: Math.ceil(bar.length / 2) }, (_, step) =>
        stronger(bar[2 * step] ?? '.', bar[2 * step + 1] ?? '.'),
      ).join(''),
    );
  const [first = '', second = first] = bars;
  const size = steps.split('|')[0]?.length ?? 0;
  return `${first}${second}`.slice(0, size);
}

/**
 * A groove in half or double time: kick, snare and what goes with them are stretched over two bars or played twice in
 * one, while hats and shakers keep their pulse.
 */
export function inTime(groove: Groove, time: Brief['time']): Groove {
  if (time === null) return groove;
  const change = time === 'half' ? stretched : pressed;
  const voices = Object.fromEntries(
    Object.entries(groove.voices).map(([voice, steps]) => [
      voice,
      PULSE.has(voice as DrumVoice) ? steps : change(steps),
    ]),
  );
  return { name: groove.name, voices };
}

/** Bars after which a groove begins again. */
export const barsOfGroove = ({ voices }: Groove): number =>
  Math.max(1, ...Object.values(voices).map((steps) => steps.split('|').length));

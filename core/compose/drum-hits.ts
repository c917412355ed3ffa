import type { DrumVoice } from '../song/style';
import { metricalWeight, WEIGHT, type Metre } from '../theory/metre';
import type { Ticks } from '../theory/units';
import { happens, pickIndex, pickWeighted, type Random } from '../trellis/random';
import type { PartContext } from './context';
import { drawBar, usualOf } from './strokes';

/** A stroke of a drum, its accent added to the loudness asked for. */
export interface Hit {
  readonly start: Ticks;
  readonly voice: DrumVoice;
  readonly accent: number;
}

/** Accent of strokes that are felt rather than heard. */
export const SOFT = -30;

/** What carries a groove and what keeps time over it: the first is left out last, the second filled first. */
const CARRIES: ReadonlySet<DrumVoice> = new Set(['kick', 'snare', 'stick', 'clap', 'clave', 'low conga', 'open conga']);
/** What tells a style by its very pattern: it is left alone where anything else can be. */
const BELLS: ReadonlySet<DrumVoice> = new Set(['clave', 'cowbell']);
const KEEPS_TIME: readonly DrumVoice[] = ['closed hat', 'ride', 'shaker', 'cabasa', 'pedal hat', 'tambourine'];

/** How near to what the style usually asks for a groove stays as it is. */
const AS_WRITTEN = { least: 0.85, most: 1.15 } as const;

/** The busyness asked for against what the style usually asks of the role. */
const againstUsual = ({ style, role, brief }: PartContext): number => brief.busyness / usualOf(style, role).busyness;

const onBeat = ({ start }: Hit, metre: Metre): boolean => metricalWeight(metre, start) >= WEIGHT.beat;

/** Strokes without which a groove is another one: what carries it on the beats, and its bells. */
const isFirm = (hit: Hit, metre: Metre): boolean =>
  BELLS.has(hit.voice) || (CARRIES.has(hit.voice) && onBeat(hit, metre));

/** Drums that are struck between the beats alone. */
const pushedIn = (hits: readonly Hit[], metre: Metre): Set<DrumVoice> =>
  new Set(
    hits.flatMap(({ voice }) => (hits.every((hit) => hit.voice !== voice || !onBeat(hit, metre)) ? [voice] : [])),
  );

/** How readily a stroke is left out: what keeps time before what carries, off the beat before on it. */
function spare({ start, voice, accent }: Hit, metre: Metre, pushed: ReadonlySet<DrumVoice>): number {
  const weight = metricalWeight(metre, start);
  return (
    (CARRIES.has(voice) ? 0.15 : 1) *
    (accent < 0 ? 3 : 1) *
    (pushed.has(voice) ? 0.3 : weight >= WEIGHT.beat ? 0.08 : weight === WEIGHT.division ? 1 : 2)
  );
}

/** The drum that is struck more where a groove is to be fuller; null where all that it has is to stay. */
function keeperOf(hits: readonly Hit[], { role }: PartContext): DrumVoice | null {
  const has = (voice: DrumVoice): boolean => hits.some((hit) => hit.voice === voice);
  const light = hits.find(({ voice }) => !CARRIES.has(voice) && !BELLS.has(voice))?.voice ?? null;
  const keeper = KEEPS_TIME.find(has) ?? (has('open hat') ? 'closed hat' : light);
  if (keeper !== null || role !== 'drums') return keeper;
  // Shells beside bells, rolls without them.
  return [...BELLS, 'stick' as const].some(has) ? 'stick' : 'snare';
}

/** A bar of a groove with fewer strokes, or with more of what keeps time and ghost strokes of the snare between. */
export function asBusy(hits: readonly Hit[], context: PartContext, random: Random): Hit[] {
  const share = againstUsual(context);
  const count = Math.round(hits.length * share);
  let left = [...hits];
  if (share < AS_WRITTEN.least) {
    const pushed = pushedIn(hits, context.metre);
    while (left.length > Math.max(1, count)) {
      const loose = left.filter((hit) => !isFirm(hit, context.metre));
      const out = pickWeighted(
        random,
        (loose.length > 0 ? loose : left).map((hit) => [hit, spare(hit, context.metre, pushed)] as const),
      );
      left = left.filter((hit) => hit !== out);
    }
  }
  if (share > AS_WRITTEN.most) {
    const keeper = keeperOf(hits, context);
    if (keeper !== null) left = filledWith(left, keeper, -6, count - left.length, context, random);
    if (keeper !== 'snare' && hits.some(({ voice }) => voice === 'snare'))
      left = filledWith(left, 'snare', SOFT, count - left.length, context, random);
  }
  return left;
}

/** Swing in % from which the eighths carry it, and sixteenths between them would limp. */
const SWUNG = 50;

/** Strokes of one drum added where it is silent, as many as there is room for. */
function filledWith(
  hits: readonly Hit[],
  voice: DrumVoice,
  accent: number,
  more: number,
  { metre, style }: PartContext,
  random: Random,
): Hit[] {
  if (more <= 0) return [...hits];
  const there = hits.filter((hit) => hit.voice === voice).map(({ start }) => start);
  const filled = drawBar(
    metre,
    there.length + more,
    { busyness: 16, syncopation: 60, grid: style.swing < SWUNG ? 'sixteenths' : 'eighths' },
    random,
    there,
  );
  return [...hits, ...filled.filter((at) => !there.includes(at)).map((start): Hit => ({ start, voice, accent }))];
}

/** A bar with a small change: a stroke that does not carry it is left out, or one put in. */
export function touched(hits: readonly Hit[], context: PartContext, random: Random): Hit[] {
  const voices = [...new Set(hits.map(({ voice }) => voice))].filter((voice) => !BELLS.has(voice));
  const voice = voices[pickIndex(random, voices.length)];
  if (voice === undefined) return [...hits];
  const light = hits.filter((hit) => !isFirm(hit, context.metre));
  const out = light[pickIndex(random, light.length)];
  if (out && happens(random, 40)) return hits.filter((hit) => hit !== out);
  return filledWith(hits, voice, CARRIES.has(voice) && voice !== 'kick' ? SOFT : 0, 1, context, random);
}

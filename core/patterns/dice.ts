import { degreeWeights } from '../song/ground';
import { STRIPS, type DrawnPattern, type Ground, type Strip, type StripName } from '../song/schema';
import { scaleOf } from '../theory/scale';
import { modulo, range } from '../theory/units';
import { pickWeighted, stream, type Random } from '../trellis/random';

type KeyWeights = Pick<Ground, 'scale' | 'weights'>;

/** How likely chance takes a degree: as the song takes those of its scale; those of a chord as of the chord at home. */
function weightOf({ degrees }: Pick<DrawnPattern, 'degrees'>, ground: KeyWeights): (degree: number) => number {
  const weights = degreeWeights(ground);
  if (!weights || degrees === 'fixed' || degrees === 'root') return () => 1;
  const { semitones } = scaleOf(ground.scale);
  const rungs = degrees === 'chord' ? [0, 2, 4].flatMap((place) => semitones[place] ?? []) : semitones;
  return (degree) => weights.get(rungs[modulo(degree, rungs.length)] ?? 0) ?? 100;
}

function rolledStrip(strip: Strip, name: StripName, weight: (value: number) => number, random: Random): Strip {
  const held = new Set(strip.held);
  const options = range(strip.high - strip.low + 1).map((index) => strip.low + index);
  const weighted = options.map((value) => [value, name === 'degree' ? weight(value) : 1] as const);
  const values = strip.values.map((value, index) => {
    // Held steps are drawn as well, so that holding one changes no other.
    const drawn = pickWeighted(random, weighted.some(([, own]) => own > 0) ? weighted : [[value, 1]]);
    return held.has(index) ? value : drawn;
  });
  return { ...strip, values };
}

/**
 * A pattern of which chance has drawn the strips anew, inside their ranges: neither held steps nor strips that are held
 * as a whole.
 *
 * @param ground  whose weights of degrees count
 * @param turn    another turn, other values; the same turn, the same
 * @param only    the strip that is drawn; all where nothing is said
 */
export function rolled(pattern: DrawnPattern, ground: KeyWeights, turn: number, only?: StripName): DrawnPattern {
  const weight = weightOf(pattern, ground);
  const strips = { ...pattern.strips };
  for (const name of STRIPS)
    if (!strips[name].still && (only === undefined || only === name))
      strips[name] = rolledStrip(strips[name], name, weight, stream(pattern.seed, 'dice', name, turn));
  return { ...pattern, strips };
}

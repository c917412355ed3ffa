import { isDrumRole, roleOf } from '../song/roles';
import {
  STRIPS,
  type DrawnPattern,
  type Loops,
  type Part,
  type Strip,
  type StripName,
  type Wandering,
} from '../song/schema';
import { DRUM_KEYS } from '../song/style';
import { clamp } from '../theory/units';

/** What chance may draw of each strip until the writer says otherwise. */
const CHANCE: Readonly<Record<Exclude<StripName, 'degree' | 'loudness'>, readonly [low: number, high: number]>> = {
  length: [40, 100],
  likelihood: [50, 100],
  slide: [0, 50],
  strikes: [1, 3],
};
const STARTS: Readonly<Record<keyof typeof CHANCE, number>> = { length: 90, likelihood: 100, slide: 0, strikes: 1 };
/** By how much chance may leave a part's usual loudness. */
const LOUDER = 14;

const strip = (values: readonly number[], low: number, high: number, still: boolean): Strip => ({
  values,
  low,
  high,
  held: [],
  still,
});

const SMALLEST_RANGE = 12;

/** The range that a part's pattern lies in: its register, an octave at least. */
function rangeOf({ brief }: Pick<Part, 'brief'>): { readonly low: number; readonly high: number } {
  const low = Math.min(brief.low, 127 - SMALLEST_RANGE);
  return { low, high: Math.max(brief.high, low + SMALLEST_RANGE) };
}

/**
 * The pattern that a part starts from: four eighths on roots, chord notes or a drum, in the part's register and as loud
 * as it is asked to be. Chance draws its degrees alone.
 */
export function firstPattern({ role, brief }: Pick<Part, 'role' | 'brief'>, seed: number): DrawnPattern {
  const drums = isDrumRole(role);
  const bass = roleOf(role).plays === 'bass';
  const hat = DRUM_KEYS['closed hat'];
  const degree = drums
    ? strip([hat, hat, hat, hat], 35, 51, false)
    : bass
      ? strip([0, 0, 0, 0], 0, 1, false)
      : strip([0, 1, 2, 1], 0, 4, false);
  const usual = brief.loudness;
  const others = Object.fromEntries(
    STRIPS.filter((name) => name in CHANCE).map((name) => {
      const known = name as keyof typeof CHANCE;
      return [known, strip([STARTS[known]], ...CHANCE[known], true)];
    }),
  ) as Record<keyof typeof CHANCE, Strip>;
  return {
    of: 'drawn',
    seed,
    degrees: drums ? 'fixed' : bass ? 'root' : 'chord',
    ...rangeOf({ brief }),
    rate: 240,
    direction: 'forward',
    swing: 0,
    restart: null,
    redraw: null,
    sustain: false,
    strips: {
      ...others,
      degree,
      loudness: strip([usual], clamp(usual - LOUDER, 1, 127), clamp(usual + LOUDER, 1, 127), true),
    },
    ties: [],
    others: [],
  };
}

/** Steps and chord notes of the loops that a part starts from: they come together every 105 eighths. */
const FIRST_LOOPS = [
  { steps: 3, degree: 0 },
  { steps: 5, degree: 2 },
  { steps: 7, degree: 4 },
] as const;

/** The loops that a part starts from: three of eighths, each with a chord note of its own. */
export const firstLoops = (part: Pick<Part, 'brief'>, seed: number): Loops => ({
  of: 'loops',
  seed,
  degrees: 'chord',
  ...rangeOf(part),
  loops: FIRST_LOOPS.map(({ steps, degree }) => ({
    steps,
    notches: [{ step: 0, degree }],
    rate: 240,
    direction: 'forward',
    chance: 100,
    loudness: part.brief.loudness,
    octave: 0,
  })),
  starts: 'never',
  meeting: 'all',
  length: 100,
});

/** Where drums lie that are struck most. */
const KIT = { low: 35, high: 51 } as const;

/** The wandering that a part starts from: a calm line of its scale, or strokes all over the kit. */
export function firstWandering(part: Pick<Part, 'role' | 'brief'>, seed: number): Wandering {
  const drums = isDrumRole(part.role);
  const usual = part.brief.loudness;
  return {
    of: 'wandering',
    seed,
    tones: drums ? 'kit' : 'scale',
    ...(drums ? KIT : rangeOf(part)),
    stride: drums ? 60 : 20,
    length: drums ? { low: 60, high: 120 } : { low: 240, high: 960 },
    loudness: { low: clamp(usual - LOUDER, 1, 127), high: clamp(usual + LOUDER, 1, 127) },
    gap: { low: 240, high: 960 },
    division: drums ? 240 : null,
    double: drums ? 30 : 0,
    density: 85,
    voices: 1,
    grid: true,
  };
}

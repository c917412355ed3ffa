import * as fc from 'fast-check';
import { type DraftRequest } from '../compose/draft';
import { ENGINE } from '../compose/engine';
import { draft } from '../compose/draft';
import { isDrumRole, roleOf } from '../song/roles';
import {
  BASS_WAYS,
  CADENCES,
  COLOURINGS,
  DRUM_TIMES,
  FORMS,
  GRIDS,
  MOTIF_USES,
  ROLES,
  SECTION_KINDS,
  type Asking,
  type Brief,
  type ChordSpan,
  type Ground,
  type PartTake,
  type Role,
} from '../song/schema';
import { STYLES } from '../styles/styles';
import { tonicsFor } from '../theory/key';
import { METRES, metreText, readMetre, type Metre } from '../theory/metre';
import { sum } from '../theory/units';
import { SCALES } from '../theory/scale';
import { looseTake } from '../song/take';

/** Random askings for the laws of drafting; used by specs only. */

const percent = fc.integer({ min: 0, max: 100 });

/** The metres that are offered, and any that a writer may type. */
const metres: fc.Arbitrary<Metre> = fc.oneof(
  { arbitrary: fc.constantFrom(...METRES), weight: 3 },
  {
    arbitrary: fc
      .record({
        unit: fc.constantFrom(2 as const, 4 as const, 8 as const),
        groups: fc.array(fc.integer({ min: 1, max: 4 }), { minLength: 1, maxLength: 5 }),
      })
      .map(({ unit, groups }) => ({ beats: sum(groups), unit, groups }))
      .filter((metre) => readMetre(metreText(metre)) !== null),
    weight: 1,
  },
);

const grounds = (): fc.Arbitrary<Ground> =>
  fc
    .record({
      tonic: fc.integer({ min: 0, max: 11 }),
      scale: fc.constantFrom(...SCALES),
      tempo: fc.integer({ min: 40, max: 200 }),
      metre: metres,
      swing: percent,
      style: fc.constantFrom(...STYLES),
    })
    .map(({ tonic, scale, style, ...rest }) => ({
      ...rest,
      tonic: tonicsFor(scale.id)[tonic] ?? 0,
      scale: scale.id,
      style: style.id,
    }));

const briefs = (role: Role): fc.Arbitrary<Brief> =>
  fc
    .record({
      low: fc.integer({ min: 28, max: 60 }),
      span: fc.integer({ min: 14, max: 30 }),
      busyness: fc.constantFrom(1, 2, 3, 4, 6, 8, 12),
      syncopation: percent,
      stride: percent,
      anchoring: percent,
      recall: percent,
      breath: percent,
      loudness: fc.integer({ min: 40, max: 110 }),
      adventure: percent,
      length: percent,
      voices: fc.integer({ min: 1, max: 6 }),
      grid: fc.constantFrom(null, ...GRIDS),
      rolls: percent,
      dynamics: percent,
      humanise: percent,
      follows: fc.boolean(),
      time: fc.constantFrom(null, ...DRUM_TIMES),
      way: fc.constantFrom(null, ...BASS_WAYS),
      pickup: fc.oneof(fc.constant(0), percent),
    })
    .map(({ span, ...brief }) =>
      isDrumRole(role)
        ? { ...roleOf('drums').brief, ...brief, low: 35, high: 81 }
        : { ...brief, high: brief.low + span },
    );

export const harmonyRequests = (): fc.Arbitrary<DraftRequest> =>
  fc
    .record({
      ground: grounds(),
      bars: fc.oneof(
        { weight: 40, arbitrary: fc.integer({ min: 2, max: 12 }) },
        { weight: 1, arbitrary: fc.constantFrom(16, 24) },
      ),
      kind: fc.constantFrom(...SECTION_KINDS),
      bound: fc.boolean(),
      seed: fc.integer(),
      brief: fc.record({
        pace: fc.constantFrom(0.5 as const, 1 as const, 2 as const),
        colouring: fc.constantFrom(...COLOURINGS),
        cadence: fc.constantFrom(...CADENCES),
        form: fc.constantFrom(null, ...FORMS),
        first: fc.constant(null),
        last: fc.constant(null),
        under: fc.constant(null),
        adventure: percent,
      }),
    })
    .map(({ ground, bars, kind, bound, seed, brief }) => ({
      asking: { engine: ENGINE, ground, bars, kind, bound, harmonyBrief: brief, beside: [] },
      seed,
      chords: null,
      beside: [],
    }));

/** Motifs of any shape, in bars of common time. */
const motifs = (): fc.Arbitrary<NonNullable<Asking['motif']>> =>
  fc
    .record({
      use: fc.constantFrom(...MOTIF_USES),
      bars: fc.integer({ min: 1, max: 2 }),
      notes: fc.uniqueArray(
        fc.record({ start: fc.integer({ min: 0, max: 31 }), step: fc.integer({ min: -9, max: 9 }) }),
        { minLength: 1, maxLength: 9, selector: ({ start }) => start },
      ),
    })
    .map(({ use, bars, notes }) => ({
      use,
      bars,
      barTicks: 1920,
      notes: notes
        .filter(({ start }) => start < bars * 16)
        .concat({ start: 0, step: 0 })
        .filter(({ start }, index, all) => all.findIndex((other) => other.start === start) === index)
        .sort((a, b) => a.start - b.start)
        .map(({ start, step }) => ({ start: start * 120, duration: 120, step })),
    }));

/** A part's request over chords that were drafted for its ground; null chords where none could be. */
export const partRequests = (): fc.Arbitrary<DraftRequest> => requestsWith(briefs);

/** Requests whose register is often too narrow for what is asked. */
export const narrowRequests = (): fc.Arbitrary<DraftRequest> =>
  requestsWith((role) =>
    fc
      .tuple(briefs(role), fc.integer({ min: 30, max: 90 }), fc.integer({ min: 0, max: 7 }))
      .map(([brief, low, span]) => (isDrumRole(role) ? brief : { ...brief, low, high: low + span })),
  );

/** Computes a value on first use. Filters drop most requests by their role, and chords are slow to draft. */
function lazy<T>(make: () => T): () => T {
  let made: { readonly value: T } | null = null;
  return () => (made ??= { value: make() }).value;
}

const chordsOf = (harmony: DraftRequest): readonly ChordSpan[] | null => {
  const drafted = draft(harmony, 0);
  return drafted.ok && drafted.content.of === 'harmony' ? drafted.content.chords : null;
};

/** The line that a counter-melody answers. */
const lineOf = (request: DraftRequest): readonly PartTake[] => {
  const line = draft(request, 0);
  return line.ok && line.content.of === 'part'
    ? [looseTake({ id: 'lead', section: 's', length: 1 }, 'lead', line.content.notes, { how: 'imported' })]
    : [];
};

const requestsWith = (briefsOf: (role: Role) => fc.Arbitrary<Brief>): fc.Arbitrary<DraftRequest> =>
  fc.constantFrom(...ROLES).chain((role) =>
    fc
      .record({
        harmony: harmonyRequests(),
        brief: briefsOf(role),
        lead: briefs('melody'),
        motif: fc.option(motifs()),
        seed: fc.integer(),
      })
      .map(({ harmony, brief, lead, motif, seed }) => {
        const { harmonyBrief: _gone, ...asking } = harmony.asking;
        const chords = lazy(() => chordsOf(harmony));
        const beside = lazy(() =>
          role === 'counter'
            ? lineOf({ asking: { ...asking, role: 'melody', brief: lead }, seed, chords: chords(), beside: [] })
            : [],
        );
        return {
          asking: { ...asking, role, brief, ...(motif ? { motif } : {}) },
          seed,
          get chords() {
            return chords();
          },
          get beside() {
            return beside();
          },
        };
      }),
  );

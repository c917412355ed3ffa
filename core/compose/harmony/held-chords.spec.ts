import * as fc from 'fast-check';
import { ASPECTS, type Aspect, type ChordSpan, type HarmonyBrief, type Hold, type Kin } from '../../song/schema';
import { chordsTake } from '../../song/take';
import { groundFor } from '../../styles/band';
import { STYLES } from '../../styles/styles';
import { rounds } from '../../testing/rounds';
import { harmonyAsking } from '../asking';
import { draft, type DraftRequest } from '../draft';

const BAR = 1920;
const BARS = 8;
const ground = groundFor(STYLES[0]!, { tonic: 0, scale: 'major' });
const brief: HarmonyBrief = {
  pace: 2,
  colouring: 'sevenths',
  cadence: 'authentic',
  form: null,
  first: null,
  last: null,
  adventure: 30,
  under: null,
};
const asking = harmonyAsking({ ground, bars: BARS, kind: 'verse' }, brief);
const draftChords = (request: DraftRequest, attempt: number): readonly ChordSpan[] | null => {
  const result = draft(request, attempt);
  return result.ok && result.content.of === 'harmony' ? result.content.chords : null;
};
const plain = (seed: number): DraftRequest => ({ asking, seed, chords: null, beside: [] });
const takeOf = (seed: number, id: string) =>
  chordsTake({ id, section: 's', length: BARS * BAR }, draftChords(plain(seed), 0)!, { how: 'edited' });

/** What sounds in a bar, cut to it. */
const inBar = (chords: readonly ChordSpan[], bar: number): ChordSpan[] =>
  chords.flatMap((span) => {
    const start = Math.max(span.start, bar * BAR);
    const end = Math.min(span.start + span.duration, (bar + 1) * BAR);
    return end > start ? [{ ...span, start, duration: end - start }] : [];
  });

const kins: fc.Arbitrary<Kin | undefined> = fc.constantFrom<Kin | undefined>(
  undefined,
  { by: 'variation', takes: ['other'], share: 40 },
  { by: 'rhythm and pitches', takes: ['one', 'other'] },
  { by: 'bars in turn', takes: ['other', 'one'] },
  { by: 'halfway', takes: ['one', 'other'] },
);

describe('what is held of chords', () => {
  it('comes back from every draft, variation and blend: bars, when chords change, and which they are', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 40 }),
        fc.nat(9),
        fc.array(fc.subarray<Aspect>(['rhythm', 'pitch']), { minLength: BARS, maxLength: BARS }),
        kins,
        (seed, attempt, aspects, kin) => {
          const [one, other] = [takeOf(seed, 'one'), takeOf(seed + 100, 'other')];
          const holds = aspects.flatMap((own, bar): Hold[] =>
            own.length > 0 ? [{ take: 'one', aspects: own, bars: [bar], notes: [] }] : [],
          );
          const request = {
            ...plain(seed),
            asking: { ...asking, holds, ...(kin ? { kin } : {}) },
            models: [one, other],
          };
          const chords = draftChords(request, attempt);
          // Held chords may leave a cadence no way in; then it is told.
          if (!chords) return;
          expect(chords.reduce((end, { start, duration }) => (start === end ? end + duration : -1), 0)).toBe(
            BARS * BAR,
          );
          aspects.forEach((own, bar) => {
            const [had, has] = [inBar(one.chords, bar), inBar(chords, bar)];
            if (own.length === 2) expect(has).toEqual(had);
            else if (own[0] === 'rhythm')
              expect(has.map(({ start, duration }) => [start, duration])).toEqual(
                had.map(({ start, duration }) => [start, duration]),
              );
          });
          // Chords whose rhythm is free keep their order over the bars that are held together.
          const only = aspects.findIndex((own) => own.length === 1 && own[0] === 'pitch');
          const alone = only >= 0 && aspects[only + 1]?.join() !== 'pitch';
          if (alone)
            expect(inBar(chords, only).map(({ chord }) => chord)).toEqual(
              inBar(one.chords, only).map(({ chord }) => chord),
            );
        },
      ),
      { numRuns: rounds(300) },
    );
  });

  it('leaves the rest free: another progression each time', () => {
    const one = takeOf(3, 'one');
    const holds: Hold[] = [{ take: 'one', aspects: [...ASPECTS], bars: [0, 1, 2, 3], notes: [] }];
    const all = [1, 2, 3, 4, 5, 6].map((attempt) =>
      JSON.stringify(draftChords({ ...plain(3), asking: { ...asking, holds }, models: [one] }, attempt)),
    );
    expect(new Set(all).size).toBeGreaterThan(3);
  });
});

import * as fc from 'fast-check';
import { harmonyRequests, narrowRequests, partRequests } from '../testing/arbitrary';
import { brokenLaws } from '../testing/laws';
import { isDrumRole } from '../song/roles';
import { chordMask } from '../theory/chord';
import { keyMask } from '../theory/key';
import { barTicks } from '../theory/metre';
import { pitchClassOf } from '../theory/pitch';
import { readChord } from '../theory/read-chord';
import { spanAt } from './context';
import { attemptsAt } from './stages';
import { draft, type DraftRequest } from './draft';
import { printFor } from './print';
import { draftTakes, featuresOf, type DraftedTake } from './takes';
import { distance } from '../study/features';
import { rounds } from '../testing/rounds';

const lengthOf = ({ asking }: DraftRequest): number => asking.bars * barTicks(asking.ground.metre);

function collect(request: DraftRequest, count: number, shown: ReadonlySet<string> = new Set()): DraftedTake[] {
  return [...draftTakes(request, 0, count, shown)].flatMap((step) => (step.kind === 'take' ? [step.take] : []));
}

describe('the laws of drafted parts', () => {
  it('hold for random askings: range, section, grid, durations, scale, and no overlap in one voice', () => {
    fc.assert(
      fc.property(partRequests(), fc.integer({ min: 0, max: 40 }), (request, attempt) => {
        const result = draft(request, attempt);
        if (!result.ok) {
          expect(result.reason.length).toBeGreaterThan(20);
          return;
        }
        if (result.content.of !== 'part') throw new Error('not a part');
        expect(brokenLaws(request, result.content.notes)).toEqual([]);
      }),
      { numRuns: rounds(2000) },
    );
  });

  it('tell which setting asks for too much, and offer the nearest brief that can be met', () => {
    const told = { refused: 0, helped: 0 };
    fc.assert(
      fc.property(narrowRequests(), (request) => {
        const [first, ...rest] = [...draftTakes(request, 0, 1, new Set())].filter(({ kind }) => kind !== 'working');
        if (first?.kind !== 'refused') {
          expect(first?.kind).toBe('take');
          return;
        }
        expect(rest).toEqual([]);
        told.refused++;
        if (first.setting === undefined || first.nearest === undefined) return;
        told.helped++;
        const brief = { ...request.asking.brief!, ...first.nearest };
        // Nothing but what is to blame, or the room around it, is changed.
        expect(Object.keys(first.nearest).every((name) => ['low', 'high', 'anchoring', 'voices'].includes(name))).toBe(
          true,
        );
        expect(brief.low).toBeLessThanOrEqual(request.asking.brief!.low);
        expect(brief.high).toBeGreaterThanOrEqual(request.asking.brief!.high);
        const changed = { ...request, asking: { ...request.asking, brief } };
        const result = draft(changed, 0);
        if (!result.ok || result.content.of !== 'part') throw new Error('the offer cannot be met either');
        expect(brokenLaws(changed, result.content.notes)).toEqual([]);
      }),
      { numRuns: rounds(150) },
    );
    expect(told.refused).toBeGreaterThan(rounds(20));
    expect(told.helped / told.refused).toBeGreaterThan(0.9);
  });

  it('make the same notes from the same asking and seed', () => {
    fc.assert(
      fc.property(partRequests(), fc.integer({ min: 0, max: 9 }), (request, attempt) => {
        expect(draft(JSON.parse(JSON.stringify(request)) as DraftRequest, attempt)).toEqual(draft(request, attempt));
      }),
      { numRuns: rounds(200) },
    );
  });

  it('put a root under every arrival of a chord', () => {
    fc.assert(
      fc.property(
        partRequests().filter(
          ({ asking, chords }) => asking.role === 'bass' && asking.brief?.way !== 'pedal' && chords !== null,
        ),
        (request) => {
          const result = draft(request, 0);
          if (!result.ok || result.content.of !== 'part') return;
          for (const note of result.content.notes) {
            const span = spanAt(request.chords!, note.start);
            if (span?.start === note.start && span.chord)
              expect(note.pitch % 12).toBe(pitchClassOf(span.chord.bass ?? span.chord.root));
          }
        },
      ),
      { numRuns: rounds(60) },
    );
  });

  it('transposing the key never moves drums', () => {
    fc.assert(
      fc.property(
        partRequests().filter(({ asking }) => isDrumRole(asking.role!)),
        fc.integer({ min: -6, max: 6 }),
        (request, tonic) => {
          const moved = { ...request, asking: { ...request.asking, ground: { ...request.asking.ground, tonic } } };
          expect(draft(moved, 0)).toEqual(draft(request, 0));
        },
      ),
      { numRuns: rounds(40) },
    );
  });
});

describe('drafted progressions', () => {
  it('fill the section without gaps and meet their cadence', () => {
    fc.assert(
      fc.property(harmonyRequests(), fc.integer({ min: 0, max: 20 }), (request, attempt) => {
        const result = draft(request, attempt);
        if (!result.ok) throw new Error(result.reason);
        if (result.content.of !== 'harmony') throw new Error('not chords');
        const { chords } = result.content;
        let now = 0;
        for (const { start, duration } of chords) {
          expect(start).toBe(now);
          now += duration;
        }
        expect(now).toBe(lengthOf(request));
        const tonic = pitchClassOf(request.asking.ground.tonic);
        const root = pitchClassOf(chords.at(-1)!.chord!.root);
        const cadence = request.asking.harmonyBrief!.cadence;
        if (chords.length < 2) return;
        if (cadence === 'authentic' || cadence === 'plagal') expect(root).toBe(tonic);
        if (cadence === 'plagal') expect((pitchClassOf(chords.at(-2)!.chord!.root) - tonic + 12) % 12).toBe(5);
        if (cadence === 'open') expect(root).not.toBe(tonic);
        if (cadence === 'half') expect([7, 10]).toContain((root - tonic + 12) % 12);
      }),
      { numRuns: rounds(500) },
    );
  });

  it('keep the first and last chord that the writer fixed', () => {
    fc.assert(
      fc.property(
        harmonyRequests(),
        fc.constantFrom('Am7', 'F#dim', 'Eb/G', 'C'),
        fc.constantFrom('Dm', 'G7', 'Bb'),
        (request, first, last) => {
          const brief = { ...request.asking.harmonyBrief!, first, last };
          if (request.asking.bars * brief.pace < 3) return;
          const result = draft({ ...request, asking: { ...request.asking, harmonyBrief: brief } }, 3);
          if (!result.ok) {
            expect(result.reason).toMatch(/Try another cadence/);
            return;
          }
          if (result.content.of !== 'harmony') throw new Error('not chords');
          const chordOf = (text: string) => {
            const reading = readChord(text);
            return reading.ok ? reading.chord : null;
          };
          expect(result.content.chords[0]!.chord).toEqual(chordOf(first));
          expect(result.content.chords.at(-1)!.chord).toEqual(chordOf(last));
        },
      ),
      { numRuns: rounds(120) },
    );
  });

  it('stay in the scale when plain, wherever the scale can make the cadence', () => {
    fc.assert(
      fc.property(harmonyRequests(), (request) => {
        const brief = { ...request.asking.harmonyBrief!, adventure: 0, cadence: 'open' as const };
        const result = draft({ ...request, asking: { ...request.asking, harmonyBrief: brief } }, 0);
        if (!result.ok || result.content.of !== 'harmony') throw new Error('no chords');
        const mask = keyMask({ tonic: request.asking.ground.tonic, scale: request.asking.ground.scale });
        for (const { chord } of result.content.chords) expect(chordMask(chord!) & ~mask).toBe(0);
      }),
      { numRuns: rounds(150) },
    );
  });

  it('tell what is wrong with a first chord that cannot be read', () => {
    const [request] = fc.sample(harmonyRequests(), 1);
    const asking = { ...request!.asking, harmonyBrief: { ...request!.asking.harmonyBrief!, first: 'Hmm' } };
    expect(draft({ ...request!, asking }, 0)).toMatchObject({
      ok: false,
      reason: expect.stringContaining('First chord') as string,
    });
  });
});

describe('drafting many takes', () => {
  it('never gives a take twice, nor one that was shown before', () => {
    fc.assert(
      fc.property(partRequests(), (request) => {
        const print = printFor(request.asking);
        // Nine takes are picked from 36 draws. Four would be picked from 80, since few takes have a larger pool each.
        const first = collect(request, 9).map(({ content }) => print(content));
        const more = collect(request, 9, new Set(first)).map(({ content }) => print(content));
        expect(new Set([...first, ...more]).size).toBe(first.length + more.length);
      }),
      { numRuns: rounds(25) },
    );
  });

  it('gives the first draw at once and says so when the answers are used up', () => {
    const [request] = fc.sample(
      partRequests().filter(({ asking, chords }) => asking.role === 'pad' && chords !== null),
      { numRuns: 1, seed: 9 },
    );
    const steps = draftTakes(request!, 0, 60, new Set());
    const first = steps.next().value;
    if (first && 'kind' in first && first.kind === 'refused') return;
    expect(first).toMatchObject({ kind: 'take', take: { attempts: attemptsAt(0) } });
    expect([...steps].length).toBeGreaterThan(1);
  });

  it('spreads the chosen takes further apart than plain draws (median distance to the nearest other)', () => {
    const requests = fc.sample(
      partRequests().filter(({ asking, chords }) => asking.role === 'melody' && chords !== null && asking.bars >= 4),
      { numRuns: 12, seed: 4 },
    );
    const nearest = (request: DraftRequest, takes: readonly DraftedTake[]): number => {
      const features = takes.map(({ content }) =>
        featuresOf(content, lengthOf(request), barTicks(request.asking.ground.metre)),
      );
      const gaps = features.map((one, index) =>
        Math.min(...features.filter((_, other) => other !== index).map((other) => Math.sqrt(distance(one, other)))),
      );
      return gaps.sort((a, b) => a - b)[Math.floor(gaps.length / 2)]!;
    };
    const ratios = requests.flatMap((request) => {
      const plain = Array.from({ length: 8 }, (_, attempt) => draft(request, attempt)).flatMap((result, attempt) =>
        result.ok ? [{ attempts: attemptsAt(attempt), content: result.content }] : [],
      );
      const chosen = collect(request, 8);
      return plain.length === 8 && chosen.length === 8 ? [nearest(request, chosen) / nearest(request, plain)] : [];
    });
    const mean = ratios.reduce((sum, ratio) => sum + ratio, 0) / ratios.length;
    expect(ratios.length).toBeGreaterThan(5);
    expect(mean).toBeGreaterThan(1.15);
  });
});

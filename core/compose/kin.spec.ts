import * as fc from 'fast-check';
import { ASPECTS, type Asking, type Hold, type Note, type PartTake } from '../song/schema';
import { distance } from '../study/features';
import { holding, inBar, isLine, isLineKept, kept, notesOf, plain, takeOf } from '../testing/kept';
import { rounds } from '../testing/rounds';
import { barTicks } from '../theory/metre';
import { range, TICKS_PER_QUARTER } from '../theory/units';
import { midpoint } from './choose';
import { draft, type DraftRequest } from './draft';
import { printFor } from './print';
import { attemptsAt, nextAttempt, streamsOf } from './stages';
import { draftTakes, featuresOf } from './takes';

describe('kin', () => {
  const near = (request: DraftRequest, kin: Asking['kin'], models: readonly PartTake[]): DraftRequest => ({
    ...request,
    asking: { ...request.asking, ...(kin ? { kin } : {}) },
    models,
  });
  /** The share of a take's notes that another has as well. */
  const shared = (take: PartTake, notes: readonly Note[]): number =>
    take.notes.filter(({ start, pitch }) => notes.some((note) => note.start === start && note.pitch === pitch)).length /
    take.notes.length;

  it('by variation keep a line but for about the share that is asked for, and more goes the more is asked', () => {
    const found = fc.sample(kept(isLine).filter(isLineKept), { numRuns: 40, seed: 5 });
    const means = [10, 40, 80].map((share) => {
      const left = found.flatMap(({ request, take }) => {
        const notes = notesOf(near(request, { by: 'variation', takes: ['take'], share }, [take]), 4);
        return notes ? [shared(take, notes)] : [];
      });
      return left.reduce((sum, part) => sum + part, 0) / left.length;
    });
    expect(means[0]).toBeGreaterThan(0.85);
    expect(means[1]).toBeGreaterThan(0.6);
    expect(means[0]! - means[1]!).toBeGreaterThan(0.1);
    expect(means[1]! - means[2]!).toBeGreaterThan(0.1);
  });

  it('by variation differ from their take, and of accompaniment and drums in whole bars', () => {
    fc.assert(
      fc.property(
        kept((request) => !isLine(request) && request.asking.bars >= 4),
        ({ request, take, bar }) => {
          const notes = notesOf(near(request, { by: 'variation', takes: ['take'], share: 25 }, [take]), 6);
          if (!notes) return;
          const same = range(request.asking.bars).filter(
            (of) => JSON.stringify(plain(inBar(notes, of, bar))) === JSON.stringify(plain(inBar(take.notes, of, bar))),
          );
          expect(same.length).toBeGreaterThanOrEqual(request.asking.bars - Math.round(request.asking.bars / 4));
        },
      ),
      { numRuns: rounds(60) },
    );
  });

  it('by bars in turn have every bar of the one or the other, and some of both', () => {
    fc.assert(
      fc.property(kept(), fc.nat(20), ({ request, take, bar }, at) => {
        const other = takeOf(request, 1, 'other');
        if (!other) return;
        const notes = notesOf(near(request, { by: 'bars in turn', takes: ['take', 'other'] }, [take, other]), at)!;
        const whose = range(request.asking.bars).map((of) => {
          const text = JSON.stringify(plain(inBar(notes, of, bar)));
          return [take, other].map(({ notes: own }) => JSON.stringify(plain(inBar(own, of, bar))) === text);
        });
        for (const [one, two] of whose) expect(one! || two!).toBe(true);
        if (whose.length < 2) return;
        expect(whose.some(([one]) => one)).toBe(true);
        expect(whose.some(([, two]) => two)).toBe(true);
      }),
      { numRuns: rounds(80) },
    );
  });

  it('by rhythm and pitches have the rhythm of the one, and more of the other’s pitches than any draft in that rhythm', () => {
    const found = fc.sample(kept(isLine).filter(isLineKept), { numRuns: 40, seed: 8 });
    const gained = found.flatMap(({ request, take }) => {
      const other = takeOf(request, 1, 'other');
      if (!other) return [];
      const notes = notesOf(near(request, { by: 'rhythm and pitches', takes: ['take', 'other'] }, [take, other]), 3);
      const hold: Hold = { take: 'take', aspects: ['rhythm'], bars: range(request.asking.bars), notes: [] };
      const free = notesOf(holding(request, [hold], [take]), 3);
      if (!notes || !free) return [];
      expect([...new Set(notes.map(({ start }) => start))]).toEqual([...new Set(take.notes.map(({ start }) => start))]);
      const like = (all: readonly Note[]): number =>
        all.filter(({ start, pitch }) => other.notes.findLast((note) => note.start <= start)?.pitch === pitch).length;
      return [[like(notes), like(free)] as const];
    });
    const [blended, drawn] = [0, 1].map((place) => gained.reduce((sum, pair) => sum + pair[place]!, 0));
    expect(gained.length).toBeGreaterThan(25);
    expect(blended! / drawn!).toBeGreaterThan(1.5);
  });

  it('keep what the writer holds, however they are asked for', () => {
    fc.assert(
      fc.property(
        kept(),
        fc.constantFrom<NonNullable<Asking['kin']>['by']>('variation', 'bars in turn', 'rhythm and pitches', 'halfway'),
        fc.nat(11),
        ({ request, take, bar }, by, of) => {
          const other = takeOf(request, 1, 'other');
          const held = of % request.asking.bars;
          const kin: NonNullable<Asking['kin']> =
            by === 'variation' ? { by, takes: ['other'], share: 30 } : { by, takes: ['other', 'take'] };
          if (!other) return;
          const hold: Hold = { take: take.id, aspects: [...ASPECTS], bars: [held], notes: [] };
          const notes = notesOf(near(holding(request, [hold], [take]), kin, [take, other]), 5);
          if (notes) expect(plain(inBar(notes, held, bar))).toEqual(plain(inBar(take.notes, held, bar)));
        },
      ),
      { numRuns: rounds(80) },
    );
  });
});

describe('drafting again', () => {
  const free: Hold = { take: 'take', aspects: ['rhythm', 'pitch'], bars: [], notes: [] };
  const [found] = fc.sample(
    kept((request) => isLine(request) && request.asking.bars >= 4 && request.asking.brief!.dynamics > 20).filter(
      isLineKept,
    ),
    { numRuns: 1, seed: 11 },
  );
  const { request, take, bar } = found!;
  const all = range(request.asking.bars);
  const takesOf = (asked: DraftRequest, shown: readonly PartTake[], count = 4) => [
    ...draftTakes(asked, 1, count, new Set(shown.map(printFor(asked.asking)))),
  ];

  it('gives two bars that are always other than what was shown for them, and tells when nothing is left', () => {
    const rest: Hold = { ...free, aspects: [...ASPECTS], bars: all.filter((of) => of !== 1 && of !== 2) };
    const asked = holding(request, [rest], [take]);
    const print = printFor(asked.asking);
    const first = takesOf(asked, [take]).flatMap((step) => (step.kind === 'take' ? [step.take] : []));
    expect(first).toHaveLength(4);
    expect(new Set([print(take), ...first.map(({ content }) => print(content))]).size).toBe(5);
    const nothing = holding(request, [{ ...rest, bars: all }], [take]);
    expect(takesOf(nothing, [take]).at(-1)).toEqual({ kind: 'used up', found: 0 });
  });

  it('of dynamics alone tells takes apart by them, and of nothing else', () => {
    const asked = holding(request, [{ ...free, bars: all }], [take]);
    const again = takesOf(asked, [take]).flatMap((step) => (step.kind === 'take' ? [step.take.content] : []));
    expect(again).toHaveLength(4);
    const louder = { ...take, notes: take.notes.map((note) => ({ ...note, velocity: note.velocity - 1 })) };
    expect(printFor(asked.asking)(louder)).not.toBe(printFor(asked.asking)(take));
    expect(printFor(request.asking)(louder)).toBe(printFor(request.asking)(take));
    for (const content of again)
      if (content.of === 'part')
        expect(content.notes.map(({ start, pitch }) => [start, pitch])).toEqual(
          take.notes.map(({ start, pitch }) => [start, pitch]),
        );
  });

  it('draws only the stages anew that keep no attempt', () => {
    const { asking: _asking, ...rest } = request;
    const asked = { ...rest, asking: request.asking };
    const onlyPitch = notesOf({ ...asked, kept: { plan: 0, rhythm: 0, dynamics: 0 } }, 9)!;
    expect(onlyPitch.map(({ start, duration }) => [start, duration])).toEqual(
      take.notes.map(({ start, duration }) => [start, duration]),
    );
    expect(onlyPitch.map(({ pitch }) => pitch)).not.toEqual(take.notes.map(({ pitch }) => pitch));
    expect(notesOf({ ...asked, kept: attemptsAt(0) }, 9)).toEqual(notesOf(asked, 0));
    expect(nextAttempt([{ attempts: null }, { attempts: { ...attemptsAt(3), pitch: 8 } }])).toBe(9);
    expect(nextAttempt([])).toBe(0);
    const [one, other] = [streamsOf(1, 'bass', attemptsAt(0)), streamsOf(1, 'bass', { ...attemptsAt(0), pitch: 1 })];
    expect(one('rhythm').next()).toBe(other('rhythm').next());
    expect(one('pitch').next()).not.toBe(other('pitch').next());
    expect(bar).toBeGreaterThan(0);
  });

  it('lets a plan go that nothing new comes of', () => {
    const drums = fc.sample(
      kept(
        ({ asking }) =>
          asking.role === 'drums' && asking.bars >= 4 && barTicks(asking.ground.metre) >= 3 * TICKS_PER_QUARTER,
      ),
      { numRuns: 12, seed: 3 },
    );
    let freed = 0;
    for (const one of drums) {
      const hold: Hold = {
        take: 'take',
        aspects: [...ASPECTS],
        bars: range(one.request.asking.bars).slice(2),
        notes: [],
      };
      const asked = { ...holding(one.request, [hold], [one.take]), kept: { plan: 0 } };
      const steps = takesOf(asked, [one.take], 8);
      const plans = steps.flatMap((step) => (step.kind === 'take' ? [step.take.attempts.plan] : []));
      if (plans.some((plan) => plan !== 0)) freed++;
      for (const step of steps)
        if (step.kind === 'take')
          expect(draft({ ...asked, kept: step.take.attempts }, 0)).toEqual({ ok: true, content: step.take.content });
    }
    expect(freed).toBeGreaterThan(0);
  });

  it('halfway gives takes as like the one as the other, likest first', () => {
    const other = { ...takeOf(request, 3, 'other')! };
    const asked = {
      ...request,
      asking: { ...request.asking, kin: { by: 'halfway' as const, takes: ['take', 'other'] as [string, string] } },
      models: [take, other],
    };
    const steps = takesOf(asked, [take, other], 3);
    expect(steps.filter(({ kind }) => kind === 'take')).toHaveLength(3);
    // All are drawn before any is picked.
    expect(steps.findIndex(({ kind }) => kind === 'take')).toBeGreaterThan(10);
    const features = (notes: readonly Note[]) => featuresOf({ of: 'part', notes }, bar * request.asking.bars, bar);
    const goal = midpoint(features(take.notes), features(other.notes));
    const away = steps.flatMap((step) =>
      step.kind === 'take' && step.take.content.of === 'part'
        ? [distance(features(step.take.content.notes), goal)]
        : [],
    );
    const drawn = range(40).map((attempt) => distance(features(notesOf(request, 100 + attempt)!), goal));
    expect([...away].sort((a, b) => a - b)).toEqual(away);
    expect(away.at(-1)).toBeLessThan(drawn.sort((a, b) => a - b)[10]!);
  });
});

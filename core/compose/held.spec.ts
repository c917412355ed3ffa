import * as fc from 'fast-check';
import { ASPECTS, type Aspect, type Asking, type Hold, type Note, type PartTake, type TakeNote } from '../song/schema';
import { looseTake } from '../song/take';
import { partRequests } from '../testing/arbitrary';
import { brokenLaws } from '../testing/laws';
import { rounds } from '../testing/rounds';
import { barTicks } from '../theory/metre';
import { range } from '../theory/units';
import { draft, keepsOf, type DraftRequest } from './draft';
import { barAt, strokesOf } from './held';
import { attemptsAt, nextAttempt, streamsOf } from './stages';
import { printFor } from './print';
import { draftTakes, featuresOf } from './takes';
import { distance } from '../study/features';
import { midpoint } from './choose';

/** A request together with a take of it, from which things are held. */
interface Kept {
  readonly request: DraftRequest;
  readonly take: PartTake;
  readonly bar: number;
}

const notesOf = (request: DraftRequest, attempt: number): readonly Note[] | null => {
  const result = draft(request, attempt);
  return result.ok && result.content.of === 'part' ? result.content.notes : null;
};

const takeOf = (request: DraftRequest, attempt: number, id = 'take'): PartTake | null => {
  const notes = notesOf(request, attempt);
  return notes && looseTake({ id, section: 's', length: 1 }, 'part', notes, { how: 'edited' });
};

const kept = (): fc.Arbitrary<Kept> =>
  partRequests()
    .map((request) => ({ request, take: takeOf(request, 0), bar: barTicks(request.asking.ground.metre) }))
    .filter((found): found is Kept => found.take !== null && found.take.notes.length > 0);

const aspects = fc.subarray([...ASPECTS], { minLength: 1 });
const holding = (request: DraftRequest, holds: readonly Hold[], models: readonly PartTake[]): DraftRequest => ({
  ...request,
  asking: { ...request.asking, holds: [...holds] },
  models,
});
const isLine = ({ asking }: DraftRequest): boolean => keepsOf(asking.role!) === 'notes';
const inBar = <N extends Note>(notes: readonly N[], of: number, bar: number): N[] =>
  notes.filter(({ start }) => barAt(start, bar) === of);
const withoutId = ({ id: _id, ...note }: TakeNote): Note => note;
const plain = (notes: readonly Note[]): Note[] => notes.map((note) => withoutId({ id: 0, ...note }));
const ids = (notes: readonly Note[]): unknown[] => notes.map((note) => ('id' in note ? note.id : null));

describe('held bars', () => {
  it('come back note for note from every draft, ids too, and nothing else comes into them', () => {
    fc.assert(
      fc.property(kept(), fc.array(fc.nat(11), { maxLength: 8 }), fc.nat(30), ({ request, take, bar }, bars, at) => {
        const hold: Hold = { take: take.id, aspects: [...ASPECTS], bars, notes: [] };
        const notes = notesOf(holding(request, [hold], [take]), at + 1);
        // Whatever is free may still ask for too much, as without holds.
        if (!notes) return;
        for (const held of bars) {
          const [was, is] = [inBar(take.notes, held, bar), inBar(notes, held, bar)];
          expect(plain(is)).toEqual(plain(was));
          expect(ids(is)).toEqual(ids(was));
        }
        expect(brokenLaws(request, notes).filter((law) => !law.startsWith('overlap'))).toEqual([]);
      }),
      { numRuns: rounds(250) },
    );
  });

  it('keep whichever of rhythm, pitches and dynamics is held', () => {
    fc.assert(
      fc.property(kept(), aspects, fc.nat(11), fc.nat(30), ({ request, take, bar }, wanted, of, at) => {
        const held = of % request.asking.bars;
        const notes = notesOf(
          holding(request, [{ take: take.id, aspects: wanted, bars: [held], notes: [] }], [take]),
          at,
        );
        if (!notes) return;
        const [was, is] = [strokesOf(inBar(take.notes, held, bar)), strokesOf(inBar(notes, held, bar))];
        const has = (aspect: Aspect): boolean => wanted.includes(aspect);
        const pitches = (strokes: readonly Note[][]): number[][] =>
          strokes.map((stroke) => stroke.map(({ pitch }) => pitch));
        if (has('rhythm')) expect(is.map(([first]) => first!.start)).toEqual(was.map(([first]) => first!.start));
        const row = isLine(request) || has('rhythm');
        // In a new rhythm, chords and drums take what the bar had at the time: nothing that it had not.
        if (has('pitch') && row) expect(pitches(is)).toEqual(pitches(was));
        else if (has('pitch'))
          for (const stroke of pitches(is))
            expect(stroke.every((pitch) => pitches(was).flat().includes(pitch))).toBe(true);
        const loudness = (strokes: readonly Note[][]): number[] =>
          strokes.map((stroke) => Math.max(...stroke.map(({ velocity }) => velocity)));
        if (has('dynamics') && row) expect(loudness(is)).toEqual(loudness(was));
      }),
      { numRuns: rounds(250) },
    );
  });

  it('leave no note sounding into them that was not there', () => {
    fc.assert(
      fc.property(kept(), fc.nat(11), fc.nat(30), ({ request, take, bar }, of, at) => {
        const held = of % request.asking.bars;
        const hold: Hold = { take: take.id, aspects: [...ASPECTS], bars: [held], notes: [] };
        const notes = notesOf(holding(request, [hold], [take]), at);
        const into = (all: readonly Note[]): number =>
          all.reduce(
            (end, note) => (note.start < held * bar ? Math.max(end, note.start + note.duration) : end),
            held * bar,
          );
        if (notes) expect(into(notes)).toBeLessThanOrEqual(into(take.notes));
      }),
      { numRuns: rounds(80) },
    );
  });
});

describe('held notes', () => {
  it('stay where they are as they are, whatever comes around them', () => {
    fc.assert(
      fc.property(
        kept(),
        fc.array(fc.nat(40), { minLength: 1, maxLength: 6 }),
        fc.nat(30),
        ({ request, take }, picks, at) => {
          const wanted = take.notes.filter(({ id }) => picks.some((pick) => pick % take.notes.length === id));
          const hold: Hold = { take: take.id, aspects: [...ASPECTS], bars: [], notes: wanted.map(({ id }) => id) };
          const notes = notesOf(holding(request, [hold], [take]), at);
          if (!notes) return;
          for (const note of wanted) expect(notes).toContainEqual(note);
          // A line does not start another note while a held one sounds.
          if (!isLine(request)) return;
          const struck = take.notes.filter(({ start }) => wanted.some((note) => note.start === start));
          for (const { start } of notes.filter((note) => !struck.some((other) => other.start === note.start)))
            expect(struck.some((note) => note.start < start && start < note.start + note.duration)).toBe(false);
        },
      ),
      { numRuns: rounds(150) },
    );
  });

  it.each(['melody', 'counter'])('lead a %s to and from them: what comes beside them lies near', (role) => {
    const found = fc.sample(
      kept().filter((one) => isLineKept(one) && one.request.asking.role === role),
      { numRuns: 24, seed: 21 },
    );
    const leap = (notes: readonly Note[], place: number): number =>
      Math.abs((notes[place + 1]?.pitch ?? 0) - (notes[place]?.pitch ?? 0));
    const widths = found.flatMap(({ request, take }) => {
      // Every third note is moved to the top of the register and held there.
      const high = { ...take, notes: take.notes.map((note) => ({ ...note, pitch: request.asking.brief!.high })) };
      const third = high.notes.filter((_, index) => index % 3 === 1).map(({ id }) => id);
      const holds: Hold[] = [
        { take: take.id, aspects: ['rhythm'], bars: [], notes: take.notes.map(({ id }) => id) },
        { take: take.id, aspects: [...ASPECTS], bars: [], notes: third },
      ];
      const [held, free] = [holds, holds.slice(0, 1)].map((all) => notesOf(holding(request, all, [high]), 5));
      if (!free || held?.length !== free.length) return [];
      const raised = free.map((note, index) =>
        index % 3 === 1 ? { ...note, pitch: request.asking.brief!.high } : note,
      );
      const mean = (notes: readonly Note[]): number =>
        range(notes.length - 1).reduce((sum, place) => sum + leap(notes, place), 0) / (notes.length - 1);
      return [[mean(held), mean(raised)] as const];
    });
    const [held, laidOver] = [0, 1].map((side) => widths.reduce((sum, pair) => sum + pair[side]!, 0) / widths.length);
    expect(widths.length).toBeGreaterThan(10);
    expect(held! / laidOver!).toBeLessThan(0.6);
  });

  it('in anything stay where they are', () => {
    fc.assert(
      fc.property(kept(), fc.nat(40), fc.nat(9), ({ request, take }, pick, at) => {
        const note = take.notes[pick % take.notes.length]!;
        const hold: Hold = { take: take.id, aspects: ['pitch'], bars: [], notes: [note.id] };
        const notes = notesOf(holding(request, [hold], [take]), at);
        const { velocity: _velocity, ...rest } = note;
        if (notes) expect(notes).toContainEqual(expect.objectContaining(rest));
      }),
      { numRuns: rounds(100) },
    );
  });

  it('of which the place alone is held get other pitches', () => {
    const differs = fc.sample(kept().filter(isLineKept), { numRuns: 40, seed: 3 }).map(({ request, take }) => {
      const hold: Hold = { take: take.id, aspects: ['rhythm'], bars: [], notes: take.notes.map(({ id }) => id) };
      const notes = notesOf(holding(request, [hold], [take]), 7);
      return notes ? notes.some(({ pitch }, index) => pitch !== take.notes[index]?.pitch) : true;
    });
    expect(differs.filter(Boolean).length).toBeGreaterThan(30);
  });
});

const isLineKept = ({ request, take }: Kept): boolean => isLine(request) && take.notes.length > 6;

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
    const found = fc.sample(kept().filter(isLineKept), { numRuns: 40, seed: 5 });
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
        kept().filter(({ request }) => !isLine(request) && request.asking.bars >= 4),
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
    const found = fc.sample(kept().filter(isLineKept), { numRuns: 40, seed: 8 });
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
    kept().filter((one) => isLineKept(one) && one.request.asking.bars >= 4 && one.request.asking.brief!.dynamics > 20),
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
      kept().filter((one) => one.request.asking.role === 'drums' && one.request.asking.bars >= 4),
      { numRuns: 6, seed: 2 },
    );
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
      if (steps.at(-1)?.kind === 'used up') expect(plans.some((plan) => plan !== 0) || plans.length === 0).toBe(true);
      for (const step of steps)
        if (step.kind === 'take')
          expect(draft({ ...asked, kept: step.take.attempts }, 0)).toEqual({ ok: true, content: step.take.content });
    }
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

import * as fc from 'fast-check';
import { ASPECTS, type Aspect, type Hold, type Note } from '../song/schema';
import { holding, inBar, isLine, kept, notesOf, plain, isLineKept } from '../testing/kept';
import { brokenLaws } from '../testing/laws';
import { rounds } from '../testing/rounds';
import { range } from '../theory/units';
import { strokesOf } from './held';

const aspects = fc.subarray([...ASPECTS], { minLength: 1 });
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
    const found = fc.sample(kept((request) => isLine(request) && request.asking.role === role).filter(isLineKept), {
      numRuns: 24,
      seed: 21,
    });
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
    const differs = fc.sample(kept(isLine).filter(isLineKept), { numRuns: 40, seed: 3 }).map(({ request, take }) => {
      const hold: Hold = { take: take.id, aspects: ['rhythm'], bars: [], notes: take.notes.map(({ id }) => id) };
      const notes = notesOf(holding(request, [hold], [take]), 7);
      return notes ? notes.some(({ pitch }, index) => pitch !== take.notes[index]?.pitch) : true;
    });
    expect(differs.filter(Boolean).length).toBeGreaterThan(30);
  });
});

import * as fc from 'fast-check';
import { ASPECTS, type Hold, type MotifUse, type Note } from '../song/schema';
import { isLine as isSingleLine } from '../song/roles';
import { scoreWith } from '../testing/scores';
import { holding, inBar, kept, notesOf, plain } from '../testing/kept';
import { brokenLaws } from '../testing/laws';
import { rounds } from '../testing/rounds';
import { NOTHING_HEARD } from '../song/resolve';
import { scalePlace } from '../study/motifs';
import { barTicks } from '../theory/metre';
import { motifRequest, requestAgain } from './asking';
import { draft, type DraftRequest } from './draft';
import { draftedTake } from '../song/take';
import { attemptsAt } from './stages';

const USES = ['states', 'quotes', 'answers', 'sequences', 'stretches', 'inverts'] as const;
const BAR = 1920;
const ONSETS = [0, 480, 720, 960] as const;
/** One bar: up, up, down, up. */
const motif = {
  bars: 1,
  barTicks: BAR,
  notes: ONSETS.map((start, index) => ({ start, duration: 240, step: [0, 1, 0, 2][index]! })),
};

const saying = (request: DraftRequest, use: MotifUse, from: number, to: number): DraftRequest => ({
  ...request,
  asking: { ...request.asking, motif: { ...motif, use, name: 'Call', over: { from, to } } },
});
const starts = (notes: readonly Note[]): number[] =>
  [...new Set(notes.map(({ start }) => start))].sort((a, b) => a - b);

describe('a motif that is said by hand', () => {
  it('keeps every law of what is drafted, in whatever part, and comes out alike each time', () => {
    fc.assert(
      fc.property(kept(), fc.constantFrom(...USES), fc.nat(7), fc.nat(20), ({ request }, use, bar, at) => {
        const from = bar % request.asking.bars;
        const asked = saying(request, use, from, request.asking.bars);
        const notes = notesOf(asked, at);
        if (!notes) return;
        expect(notesOf(asked, at)).toEqual(notes);
        expect(brokenLaws(asked, notes)).toEqual([]);
      }),
      { numRuns: rounds(200) },
    );
  });

  it('is struck in its own rhythm by every part, and by lines in its own steps', () => {
    fc.assert(
      fc.property(kept(), fc.nat(7), fc.nat(20), ({ request, bar }, of, at) => {
        const { role, bars, ground, brief } = request.asking;
        if (!role || bar < BAR || brief!.grid !== null) return;
        const from = of % bars;
        const notes = notesOf(saying(request, 'quotes', from, from + 1), at);
        if (!notes) return;
        const line = from * bar;
        const own = notes.filter(({ start }) => start >= line && start < line + 1200);
        const said = role === 'drums' ? own.filter(({ pitch }) => pitch === 36 || pitch === 38) : own;
        expect(starts(said)).toEqual(ONSETS.map((start) => start + line));
        if (!(isSingleLine(role) || role === 'bass') || brief!.high - brief!.low < 12) return;
        const key = { tonic: ground.tonic, scale: ground.scale };
        const steps = said.map(({ pitch }) => scalePlace(pitch, key) - scalePlace(said[0]!.pitch, key));
        expect(steps).toEqual(motif.notes.map(({ step }) => step));
      }),
      { numRuns: rounds(200) },
    );
  });

  it('leaves held bars note for note', () => {
    fc.assert(
      fc.property(
        kept(),
        fc.constantFrom(...USES),
        fc.array(fc.nat(7), { minLength: 1, maxLength: 4 }),
        fc.nat(20),
        ({ request, take, bar }, use, bars, at) => {
          const hold: Hold = { take: take.id, aspects: [...ASPECTS], bars, notes: [] };
          const notes = notesOf(saying(holding(request, [hold], [take]), use, 0, request.asking.bars), at);
          if (!notes) return;
          for (const of of bars) expect(plain(inBar(notes, of, bar))).toEqual(plain(inBar(take.notes, of, bar)));
        },
      ),
      { numRuns: rounds(200) },
    );
  });
});

describe('asking a part to say a motif', () => {
  const { song: _song, ...small } = scoreWith(4, 0);
  const music = { ...small, heard: NOTHING_HEARD };
  const [section] = small.score.sections as [(typeof small.score.sections)[0]];
  const call = { ...motif, id: 'call', name: 'Call' };
  const bar = barTicks(small.score.ground.metre);

  it('keeps the other bars as they sound, and can be drafted again note for note', () => {
    for (const part of small.score.parts) {
      const request = motifRequest(music, section, part.id, 4, {
        motif: call,
        use: 'inverts',
        bars: { from: 1, to: 2 },
      })!;
      expect(request.asking.motif).toMatchObject({ use: 'inverts', name: 'Call', over: { from: 1, to: 2 } });
      const result = draft(request, 7);
      if (!result.ok || result.content.of !== 'part') throw new Error('no notes');
      const before = small.takes[`${section.id}-${part.id}-0`] as { notes: readonly Note[] };
      expect(plain(inBar(result.content.notes, 0, bar))).toEqual(plain(inBar(before.notes, 0, bar)));
      const take = draftedTake(
        { id: 'said', section: section.id, length: 2 * bar },
        { asking: request.asking, seed: request.seed, attempts: attemptsAt(7, request.kept) },
        { of: 'part', part: part.id, notes: result.content.notes },
      );
      const again = draft(requestAgain({ ...small }, take)!, 0);
      expect(again).toEqual({ ok: true, content: { of: 'part', notes: result.content.notes } });
    }
  });

  it('lets melodies weave it in themselves, and is nothing that chords could do', () => {
    const lead = small.score.parts.find(({ role }) => role === 'melody')!;
    const bass = small.score.parts.find(({ role }) => role === 'bass')!;
    const whole = { motif: call, use: 'states' as const, bars: null };
    expect(motifRequest(music, section, lead.id, 4, whole)?.asking.motif?.over).toBeUndefined();
    expect(motifRequest(music, section, bass.id, 4, whole)?.asking.motif?.over).toEqual({ from: 0, to: 2 });
    expect(motifRequest(music, section, 'harmony', 4, whole)).toBeNull();
  });
});

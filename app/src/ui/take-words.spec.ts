import { ASPECTS, type Asking, type Hold, type Kin, type Take } from '@fendro/core/song/schema';
import { draftedTake, editedTake } from '@fendro/core/song/take';
import { scoreWith } from '@fendro/core/testing/scores';
import { inWordsOf, listBars, sayBars } from './say-bars';
import { madeOf } from './take-words';

const { takes } = scoreWith(1, 0);
const take = Object.values(takes).find(({ of }) => of === 'part') as Extract<Take, { of: 'part' }>;
const asking = { ...(take.origin.asking as Asking), bars: 4 };
const names: Readonly<Record<string, string>> = { a: 'take 1', b: 'take 2' };
const name = (id: string): string => names[id] ?? 'an earlier take';
const drafted = (more: Partial<Asking>): string =>
  madeOf(
    draftedTake(
      { id: 'x', section: 's', length: 1 },
      { asking: { ...asking, ...more }, seed: 1, attempts: { plan: 0, rhythm: 0, pitch: 0, dynamics: 0 } },
      { of: 'part', part: 'p', notes: [] },
    ),
    name,
  );
const hold = (bars: readonly number[], aspects: Hold['aspects'] = ASPECTS, take = 'a'): Hold => ({
  take,
  aspects,
  bars,
  notes: [],
});

describe('what a take was made of', () => {
  it('names its parents and how they were crossed', () => {
    const kins: readonly (readonly [Kin, string])[] = [
      [{ by: 'variation', takes: ['a'], share: 25 }, 'take 1, varied by 25 %'],
      [{ by: 'rhythm and pitches', takes: ['a', 'b'] }, 'rhythm of take 1, pitches of take 2'],
      [{ by: 'bars in turn', takes: ['a', 'b'] }, 'take 1 and take 2 in turn'],
      [{ by: 'halfway', takes: ['a', 'lost'] }, 'halfway from take 1 to an earlier take'],
    ];
    for (const [kin, words] of kins) expect(drafted({ kin })).toBe(words);
  });

  it('says what a part was asked to do with a motif, by hand only', () => {
    const motif = { bars: 1, barTicks: 1920, notes: [{ start: 0, duration: 480, step: 0 }] };
    expect(drafted({ motif: { ...motif, use: 'quotes' } })).toBe('');
    expect(drafted({ motif: { ...motif, use: 'quotes', name: 'Call' } })).toBe('asked to quote “Call”');
    const said = { ...motif, use: 'inverts' as const, name: 'Call' };
    expect(drafted({ motif: { ...said, over: { from: 0, to: 4 } } })).toBe('asked to turn “Call” upside down');
    expect(drafted({ motif: { ...said, over: { from: 2, to: 4 } }, holds: [hold([0, 1])] })).toBe(
      'asked to turn “Call” upside down in bars 3–4',
    );
  });

  it('says what of a take was drafted anew', () => {
    expect(drafted({ holds: [hold([0, 1])] })).toBe('take 1, bars 3–4 anew');
    expect(drafted({ holds: [hold([0, 1, 2, 3], ['rhythm', 'dynamics'])] })).toBe('take 1, pitches anew');
    expect(drafted({ holds: [hold([0, 1, 2]), hold([3], ['rhythm', 'pitch'])] })).toBe(
      'take 1, dynamics of bar 4 anew',
    );
    expect(drafted({ holds: [hold([0], ASPECTS, 'b'), hold([1, 2])] })).toBe('take 1, bar 4 anew');
    expect(drafted({ holds: [{ take: 'a', aspects: ['pitch'], bars: [], notes: [3] }] })).toBe(
      'around held notes of take 1',
    );
  });

  it('says nothing of a plain draft, and whose edit another is', () => {
    expect(drafted({})).toBe('');
    expect(madeOf(editedTake('y', { ...take, id: 'a' }, []), name)).toBe('take 1, edited');
  });
});

describe('bars in words', () => {
  it('are said as musicians count them', () => {
    expect([sayBars({ from: 2, to: 3 }), sayBars({ from: 2, to: 4 })]).toEqual(['Bar 3', 'Bars 3–4']);
    expect([listBars([0]), listBars([4, 0, 1]), listBars([0, 2, 4])]).toEqual([
      'bar 1',
      'bars 1–2 and 5',
      'bars 1, 3 and 5',
    ]);
    expect([inWordsOf('rhythm', true), inWordsOf('pitch', false)]).toEqual(['when chords change', 'pitches']);
  });
});

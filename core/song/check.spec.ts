import * as fc from 'fast-check';
import { scoreWith } from '../testing/scores';
import { scoreProblem, takeProblem, withoutDangling } from './check';
import { LIMITS, numbered, shortened, withEnding } from './limits';
import type { Score, Take } from './schema';
import { openSong } from './song-file';

const { score, takes, song } = scoreWith(4, 0);
const many = <T extends { readonly id: string }>(item: T, count: number): T[] =>
  Array.from({ length: count }, (_, index) => ({ ...item, id: `more-${index}` }));

describe('the check of a score', () => {
  it('passes what opens', () => {
    expect(scoreProblem(score, takes)).toBeNull();
  });

  const [part, section, place] = [score.parts[0]!, score.sections[0]!, score.order[0]!];
  const wrong: readonly (readonly [string, Score, RegExp])[] = [
    ['25 parts', { ...score, parts: many(part, 25) }, /up to 24 parts; this would make 25/],
    ['65 sections', { ...score, sections: [...score.sections, ...many(section, 63)] }, /up to 64 sections/],
    ['257 places', { ...score, order: many(place, 257) }, /up to 256 places/],
    ['a title of 121 letters', { ...score, title: 'x'.repeat(121) }, /up to 120 letters; this one has 121/],
    ['no title', { ...score, title: '' }, /needs a title/],
    ['a name of 61 letters', { ...score, parts: [{ ...part, name: 'x'.repeat(61) }, ...score.parts.slice(1)] }, /name/],
    ['a tempo of 9999', { ...score, ground: { ...score.ground, tempo: 9999 } }, /the ground: tempo/],
    ['no place at all', { ...score, order: [] }, /at least one section/],
    ['a place of no section', { ...score, order: [{ ...place, section: 'gone' }] }, /names a section that is missing/],
    ['two parts of one id', { ...score, parts: [...score.parts, part] }, /Two parts share/],
    [
      'a choice of a lost take',
      { ...score, sections: [{ ...section, chosen: { [part.id]: { of: 'take', take: 'gone' } } }], order: [place] },
      /missing/,
    ],
    [
      'a solo of nobody',
      {
        ...score,
        sections: score.sections.map((own) => ({ ...own, solos: [{ part: 'nobody', over: null, from: 0, to: 1 }] })),
      },
      /solo/,
    ],
    ['energy of no place', { ...score, energy: [{ occurrence: 'gone', at: 0, value: 50 }] }, /energy line/],
  ];

  it.each(wrong)('tells of %s', (_name, broken, told) => {
    expect(scoreProblem(broken, takes)).toMatch(told);
    // What the check refuses, opening refuses or mends: the two agree.
    const opened = openSong(JSON.parse(JSON.stringify({ ...song, score: broken })));
    if (opened.ok) expect(scoreProblem(opened.song.score, opened.song.ledger.takes, opened.song.score)).toBeNull();
  });

  it('lets a song that an older Fendro made too large open, shrink and be changed, but not grow', () => {
    const large = { ...score, parts: [...score.parts, ...many(part, 30)] };
    const opened = openSong(JSON.parse(JSON.stringify({ ...song, score: large })));
    expect(opened).toMatchObject({ ok: true, setAside: [] });
    expect(scoreProblem({ ...large, title: 'Still too large' }, takes, large)).toBeNull();
    expect(scoreProblem({ ...large, parts: large.parts.slice(0, -1) }, takes, large)).toBeNull();
    expect(scoreProblem({ ...large, parts: [...large.parts, { ...part, id: 'one-more' }] }, takes, large)).toMatch(
      /up to 24 parts/,
    );
  });

  it('asks no more of a part that it has seen before', () => {
    const parts = many(part, 24);
    const full: Score = { ...score, parts, sections: score.sections.map((own) => ({ ...own, chosen: {} })) };
    expect(scoreProblem(full, takes)).toBeNull();
    const louder = { ...full, parts: parts.map((own, index) => (index === 3 ? { ...own, level: 101 } : own)) };
    expect(scoreProblem(louder, takes)).toMatch(/level/);
  });

  it('tells of chords and notes that could not be read again', () => {
    const [chords, line] = [
      Object.values(takes).find(({ of }) => of === 'harmony')!,
      Object.values(takes).find(({ of }) => of === 'part')!,
    ];
    expect([takeProblem(chords), takeProblem(line)]).toEqual([null, null]);
    expect(
      takeProblem({ ...chords, chords: [{ start: 0, duration: 1, chord: null, unread: 'x'.repeat(41) }] } as Take),
    ).toMatch(/these chords/);
    expect(takeProblem({ ...line, length: 0 })).toMatch(/this take/);
  });

  it('leaves out what belongs to nothing, and what is left passes', () => {
    const ids = fc.constantFrom(
      ...score.sections.map(({ id }) => id),
      ...score.parts.map(({ id }) => id),
      ...Object.keys(takes),
      'gone',
    );
    fc.assert(
      fc.property(fc.array(ids, { maxLength: 6 }), ids, ids, ids, (order, part_, over, take) => {
        const loose: Score = {
          ...score,
          order: order.map((id, index) => ({ id: `place-${index % 4}`, section: id })),
          energy: [
            { occurrence: 'place-0', at: 0, value: 1 },
            { occurrence: part_, at: 0, value: 1 },
          ],
          sections: [...score.sections, score.sections[0]!].map((own) => ({
            ...own,
            harmony: take,
            chosen: { [part_]: { of: 'take', take }, [over]: { of: 'take', take } },
            solos: [{ part: part_, over, from: 0, to: 1 }],
          })),
        };
        const { score: mended } = withoutDangling(loose, takes);
        expect(scoreProblem(mended, takes)).toBeNull();
      }),
    );
  });
});

describe('names', () => {
  it('are cut to their limit and never inside a letter', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme' }), fc.integer({ min: 1, max: 30 }), (text, most) => {
        expect(shortened(text, most).length).toBeLessThanOrEqual(most);
        if (text.length <= most) expect(shortened(text, most)).toBe(text);
      }),
    );
    expect(shortened('ab😀', 3)).toBe('ab');
  });

  it('are numbered within their limit so that no two are alike', () => {
    fc.assert(
      fc.property(fc.string({ minLength: 1, maxLength: 80 }), fc.integer({ min: 1, max: 130 }), (name, count) => {
        const taken = new Set<string>();
        for (let index = 0; index < count; index++) taken.add(numbered(name, taken, LIMITS.name));
        expect(taken.size).toBe(count);
        for (const own of taken) expect(own.length).toBeLessThanOrEqual(LIMITS.name);
      }),
      { numRuns: 40 },
    );
    expect(withEnding('x'.repeat(116), ' (copy)', LIMITS.title)).toHaveLength(120);
  });
});

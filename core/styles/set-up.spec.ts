import * as fc from 'fast-check';
import { scoreProblem } from '../song/check';
import { bandSetUp } from '../song/song-start';
import { rounds } from '../testing/rounds';
import { songOf, twists } from '../testing/songs';
import { startScore, groundFor } from './band';
import { withSetUp } from './set-up';
import { styleOf } from './styles';

const start = (style: string) =>
  startScore('One', groundFor(styleOf(style), { tonic: 0, scale: 'major' }), styleOf(style));
let made = 0;
const newId = () => `new-${made++}`;
const ALL = { sounds: true, briefs: true, missing: true };

describe('a band set-up that is taken', () => {
  it('leaves a valid song, whatever it is and is taken into, and every part that was there', () => {
    fc.assert(
      fc.property(
        twists,
        twists,
        fc.record({ sounds: fc.boolean(), briefs: fc.boolean(), missing: fc.boolean() }),
        (one, other, change) => {
          const { score, takes } = songOf(one);
          const taken = withSetUp(score, bandSetUp(songOf(other).score), change, newId);
          expect(scoreProblem(taken, takes, score)).toBeNull();
          expect(taken.parts.slice(0, score.parts.length).map(({ id, role, name }) => [id, role, name])).toEqual(
            score.parts.map(({ id, role, name }) => [id, role, name]),
          );
          if (!change.missing) expect(taken.parts).toHaveLength(score.parts.length);
          expect(taken.sections).toBe(score.sections);
        },
      ),
      { numRuns: rounds(60) },
    );
  });

  it('gives parts of a role its sounds and briefs, as asked, and brings those that lack', () => {
    const [own, other] = [start('soul'), start('techno')];
    const band = bandSetUp({
      ...other,
      parts: other.parts.map((part) => ({ ...part, level: 33, treatments: [[{ does: 'transpose' as const, by: 2 }]] })),
    });
    const sounds = withSetUp(own, band, { ...ALL, briefs: false, missing: false }, newId);
    const shared = own.parts.filter(({ role }) => other.parts.some((part) => part.role === role));
    expect(shared.length).toBeGreaterThan(0);
    for (const { id, brief } of shared) {
      const part = sounds.parts.find((now) => now.id === id)!;
      expect([part.level, part.treatments === undefined, part.brief]).toEqual([33, false, brief]);
    }
    const whole = withSetUp(own, band, ALL, newId);
    expect(whole.parts.map(({ role }) => role)).toEqual(expect.arrayContaining(other.parts.map(({ role }) => role)));
    // Taken once more there is nothing to be done.
    expect(withSetUp(whole, band, ALL, newId)).toEqual(whole);
  });

  it('finds the part of the same name among several of a role', () => {
    const own = start('soul');
    const [first] = own.parts;
    const band = bandSetUp({
      ...own,
      parts: [
        { ...first!, id: 'a', name: 'Another', level: 1 },
        { ...first!, id: 'b', level: 2 },
      ],
    });
    expect(withSetUp(own, band, { ...ALL, missing: false }, newId).parts[0]!.level).toBe(2);
  });

  it('lets parts that come deal to those of their band that are here', () => {
    const own = start('soul');
    const [first, second] = own.parts;
    const band = bandSetUp({
      ...own,
      parts: [
        { ...first!, deals: { way: 'in turn', to: [first!.id, second!.id, 'x'] } },
        second!,
        { ...second!, id: 'x', name: 'Third' },
      ],
    });
    const taken = withSetUp({ ...own, parts: [second!] }, band, ALL, newId);
    const deals = taken.parts.find(({ name }) => name === first!.name)!.deals;
    expect(deals!.to).toHaveLength(3);
    expect(deals!.to.every((to) => taken.parts.some(({ id }) => id === to))).toBe(true);
  });
});

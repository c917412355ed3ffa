import * as fc from 'fast-check';
import { scoreWith } from '../testing/scores';
import { choose, changeSection, freeName, removeOccurrence, remark } from './edit';
import { scoreProblem } from './check';
import { groupOf, chosenId, linesIn } from './section';
import { holdsOf, withHolds } from './holds';
import { NOTHING_HEARD, type Music } from './resolve';
import { withFreshSections } from './fresh-sections';
import type { PartTake, Section } from './schema';
import { copyVersion, nameVersion, placedSections, removeVersion, switchVersion, versionsOf } from './versions';

const { song: _song, ...drafted } = scoreWith(5, 0);
const music: Music = { ...drafted, heard: NOTHING_HEARD };
const { score } = music;
const [first] = score.sections as [(typeof score.sections)[0]];
const ids = () => {
  let serial = 0;
  return (kind: string) => `${kind}-new-${serial++}`;
};
const withTakes = (copied: ReturnType<typeof copyVersion>): Music['takes'] => ({
  ...music.takes,
  ...Object.fromEntries(copied.takes.map((take) => [take.id, take])),
});

describe('a version of a section', () => {
  const copied = copyVersion(music, first.id, ids());
  const copy = copied.score.sections.find(({ id }) => id === copied.section)!;
  const takes: Music['takes'] = withTakes(copied);

  it('is a whole section of its own, beside the one that it was copied from', () => {
    expect(scoreProblem(copied.score, takes, score)).toBeNull();
    expect(versionsOf(copied.score, copy).map(({ id }) => id)).toEqual([first.id, copy.id]);
    expect(groupOf(copy)).toBe(first.id);
    expect(copied.score.order).toEqual(score.order);
    expect(copied.takes.every(({ section }) => section === copy.id)).toBe(true);
    expect(copied.takes.every(({ id }) => !(id in music.takes))).toBe(true);
  });

  it('plays the same notes over chords of its own', () => {
    for (const [line, take] of linesIn(first)) {
      const other = chosenId(copy, line);
      expect(other === null).toBe(take === null);
      if (take === null || other === null) continue;
      expect(other).not.toBe(take);
      const [before, now] = [takes[take]!, takes[other]!];
      if (before.of === 'part') {
        expect((now as PartTake).notes).toEqual(before.notes);
        if (before.over) expect((now as PartTake).over?.harmony).toBe(copy.harmony);
      }
    }
  });

  it('is not touched by what happens to the other, nor touches it', () => {
    const line = Object.keys(first.chosen)[0]!;
    const emptied = choose(copied.score, copy.id, line, null);
    expect(emptied.sections.find(({ id }) => id === first.id)).toEqual(
      copied.score.sections.find(({ id }) => id === first.id),
    );
  });

  it('plays what is heard where another take is heard than the chosen one', () => {
    const line = Object.keys(first.chosen).find((part) => chosenId(first, part) !== null)!;
    const chosen = music.takes[chosenId(first, line)!] as PartTake;
    const rival = { ...chosen, id: 'rival', notes: chosen.notes.slice(1) };
    const heardMusic = { score, takes: { ...music.takes, rival }, heard: { [first.id]: { [line]: 'rival' } } };
    const other = copyVersion(heardMusic, first.id, ids());
    const section = other.score.sections.find(({ id }) => id === other.section)!;
    const take = other.takes.find(({ id }) => id === chosenId(section, line)) as PartTake;
    expect(take.notes).toEqual(rival.notes);
  });

  it('plays what is heard of a part that has chosen nothing, as a take of its own', () => {
    const line = Object.keys(first.chosen).find((part) => chosenId(first, part) !== null)!;
    const { [line]: source, ...chosen } = first.chosen;
    const silent = { ...score, sections: score.sections.map((own) => (own === first ? { ...first, chosen } : own)) };
    const heard = { [first.id]: { [line]: source!.take } };
    const other = copyVersion({ score: silent, takes: music.takes, heard }, first.id, ids());
    const section = other.score.sections.find(({ id }) => id === other.section)!;
    expect(other.takes.map(({ id }) => id)).toContain(chosenId(section, line));
    expect(withTakes(other)[chosenId(section, line)!]?.section).toBe(other.section);
  });

  it('keeps what was kept and held, under its own takes', () => {
    const line = Object.keys(first.chosen).find((part) => chosenId(first, part) !== null)!;
    const take = chosenId(first, line)!;
    const hold = { take, aspects: ['rhythm' as const], bars: [0], notes: [] };
    const held = {
      ...remark(score, take, { verdict: 'kept' }),
      sections: score.sections.map((section) => (section === first ? withHolds(section, line, [hold]) : section)),
    };
    const other = copyVersion({ ...music, score: held }, first.id, ids());
    const section = other.score.sections.find(({ id }) => id === other.section)!;
    expect(holdsOf(section, line)).toEqual([{ ...hold, take: chosenId(section, line) }]);
    expect(other.score.remarks[chosenId(section, line)!]).toEqual({ verdict: 'kept' });
    expect(scoreProblem(other.score, withTakes(other), held)).toBeNull();
  });

  it('shares its name and kind with the others, not its length', () => {
    const changed = changeSection(copied.score, copy.id, { name: 'Refrain', kind: 'bridge', bars: 4 });
    const [one, two] = versionsOf(
      changed,
      changed.sections.find(({ id }) => id === copy.id)!,
    );
    expect(one).toMatchObject({ name: 'Refrain', kind: 'bridge', bars: first.bars });
    expect(two).toMatchObject({ name: 'Refrain', kind: 'bridge', bars: 4 });
    expect(freeName(changed, 'Refrain')).toBe('Refrain 2');
  });

  it('is named and called by what differs again', () => {
    const named = nameVersion(copied.score, copy.id, '  barer ');
    expect(named.sections.find(({ id }) => id === copy.id)?.version?.name).toBe('barer');
    expect(nameVersion(named, copy.id, ' ').sections.find(({ id }) => id === copy.id)?.version?.name).toBeNull();
  });

  it('goes with what it belongs to when the last place of the group is taken out', () => {
    const places = copied.score.order.filter(({ section }) => section === first.id);
    const gone = places.reduce((now, { id }) => removeOccurrence(now, id), copied.score);
    expect(gone.sections.some((section) => groupOf(section) === first.id)).toBe(gone.order.length === 0);
  });

  it('is one of its group in a copy of the song too, whose sections are others', () => {
    const { song } = scoreWith(5, 0);
    const fresh = withFreshSections({ ...song, score: copied.score, ledger: { takes, heard: [] } }, ids());
    const [one, two] = fresh.score.sections as [Section, Section];
    expect(one.id).not.toBe(first.id);
    expect([groupOf(one), groupOf(two)]).toEqual([one.id, one.id]);
    expect(scoreProblem(fresh.score, fresh.ledger.takes)).toBeNull();
  });

  it('does not exist twice: a section that is not there cannot be copied', () => {
    expect(() => copyVersion(music, 'nowhere', ids())).toThrow(RangeError);
  });
});

describe('places of the running order', () => {
  it('play any version, all or one of them, and the song stays valid', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat({ max: 20 }), fc.nat({ max: 3 }), fc.boolean(), fc.nat({ max: 3 })), { maxLength: 8 }),
        (steps) => {
          const newId = ids();
          let now: Music = music;
          for (const [place, version, only, act] of steps) {
            const occurrence = now.score.order[place % now.score.order.length]!;
            const section = now.score.sections.find(({ id }) => id === occurrence.section)!;
            const group = versionsOf(now.score, section);
            const to = group[version % group.length]!;
            if (act === 0) {
              const made = copyVersion(now, section.id, newId);
              const more = Object.fromEntries(made.takes.map((take) => [take.id, take]));
              now = { ...now, score: made.score, takes: { ...now.takes, ...more } };
            } else if (act === 1) now = { ...now, score: removeVersion(now.score, to.id) };
            else {
              const before = now.score.order;
              now = { ...now, score: switchVersion(now.score, occurrence.id, to.id, only) };
              const changed = now.score.order.filter((own, index) => own !== before[index]);
              expect(changed.every((own) => own.section === to.id)).toBe(true);
              if (only) expect(changed.length).toBeLessThanOrEqual(1);
              else expect(now.score.order.some((own) => own.section === section.id)).toBe(section.id === to.id);
            }
          }
          expect(scoreProblem(now.score, now.takes, score)).toBeNull();
          expect(now.score.order.map(({ id }) => id)).toEqual(score.order.map(({ id }) => id));
          expect(placedSections(now.score).length).toBeLessThanOrEqual(now.score.sections.length);
          const alone = now.score.sections.filter((own) => versionsOf(now.score, own).length === 1);
          expect(alone.every(({ version }) => version === null)).toBe(true);
        },
      ),
      { numRuns: 60 },
    );
  });
});

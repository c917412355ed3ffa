import { scoreWith } from '../testing/scores';
import { changeSection, choose } from './edit';
import { chosenId } from './section';
import { NOTHING_HEARD, type Music } from './resolve';
import type { PartTake } from './schema';
import { copyVersion, nameVersion, versionsOf } from './versions';
import { versionNames } from './version-words';

const BAR = 1920;
const { song: _song, ...drafted } = scoreWith(5, 0);
const first = drafted.score.sections[0]!;
let serial = 0;
const copied = copyVersion({ ...drafted, heard: NOTHING_HEARD }, first.id, (kind) => `${kind}-new-${serial++}`);
const takes = { ...drafted.takes, ...Object.fromEntries(copied.takes.map((take) => [take.id, take])) };
const copy = copied.section;
const namesIn = (score: Music['score'], more: Music['takes'] = {}): string[] => {
  const versions = versionsOf(
    score,
    score.sections.find(({ id }) => id === copy)!,
  );
  return [...versionNames({ score, takes: { ...takes, ...more }, heard: NOTHING_HEARD }, versions, BAR).values()];
};
const playing = copied.score.parts.filter(({ id }) => chosenId(first, id) !== null);
const more: Record<string, PartTake> = {};
const without = (parts: readonly { id: string }[]) =>
  parts.reduce((score, { id }) => choose(score, copy, id, null), copied.score);

describe('names of versions', () => {
  it('say what sets each apart from the first', () => {
    const [lead] = playing as [(typeof playing)[0]];
    expect(namesIn(copied.score)).toEqual(['as first heard', 'the same']);
    expect(namesIn(without([lead]))[1]).toBe(`without ${lead.name.toLowerCase()}`);
    expect(namesIn(without(playing.slice(0, -1)))[1]).toBe('barer');
    expect(namesIn(changeSection(copied.score, copy, { bars: first.bars + 2 }))[1]).toBe('longer');
    const slower = copied.score.sections.map((own) => (own.id === copy ? { ...own, ground: { tempo: 60 } } : own));
    expect(namesIn({ ...copied.score, sections: slower })[1]).toBe('slower');
  });

  it('tell the one part that is missing rather than that there is more or less', () => {
    const [lead, ...others] = playing as [(typeof playing)[0], ...typeof playing];
    const busier = others.reduce(
      (score, { id }) => {
        const take = takes[
          chosenId(
            score.sections.find((own) => own.id === copy)!,
            id,
          )!
        ] as PartTake;
        more[`busy-${id}`] = { ...take, id: `busy-${id}`, notes: [...take.notes, ...take.notes] };
        return choose(score, copy, id, `busy-${id}`);
      },
      without([lead]),
    );
    expect(namesIn(busier, more)[1]).toBe(`without ${lead.name.toLowerCase()}`);
    expect(
      namesIn(
        choose(
          busier,
          copy,
          lead.id,
          chosenId(
            copied.score.sections.find((own) => own.id === copy)!,
            lead.id,
          ),
        ),
        more,
      )[1],
    ).toBe('fuller');
  });

  it('tell a part that comes in later, and one that plays something else', () => {
    const [lead] = playing as [(typeof playing)[0]];
    const take = takes[
      chosenId(
        copied.score.sections.find(({ id }) => id === copy)!,
        lead.id,
      )!
    ] as PartTake;
    const late = { ...take, id: 'late', notes: take.notes.filter(({ start }) => start >= BAR) };
    const other = { ...take, id: 'other', notes: take.notes.map((note) => ({ ...note, pitch: note.pitch + 1 })) };
    const name = lead.name.toLowerCase();
    expect(namesIn(choose(copied.score, copy, lead.id, 'late'), { late })[1]).toBe(`late ${name}`);
    expect(namesIn(choose(copied.score, copy, lead.id, 'other'), { other })[1]).toBe(`other ${name}`);
  });

  it('leave the writer’s own as they are, and never come twice', () => {
    const named = nameVersion(nameVersion(copied.score, copy, 'the same'), first.id, 'Loud');
    const again = copyVersion(
      { score: named, takes, heard: NOTHING_HEARD },
      copy,
      (kind) => `${kind}-third-${serial++}`,
    );
    const more = Object.fromEntries(again.takes.map((take) => [take.id, take]));
    expect(namesIn(again.score, more)).toEqual(['Loud', 'the same', 'the same 2']);
  });
});

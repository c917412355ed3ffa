import * as fc from 'fast-check';
import { bandAt, bandOf, logLine, newlyHeard, type Band } from './logbook';
import { HARMONY, type Heard, type Section } from './schema';
import { withChoices } from './section';
import { scoreWith } from '../testing/scores';
import { rounds } from '../testing/rounds';

const { score, takes } = scoreWith(1, 1);
const sections = score.sections;
const lines = [HARMONY, ...score.parts.map(({ id }) => id)];
const idsOf = (section: Section, line: string): string[] =>
  Object.values(takes)
    .filter((take) => take.section === section.id && (take.of === 'harmony' ? HARMONY : take.part) === line)
    .map(({ id }) => id);

/** Some steps of a session: takes of lines that come to sound, with others that change silently meanwhile. */
const steps = fc.array(
  fc.record({
    section: fc.nat({ max: sections.length - 1 }),
    line: fc.nat({ max: lines.length - 1 }),
    take: fc.nat(),
    silently: fc.boolean(),
    silent: fc.boolean(),
  }),
  { minLength: 1, maxLength: 30 },
);

describe('the logbook', () => {
  it('knows the whole band of every moment, whatever changed without being heard', () => {
    fc.assert(
      fc.property(steps, (all) => {
        const bands = new Map<string, Record<string, string | null>>();
        let log: readonly Heard[] = [];
        const moments: Band[] = [];
        all.forEach(({ section: place, line: of, take: which, silently, silent }, at) => {
          const [section, line] = [sections[place]!, lines[of]!];
          const ids = idsOf(section, line);
          const id = ids[which % Math.max(1, ids.length)];
          if (id === undefined) return;
          const band = bands.get(section.id) ?? {};
          band[line] = silently && silent ? null : id;
          bands.set(section.id, band);
          if (silently) return;
          log = [...log, logLine(log, takes, { take: id, section: section.id, at }, band)];
          moments.push({ ...band });
        });
        const known = ({ ...band }: Band): Band =>
          Object.fromEntries(Object.entries(band).filter(([, take]) => take !== null));
        expect(log.map((_, place) => known(bandAt(log, takes, place)))).toEqual(moments.map(known));
      }),
      { numRuns: rounds(100) },
    );
  });

  it('writes down only what it could not know', () => {
    const section = sections[0]!;
    const [melody, bass] = [lines[1]!, lines[2]!];
    const [one] = idsOf(section, melody);
    const [two] = idsOf(section, bass);
    const first = logLine([], takes, { take: one!, section: section.id, at: 1 }, { [melody]: one!, [bass]: two! });
    expect(first.beside).toEqual({ [bass]: two });
    const next = logLine([first], takes, { take: two!, section: section.id, at: 2 }, { [melody]: one!, [bass]: two! });
    expect(next).not.toHaveProperty('beside');
  });

  it('is told which takes begin to sound, by hearing and by choosing alike', () => {
    const section = sections[0]!;
    const melody = lines[1]!;
    const [one, two] = idsOf(section, melody) as [string, string];
    const before = { score: { sections: [withChoices(section, [[melody, one]])] }, heard: {} };
    const hears = { ...before, heard: { [section.id]: { [melody]: two } } };
    expect(newlyHeard(before, before)).toEqual([]);
    expect(newlyHeard(before, hears).map(({ take }) => take)).toEqual([two]);
    expect(newlyHeard(hears, before).map(({ take }) => take)).toEqual([one]);
    const chooses = { score: { sections: [withChoices(section, [[melody, two]])] }, heard: {} };
    expect(newlyHeard(hears, chooses)).toEqual([]);
    expect(newlyHeard({ score: { sections: [] }, heard: {} }, chooses).map(({ take }) => take)).toContain(two);
    expect(Object.values(bandOf(section, { [section.id]: { nobody: 'x' } }))).toContain('x');
  });
});

import { scoreWith } from '../testing/scores';
import { scoreProblem, withoutDangling } from './check';
import { addSection } from './edit';
import { addMotif, changePlan, inPlanOrder, motifFor, planned, removeMotif, USUAL_USE } from './plan';
import { tellProfile, withProfile } from './profile';
import { roleOf } from './roles';
import { ROLES, SECTION_KINDS } from './schema';

const { score, takes } = scoreWith(1, 0);
const motif = {
  id: 'm',
  name: 'Hook',
  bars: 2,
  barTicks: 1920,
  notes: [
    { start: 0, duration: 480, step: 0 },
    { start: 480, duration: 480, step: 2 },
  ],
};
const [verse, chorus] = score.sections;

describe('the plan of the song', () => {
  it('gives sections without a motif what their kind usually does, and leaves those that have one', () => {
    const known = changePlan(addMotif(score, motif), verse!.id, { motif: 'm', use: 'inverts' });
    const all = planned(
      known,
      'm',
      known.sections.map(({ id }) => id),
    );
    expect(all.sections.map(({ plan }) => plan.use)).toEqual(['inverts', USUAL_USE.chorus]);
    expect(scoreProblem(all, takes)).toBeNull();
    expect(motifFor(all, all.sections[0]!)).toEqual({ bars: 2, barTicks: 1920, notes: motif.notes, use: 'inverts' });
  });

  it('is joined by sections that are added later', () => {
    const bridge = { ...verse!, id: 'later', kind: 'bridge' as const, name: 'Bridge' };
    expect(addSection(score, bridge, 'o').sections.at(-1)!.plan.motif).toBeNull();
    const later = addSection(addMotif(score, motif), bridge, 'o');
    expect(later.sections.at(-1)!.plan).toMatchObject({ motif: 'm', use: 'avoids' });
    expect(later.sections[0]!.plan.motif).toBeNull();
  });

  it('says nothing to a section that is free', () => {
    const free = changePlan(addMotif(score, motif), verse!.id, { motif: 'm', bound: false });
    expect(motifFor(free, free.sections[0]!)).toBeNull();
  });

  it('forgets a motif everywhere; one that is missing is refused, and left out of what comes from files', () => {
    const known = changePlan(addMotif(score, motif), chorus!.id, { motif: 'm' });
    expect(removeMotif(known, 'm').sections[1]!.plan.motif).toBeNull();
    const torn = { ...known, motifs: [] };
    expect(scoreProblem(torn, takes)).toContain('motif');
    expect(withoutDangling(torn, takes).score.sections[1]!.plan.motif).toBeNull();
    expect(withoutDangling(known, takes).score.sections[1]!.plan.motif).toBe('m');
  });

  it('keeps names apart and drafts what states the hook first', () => {
    expect(addMotif(addMotif(score, motif), { ...motif, id: 'n' }).motifs.map(({ name }) => name)).toEqual([
      'Hook',
      'Hook 2',
    ]);
    expect(inPlanOrder(score.sections).map(({ kind }) => kind)).toEqual(['chorus', 'verse']);
  });
});

describe('profiles of section kinds', () => {
  it('never leave the limits of a brief', () => {
    for (const role of ROLES)
      for (const kind of SECTION_KINDS) {
        const { brief } = roleOf(role);
        const leaned = withProfile(brief, kind, role);
        expect(leaned.low).toBeGreaterThanOrEqual(brief.low);
        expect(leaned.high).toBeLessThanOrEqual(brief.high);
        expect(leaned.high - leaned.low).toBeGreaterThanOrEqual(Math.min(12, brief.high - brief.low));
        expect(leaned.recall).toBeLessThanOrEqual(100);
      }
  });

  it('set a chorus above its verse, and fuller', () => {
    const { brief } = roleOf('melody');
    const middle = (kind: 'verse' | 'chorus'): number => {
      const { low, high } = withProfile(brief, kind, 'melody');
      return (low + high) / 2;
    };
    expect(middle('chorus') - middle('verse')).toBe(3);
    const busy = (kind: 'verse' | 'chorus') => withProfile(roleOf('drums').brief, kind, 'drums').busyness;
    expect(busy('chorus') / busy('verse')).toBeGreaterThan(1.1);
  });

  it('say what they do, and nothing where they do nothing', () => {
    expect(tellProfile('chorus', 'melody')).toBe('higher, busier, returns more');
    expect(tellProfile('verse', 'drums')).toBe('sparser');
    expect(tellProfile('solo', 'melody')).toBe('');
  });
});

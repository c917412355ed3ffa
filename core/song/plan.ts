import { LIMITS, numbered } from './limits';
import { own } from './look-up';
import type {
  Motif,
  MotifId,
  MotifUse,
  Role,
  Score,
  Section,
  SectionId,
  SectionKind,
  SectionPlan,
  SongMotif,
} from './schema';

/** The plan of the song: which section states, quotes, answers or avoids which motif. */

/** A section that nothing was planned for: bound to what sections of its kind do, without a motif. */
export const NO_PLAN: SectionPlan = { bound: true, motif: null, use: 'states' };

/** What each kind of section usually does with the song's motif. */
export const USUAL_USE: Readonly<Record<SectionKind, MotifUse>> = {
  intro: 'quotes',
  verse: 'answers',
  'pre-chorus': 'sequences',
  chorus: 'states',
  bridge: 'avoids',
  solo: 'sequences',
  outro: 'quotes',
};

/** What a use does, for reading. */
export const USE_WORDS: Readonly<Record<MotifUse, string>> = {
  states: 'states it, again and again',
  quotes: 'quotes it once',
  answers: 'answers it',
  sequences: 'takes it up and down',
  stretches: 'stretches it',
  inverts: 'turns it upside down',
  avoids: 'avoids it',
};

/** Roles that say what a song's motifs say. */
export const USES_MOTIFS: ReadonlySet<Role> = new Set(['melody', 'solo', 'ensemble']);

export const motifOf = (score: Score, id: MotifId | null): SongMotif | null =>
  score.motifs.find((motif) => motif.id === id) ?? null;

/** What a section does with a motif, where it is bound and has one. */
export function motifFor(score: Score, { plan }: Section): (Motif & { readonly use: MotifUse }) | null {
  const motif = plan.bound ? motifOf(score, plan.motif) : null;
  if (!motif) return null;
  const { bars, barTicks, notes } = motif;
  return { bars, barTicks, notes, use: plan.use };
}

/** Changes a section's line of the plan. */
export const changePlan = (score: Score, section: SectionId, change: Partial<SectionPlan>): Score => ({
  ...score,
  sections: score.sections.map((own) => (own.id === section ? { ...own, plan: { ...own.plan, ...change } } : own)),
});

/** Adds a motif, its name made free. */
export const addMotif = (score: Score, motif: SongMotif): Score => ({
  ...score,
  motifs: [
    ...score.motifs,
    { ...motif, name: numbered(motif.name, new Set(score.motifs.map(({ name }) => name)), LIMITS.name) },
  ],
});

/** The song that remembers a motif: the section that it comes from states it, those without one get it by their kind. */
export function remembered(score: Score, motif: SongMotif, section: SectionId): Score {
  const stated = changePlan(addMotif(score, motif), section, { motif: motif.id, use: 'states' });
  return planned(
    stated,
    motif.id,
    stated.sections.flatMap(({ id, plan }) => (plan.bound ? [id] : [])),
  );
}

/** Takes a motif out of the song and of every section's plan; takes that were drafted with it stay as they are. */
export const removeMotif = (score: Score, id: MotifId): Score => ({
  ...score,
  motifs: score.motifs.filter((motif) => motif.id !== id),
  sections: score.sections.map((section) =>
    section.plan.motif === id ? { ...section, plan: { ...section.plan, motif: null } } : section,
  ),
});

/** Plans a motif for sections that have none, each as its kind usually does. */
export const planned = (score: Score, motif: MotifId, sections: Iterable<SectionId>): Score => {
  const wanted = new Set(sections);
  return {
    ...score,
    sections: score.sections.map((section) =>
      wanted.has(section.id) && section.plan.motif === null
        ? { ...section, plan: { ...section.plan, motif, use: USUAL_USE[section.kind] } }
        : section,
    ),
  };
};

/** The sections of a song in the order in which they are best drafted: what states a motif comes before what uses it. */
export function inPlanOrder(sections: readonly Section[]): Section[] {
  const rank: Readonly<Partial<Record<SectionKind, number>>> = { chorus: 0, verse: 1 };
  return [...sections].sort((a, b) => (own(rank, a.kind) ?? 2) - (own(rank, b.kind) ?? 2));
}

import { computed, inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import { endingsIn } from '@fendro/core/compose/ending-names';
import { motifFrom } from '@fendro/core/compose/motif';
import { barOf, groundOf, keyOf } from '@fendro/core/song/ground';
import { LIMITS, shortened } from '@fendro/core/song/limits';
import { changePlan, remembered, removeMotif } from '@fendro/core/song/plan';
import { partTake, soundingId } from '@fendro/core/song/resolve';
import { isLine } from '@fendro/core/song/roles';
import type { MotifId, Score, Section, SectionId, SectionPlan } from '@fendro/core/song/schema';
import type { Ending } from '@fendro/core/song/style';
import { newId } from '../store/ids';
import { selectHeard, selectLine, selectOwnScore, selectPlaced, selectSection, selectTakes } from '../store/selectors';
import { ScoreActions } from '../store/song.actions';
import { ArrangementDesk } from './arrangement-desk';
import { Drafting } from './drafting';

/** The plan of the song: what it remembers, and what each of its sections does with it. */
@Injectable({ providedIn: 'root' })
export class PlanDesk {
  private readonly store = inject(Store);
  private readonly score = this.store.selectSignal(selectOwnScore);
  private readonly takes = this.store.selectSignal(selectTakes);
  private readonly heard = this.store.selectSignal(selectHeard);
  private readonly section = this.store.selectSignal(selectSection);
  private readonly line = this.store.selectSignal(selectLine);
  private readonly placed = this.store.selectSignal(selectPlaced);

  private readonly drafting = inject(Drafting);
  private readonly arrangement = inject(ArrangementDesk);

  private readonly endings = computed(() => endingsIn(this.takes()));
  /** The song's sections but for endings, each once, in the order in which they are first heard. */
  readonly sections = computed((): readonly Section[] => [
    ...new Set(this.placed().flatMap(({ section }) => (this.endings().has(section.id) ? [] : [section]))),
  ]);
  /** How the song will end where it has no ending yet: as its style does. */
  readonly ending = computed((): Ending | null => {
    const last = this.placed().at(-1)?.section;
    return last && this.endings().has(last.id) ? null : (this.arrangement.endings()[0] ?? null);
  });
  readonly motifs = computed(() => this.score()?.motifs ?? []);

  /** The motif that what sounds of the line in focus begins with; null where no melody sounds there. */
  readonly beginning = computed(() => {
    const [score, section] = [this.score(), this.section()];
    const part = score?.parts.find(({ id }) => id === this.line());
    if (!score || !section || !part || !isLine(part.role)) return null;
    const take = partTake(this.takes(), soundingId(section, part.id, this.heard()));
    const motif = take ? motifFrom(take.notes, keyOf(groundOf(score, section)), barOf(score, section)) : null;
    return motif ? { motif, name: shortened(`${part.name}, ${section.name}`, LIMITS.name) } : null;
  });

  /**
   * Drafts a whole song of some of its sections, in one step of undo.
   *
   * @param ended  whether it gets an ending where it has none
   */
  async draft(sections: readonly Section[], ended: boolean): Promise<void> {
    const gesture = newId('draft');
    const drafted = await this.drafting.draftSong(new Set(sections.map(({ id }) => id)), gesture);
    const ending = this.ending();
    if (drafted && ended && ending) await this.arrangement.end(ending, gesture);
  }

  /** Binds a section to the plan, or frees it. */
  bind(section: Section, bound: boolean): void {
    this.change(section.id, { bound }, `${bound ? 'bind' : 'free'} ${section.name}`);
  }

  change(section: SectionId, change: Partial<SectionPlan>, name = 'change the plan'): void {
    this.revise(name, (score) => changePlan(score, section, change));
  }

  /** Remembers what the line in focus begins with; sections that have no motif get it, as their kind usually does. */
  remember(): void {
    const beginning = this.beginning();
    const section = this.section();
    if (!beginning || !section) return;
    const motif = { ...beginning.motif, id: newId('motif'), name: beginning.name };
    this.revise('remember a motif', (score) => remembered(score, motif, section.id));
  }

  rename(motif: MotifId, name: string): void {
    const wished = shortened(name.trim(), LIMITS.name);
    if (wished === '') return;
    this.revise('rename a motif', (score) => ({
      ...score,
      motifs: score.motifs.map((own) => (own.id === motif ? { ...own, name: wished } : own)),
    }));
  }

  forget(motif: MotifId): void {
    this.revise('forget a motif', (score) => removeMotif(score, motif));
  }

  private revise(name: string, edit: (score: Score) => Score): void {
    const score = this.score();
    if (score) this.store.dispatch(ScoreActions.revised({ name, score: edit(score), takes: [], released: [] }));
  }
}

import { computed, inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import { changeHolds } from '@fendro/core/song/edit';
import { freed, held, holdersIn, holdsOf, isHeld, withHolds, type Grip } from '@fendro/core/song/holds';
import { soundingId } from '@fendro/core/song/resolve';
import {
  ASPECTS,
  HARMONY,
  type Aspect,
  type Hold,
  type LineId,
  type Section,
  type TakeId,
} from '@fendro/core/song/schema';
import { range } from '@fendro/core/theory/units';
import { News } from '../store/news';
import { selectHeard, selectLine, selectOwnScore, selectSection } from '../store/selectors';
import { ScoreActions } from '../store/song.actions';
import { inWordsOf, sayBars } from '../ui/say-bars';
import { CatchDesk } from './catch-desk';
import { DraftRuns } from './draft-runs';
import { NotesDesk } from './notes-desk';
import { SheetDesk } from './sheet-desk';
import { Undecided } from './undecided';

/**
 * Holding what is good, so that no draft changes it: of the line in focus, over the bars that are selected, or the notes
 * that are picked.
 */
@Injectable({ providedIn: 'root' })
export class HoldDesk {
  private readonly store = inject(Store);
  private readonly sheet = inject(SheetDesk);
  private readonly notes = inject(NotesDesk);
  private readonly undecided = inject(Undecided);
  private readonly runs = inject(DraftRuns);
  private readonly catching = inject(CatchDesk);
  private readonly news = inject(News);
  private readonly score = this.store.selectSignal(selectOwnScore);
  private readonly heard = this.store.selectSignal(selectHeard);
  private readonly section = this.store.selectSignal(selectSection);
  private readonly line = this.store.selectSignal(selectLine);
  /** What is held of the line in focus. */
  readonly holds = computed((): readonly Hold[] => {
    const section = this.section();
    return section ? holdsOf(section, this.line()) : [];
  });
  /** What would be held now: the take that sounds and the bars; null where nothing sounds. */
  private readonly target = computed(
    (): { readonly section: Section; readonly line: LineId; readonly take: TakeId; readonly grip: Grip } | null => {
      const [section, line, bars] = [this.section(), this.line(), this.sheet.bars()];
      const take = section ? soundingId(section, line, this.heard()) : null;
      if (!section || take === null) return null;
      const sounding = this.notes.any() ? this.notes.take() : null;
      if (sounding) {
        const ids = this.notes.ids();
        const holders = holdersIn(holdsOf(section, line), sounding);
        const holder = ids.map((id) => holders.get(id)).find((own) => own !== undefined) ?? take;
        return { section, line, take: holder, grip: { bars: [], notes: ids } };
      }
      const last = Math.min(bars.to, section.bars);
      const grip = { bars: range(Math.max(0, last - bars.from)).map((bar) => bar + bars.from), notes: [] };
      return { section, line, take, grip };
    },
  );
  readonly canHold = computed(() => {
    const grip = this.target()?.grip;
    return grip !== undefined && grip.bars.length + grip.notes.length > 0;
  });
  /** What would be held now, in words. */
  readonly words = computed(() => {
    const count = this.target()?.grip.notes.length ?? 0;
    return count === 0 ? sayBars(this.sheet.bars()) : count === 1 ? 'One note' : `${count} notes`;
  });

  /** Whether all of these aspects are held in all the bars. */
  isHeld(aspects: readonly Aspect[] = ASPECTS): boolean {
    const target = this.target();
    return target !== null && isHeld(target.section, target.line, target.take, target.grip, aspects);
  }

  /** Holds the bars in these aspects; where they are held, frees them. */
  toggle(aspects: readonly Aspect[] = ASPECTS): void {
    if (!this.target() || this.undecided.told()) return;
    this.letStand();
    const target = this.target();
    if (!target) return;
    const { section, line, take, grip } = target;
    const frees = this.isHeld(aspects);
    const what = this.words();
    const name = `${frees ? 'free' : 'hold'} ${grip.notes.length > 0 ? 'notes' : 'bars'}`;
    this.change(name, section, (now) => (frees ? freed : held)(now, line, take, grip, aspects));
    const which =
      aspects.length === ASPECTS.length
        ? ''
        : `: ${aspects.map((one) => inWordsOf(one, line === HARMONY)).join(' and ')}`;
    this.news.say(`${what} of ${this.runs.nameOf(line)} ${frees ? 'freed' : 'held'}${which}`);
  }

  /** Holds what sounds of the line in focus in these aspects, in all bars of its section. */
  holdAll(aspects: readonly Aspect[]): void {
    const [section, line] = [this.section(), this.line()];
    if (!section || this.undecided.told()) return;
    this.catching.standStill();
    const take = soundingId(section, line, this.heard());
    if (take === null) return;
    const grip: Grip = { bars: range(section.bars), notes: [] };
    this.change('hold bars', section, (now) => held(now, line, take, grip, aspects));
  }

  /** What goes on by itself stands still before it is held; the notes that are picked are picked in what stands. */
  private letStand(): void {
    const [ids, before] = [this.notes.ids(), this.notes.take()];
    const standing = this.catching.standStill();
    if (standing && before && ids.length > 0) this.notes.follow(standing.id, before.id, ids);
  }

  /** Frees all that is held of the line in focus. */
  freeAll(): void {
    const [section, line] = [this.section(), this.line()];
    if (!section || this.holds().length === 0) return;
    this.change('free all that is held', section, (now) => withHolds(now, line, []));
    this.news.say(`Nothing of ${this.runs.nameOf(line)} is held any more`);
  }

  private change(name: string, section: Section, change: (section: Section) => Section): void {
    const score = this.score();
    if (score)
      this.store.dispatch(
        ScoreActions.revised({ name, score: changeHolds(score, section.id, change), takes: [], released: [] }),
      );
  }
}

import { computed, inject, Injectable, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { nameOf } from '@fendro/core/song/edit';
import { lineOf } from '@fendro/core/song/logbook';
import { LIMITS, shortened } from '@fendro/core/song/limits';
import { chosenId } from '@fendro/core/song/section';
import type { TakeId, Verdict } from '@fendro/core/song/schema';
import { Playback } from '../sound/playback';
import { selectLine, selectScore, selectSection, selectSong, selectSounding } from '../store/selectors';
import { sessionFeature } from '../store/session';
import { TakeActions } from '../store/song.actions';
import { HarmonyDesk } from './harmony-desk';
import { TakeView } from './take-view';
import { VersionsDesk } from './versions-desk';

/** Hearing, judging and choosing the takes of the line in focus, by keys, buttons and whatever else asks for it. */
@Injectable({ providedIn: 'root' })
export class AuditionDesk {
  private readonly store = inject(Store);
  private readonly playback = inject(Playback);
  private readonly desk = inject(HarmonyDesk);
  private readonly view = inject(TakeView);
  private readonly versions = inject(VersionsDesk);
  private readonly score = this.store.selectSignal(selectScore);
  private readonly section = this.store.selectSignal(selectSection);
  private readonly line = this.store.selectSignal(selectLine);
  readonly sounding = this.store.selectSignal(selectSounding);
  private readonly byItself = this.store.selectSignal(sessionFeature.selectRunning);
  readonly chosen = computed(() => {
    const section = this.section();
    return section ? chosenId(section, this.line()) : null;
  });
  private readonly song = this.store.selectSignal(selectSong);
  /** The take that the heard one is compared and blended with: the chosen one, else the one that was heard before it. */
  readonly partner = computed((): TakeId | null => {
    const [section, sounding, chosen, { heard, takes }] = [this.section(), this.sounding(), this.chosen(), this.song()];
    const own = sounding === null ? undefined : takes[sounding];
    if (!section || !own) return null;
    if (chosen !== null && chosen !== sounding) return chosen;
    const isRival = (id: TakeId): boolean => {
      const take = takes[id];
      return take !== undefined && id !== sounding && lineOf(take) === lineOf(own);
    };
    return heard.findLast(({ take, section: of }) => of === section.id && isRival(take))?.take ?? null;
  });
  /** True while a rival is heard in place of the chosen take. */
  readonly rivalHeard = computed(() => this.sounding() !== null && this.sounding() !== this.chosen());
  /** What sounded before the other take was put in its place to compare them. */
  private rival: TakeId | null = null;

  /** True while takes are looked for by words. */
  readonly finding = signal(false);
  /** True while the heard take is being named. */
  readonly naming = signal(false);
  readonly heardName = computed(() => {
    const [score, take] = [this.score(), this.sounding()];
    return (score && take !== null ? nameOf(score, take) : null) ?? '';
  });

  nameTake(name: string): void {
    const take = this.sounding();
    if (take) this.store.dispatch(TakeActions.named({ take, name: shortened(name, LIMITS.name) }));
  }

  /** Hears a take; one of another section is turned to. */
  hear(take: TakeId): void {
    const of = this.song().takes[take]?.section;
    if (of !== undefined && of !== this.section()?.id) this.versions.turnTo(of);
    const section = this.section();
    if (!section || (of !== undefined && of !== section.id)) return;
    if (take === this.chosen()) this.store.dispatch(TakeActions.released({ section: section.id, line: this.line() }));
    else this.store.dispatch(TakeActions.heard({ take, section: section.id, line: this.line() }));
    this.playback.playIfStopped();
  }

  /** Hears the take above or below in the list; the first where none sounds. */
  step(by: 1 | -1): void {
    const takes = this.view.shown();
    const at = takes.findIndex(({ id }) => id === this.sounding());
    const next = takes[at < 0 ? 0 : Math.max(0, Math.min(takes.length - 1, at + by))];
    if (next && next.id !== this.sounding()) this.hear(next.id);
  }

  choose(): void {
    const [section, take] = [this.section(), this.sounding()];
    if (section && take && this.rivalHeard()) this.desk.choose(section.id, this.line(), take);
  }

  /** Gives the verdict and moves on, where nothing else does; the same verdict again takes it back. */
  judge(verdict: Verdict): void {
    const take = this.sounding();
    if (!take) return;
    const takes = this.view.shown();
    const at = takes.findIndex(({ id }) => id === take);
    const next = takes[at + 1] ?? takes[at - 1];
    const same = this.view.verdictOf(take) === verdict;
    this.store.dispatch(TakeActions.judged({ take, verdict: same ? null : verdict }));
    if (!same && next && next.id !== take && this.byItself() === null) this.hear(next.id);
  }

  /** Lets the other take sound until `compareEnded`. */
  compare(): void {
    const [now, other] = [this.sounding(), this.partner()];
    if (now === null || other === null) return;
    this.rival = now;
    this.hear(other);
  }

  compareEnded(): void {
    if (this.rival !== null) this.hear(this.rival);
    this.rival = null;
  }

  /** Back to the chosen take of the line in focus. @returns false where nothing else was heard */
  back(): boolean {
    const section = this.section();
    return section !== null && this.desk.backToChosen(section.id, this.line());
  }
}

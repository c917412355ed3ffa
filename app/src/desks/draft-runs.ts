import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import { nextAttempt } from '@fendro/core/compose/stages';
import { printFor } from '@fendro/core/compose/print';
import type { DraftRequest } from '@fendro/core/compose/draft';
import { surplusTakes } from '@fendro/core/song/prune';
import { LIMITS } from '@fendro/core/song/limits';
import { partTake, sectionTicks, takesOf } from '@fendro/core/song/resolve';
import {
  HARMONY,
  type Asking,
  type LineId,
  type PartTake,
  type Section,
  type SectionId,
  type Take,
} from '@fendro/core/song/schema';
import { behindLike, draftedTake, relativesIn } from '@fendro/core/song/take';
import { newId } from '../store/ids';
import { Notices } from '../store/notices';
import { selectHeard, selectLine, selectScore, selectSection, selectSong, selectTakes } from '../store/selectors';
import { TakeActions } from '../store/song.actions';
import { DraftClient, type Refusal } from '../work/draft-client';
import type { FromWorker } from '../work/draft-messages';
import { Undecided } from './undecided';

interface Running {
  readonly song: string | null;
  readonly line: LineId;
  readonly cancel: () => void;
}

/** What is to be drafted, and for whom. */
export interface Job {
  readonly section: Section;
  readonly line: LineId;
  readonly request: DraftRequest;
  readonly count: number;
  /** Told of every take as it comes; the first is number 0. */
  readonly take: (take: Take, number: number) => void;
  /** What is said where fewer takes were found than asked for; null where nothing has to be. */
  readonly usedUp: (found: number) => string | null;
}

/** Where a line is drafted, and one of several after each other. */
export interface Place {
  readonly section: SectionId;
  readonly line: LineId;
}

/** The drafting that goes on in the worker: how far it is, what could not be met, and how it is stopped. */
@Injectable({ providedIn: 'root' })
export class DraftRuns {
  private readonly store = inject(Store);
  private readonly client = inject(DraftClient);
  private readonly notices = inject(Notices);
  private readonly undecided = inject(Undecided);
  private readonly score = this.store.selectSignal(selectScore);
  private readonly takes = this.store.selectSignal(selectTakes);
  private readonly heard = this.store.selectSignal(selectHeard);
  private readonly song = this.store.selectSignal(selectSong);
  private readonly section = this.store.selectSignal(selectSection);
  private readonly line = this.store.selectSignal(selectLine);
  private readonly running = signal<Running | null>(null);
  /** True over all lines of a band, between two of them too. */
  readonly busy = signal(false);
  private readonly stopped = signal(false);
  /** Share of the present work that is done, 0–1. */
  readonly share = signal(0);
  /** What could not be met, by section and line. */
  readonly problem = signal<(Refusal & Place) | null>(null);
  /** What could not be met of the line in focus. */
  readonly problemInFocus = computed(() => {
    const problem = this.problem();
    return problem && problem.section === this.section()?.id && problem.line === this.line() ? problem : null;
  });
  /** What is being drafted now. */
  readonly now = computed(() => {
    const running = this.running();
    return running ? this.nameOf(running.line) : '';
  });
  /** The song that is open. */
  readonly open = computed(() => this.song().open?.id ?? null);

  constructor() {
    // What runs belongs to the song that asked for it: another one that opens ends it at once.
    effect(() => {
      const open = this.open();
      untracked(() => {
        this.problem.set(null);
        const running = this.running();
        if (running && running.song !== open) running.cancel();
      });
    });
  }

  /** Does work that can be cancelled. @returns false where other work goes on: nothing was done */
  async alone(work: () => Promise<unknown>): Promise<boolean> {
    if (this.busy()) return false;
    this.busy.set(true);
    this.stopped.set(false);
    try {
      await work();
    } finally {
      this.busy.set(false);
      this.next();
    }
    return true;
  }

  /** What waits for the present work to end. */
  private waiting: ((goes: boolean) => void) | null = null;

  /**
   * Does work as soon as nothing else goes on, so that no key is lost that is pressed meanwhile. The newest one waits,
   * whatever waited before it gives way, as it does where another song opens or all is cancelled.
   */
  async inTurn(work: () => Promise<unknown>): Promise<void> {
    this.waiting?.(false);
    this.waiting = null;
    const asker = this.open();
    const goes = !this.busy() || (await new Promise<boolean>((resolve) => (this.waiting = resolve)));
    if (goes && asker === this.open()) await this.alone(work);
  }

  /** Lets what waits have its turn. */
  private next(): void {
    const waiting = this.waiting;
    this.waiting = null;
    waiting?.(!this.stopped());
  }

  readonly wasStopped = this.stopped.asReadonly();

  cancel(): void {
    this.stopped.set(true);
    this.running()?.cancel();
  }

  /** Drafts one line after another until all are done, it is stopped, or another song opens. */
  async inOrder<P extends Place>(
    places: readonly P[],
    draft: (place: P, index: number) => Promise<unknown>,
  ): Promise<void> {
    const asker = this.open();
    for (const [index, place] of places.entries()) {
      if (this.stopped() || asker !== this.open()) break;
      await draft(place, index);
    }
  }

  /** Does one job; resolves with how many takes came of it. */
  async run({ section, line, request, count, take, usedUp }: Job): Promise<number> {
    if (this.undecided.told()) return 0;
    this.problem.set(null);
    const before = takesOf(this.takes(), section.id, line);
    const printOf = printFor(request.asking);
    const asker = this.open();
    let made = 0;
    const refuse = (refusal: Refusal): void => {
      if (asker === this.open()) this.problem.set({ ...refusal, section: section.id, line });
    };
    const run = this.client.run(
      { request, from: nextAttempt(before.map(({ origin }) => origin)), count, shown: before.map(printOf) },
      {
        take: (answer) => {
          if (asker === this.open()) take(this.takeFrom(answer, request, section, line), made++);
        },
        progress: (share) => {
          this.share.set(share);
        },
        refused: refuse,
        usedUp: (found) => {
          const reason = usedUp(found);
          if (reason !== null) refuse({ reason });
        },
      },
    );
    this.share.set(0);
    this.running.set({ song: asker, line, cancel: run.cancel });
    await run.done;
    this.running.set(null);
    if (asker !== this.open()) return 0;
    if (made > 0) this.letOldestGo();
    return made;
  }

  /** A song keeps so many takes that nobody has heard; beyond them the oldest go, and the writer is told. */
  private letOldestGo(): void {
    const { score, takes, heard } = this.song();
    if (!score) return;
    const gone = surplusTakes(score, { takes, heard }, this.heard(), LIMITS.unheardTakes);
    if (gone.length === 0) return;
    this.store.dispatch(TakeActions.cleared({ takes: gone }));
    this.notices.say(
      `A song keeps ${LIMITS.unheardTakes.toLocaleString('en')} takes that nobody has heard or judged. The ` +
        `${gone.length} oldest of them were let go.`,
    );
  }

  nameOf(line: LineId): string {
    return line === HARMONY ? 'the chords' : (this.score()?.parts.find(({ id }) => id === line)?.name ?? 'the part');
  }

  private takeFrom(
    { attempts, content }: Extract<FromWorker, { kind: 'take' }>,
    { asking, seed }: DraftRequest,
    section: Section,
    line: LineId,
  ): Take {
    const score = this.score();
    const place = { id: newId('take'), section: section.id, length: score ? sectionTicks(score, section) : 1 };
    const made = draftedTake(
      place,
      { asking, seed, attempts },
      content.of === 'part' ? { of: 'part', part: line, notes: content.notes } : content,
    );
    return made.of === 'part' ? behindLike(made, this.relatives(asking)) : made;
  }

  /** Where something is held of, or varied from, what came of treatments, what is drafted to it lies there too. */
  private relatives(asking: Asking): PartTake[] {
    return relativesIn(asking).flatMap((id) => partTake(this.takes(), id) ?? []);
  }
}

import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import { nextAttempt } from '@fendro/core/compose/stages';
import { printFor } from '@fendro/core/compose/print';
import { sectionTicks, soundingId } from '@fendro/core/song/resolve';
import { LIMITS } from '@fendro/core/song/limits';
import { surplusTakes, unheardTakes } from '@fendro/core/song/prune';
import { inDraftingOrder } from '@fendro/core/song/roles';
import { HARMONY, type LineId, type Section, type Take, type SectionId } from '@fendro/core/song/schema';
import type { DraftRequest } from '@fendro/core/compose/draft';
import { DraftClient, type Refusal } from '../work/draft-client';
import type { FromWorker } from '../work/draft-messages';
import { HarmonyDesk } from './harmony-desk';
import { newId } from '../store/ids';
import { Notices } from '../store/notices';
import {
  selectHeard,
  selectLine,
  selectMusic,
  selectOwnScore,
  selectScore,
  selectSection,
  selectSong,
  selectTakes,
  takesOf,
} from '../store/selectors';
import { ScoreActions, TakeActions } from '../store/song.actions';
import { draftedTake } from '@fendro/core/song/take';
import { requestFor } from '@fendro/core/compose/asking';
import { songLines, withHook, type SongLine } from '@fendro/core/compose/whole-song';

/** Takes drafted at a time; as many as the bench shows at once. */
export const TAKES_AT_A_TIME = 8;
/** Takes of every line where a whole song is drafted: enough to choose from, and there at once. */
const TAKES_OF_A_SONG = 2;

interface Running {
  readonly song: string | null;
  readonly section: SectionId;
  readonly line: LineId;
  readonly cancel: () => void;
}

/** Drafts takes in the worker and adds them to the ledger as they come; the first one is heard. */
@Injectable({ providedIn: 'root' })
export class Drafting {
  private readonly store = inject(Store);
  private readonly client = inject(DraftClient);
  private readonly desk = inject(HarmonyDesk);
  private readonly notices = inject(Notices);
  private readonly score = this.store.selectSignal(selectScore);
  private readonly ownScore = this.store.selectSignal(selectOwnScore);
  private readonly takes = this.store.selectSignal(selectTakes);
  private readonly song = this.store.selectSignal(selectSong);
  private readonly heard = this.store.selectSignal(selectHeard);
  private readonly music = this.store.selectSignal(selectMusic);

  private readonly running = signal<Running | null>(null);
  /** Share of the present work that is done, 0–1. */
  readonly share = signal(0);
  /** What could not be met, by section and line. */
  readonly problem = signal<(Refusal & { readonly section: SectionId; readonly line: LineId }) | null>(null);
  private readonly section = this.store.selectSignal(selectSection);
  private readonly line = this.store.selectSignal(selectLine);
  /** What could not be met of the line in focus. */
  readonly problemInFocus = computed(() => {
    const problem = this.problem();
    return problem && problem.section === this.section()?.id && problem.line === this.line() ? problem : null;
  });
  /** True over all lines of a band, between two of them too. */
  private readonly banding = signal(false);
  readonly busy = computed(() => this.running() !== null || this.banding());
  /** What is being drafted now. */
  readonly now = computed(() => {
    const running = this.running();
    return running ? this.nameOf(running.line) : '';
  });
  /** Share of a whole song that is drafted, 0–1; null while none is. */
  readonly whole = signal<number | null>(null);
  /** Said aloud when work has ended. */
  readonly news = signal('');
  private readonly stopped = signal(false);
  private readonly open = computed(() => this.song().open?.id ?? null);

  constructor() {
    // What runs belongs to the song that asked for it: another one that opens ends it at once.
    effect(() => {
      const open = this.open();
      untracked(() => {
        this.problem.set(null);
        this.news.set('');
        const running = this.running();
        if (running && running.song !== open) running.cancel();
      });
    });
  }

  /** Drafts takes of the line in focus. */
  draftInFocus(): void {
    const section = this.section();
    if (section) void this.draft(section.id, this.line());
  }

  cancel(): void {
    this.stopped.set(true);
    this.running()?.cancel();
  }

  /**
   * Drafts more takes of one line of a section.
   *
   * @param gesture  what the first take of an empty line is one step of undo with
   */
  async draft(section: SectionId, line: LineId, count = TAKES_AT_A_TIME, gesture = gestureNow()): Promise<void> {
    if (this.busy()) return;
    this.stopped.set(false);
    await this.draftLine(section, line, count, gesture);
  }

  /** Drafts every line of a section: the chords first when there are none, then each part to them. */
  async draftBand(section: SectionId, count = TAKES_AT_A_TIME): Promise<void> {
    if (this.busy()) return;
    this.stopped.set(false);
    const found = this.score()?.sections.find(({ id }) => id === section);
    if (!found) return;
    const order = inDraftingOrder(this.score()?.parts ?? []).map(({ id }) => id);
    if (soundingId(found, HARMONY, this.heard()) === null) order.unshift(HARMONY);
    const lines = order.map((line): SongLine => ({ section, line }));
    const gesture = gestureNow();
    await this.draftLines(lines, (line) => this.draftLine(line.section, line.line, count, gesture));
  }

  /**
   * Drafts a whole song of some of its sections: chords and every part, the one that states the hook first; what it
   * begins with is remembered before the others are drafted. First takes of empty lines are one step of undo together.
   *
   * @param gesture  a name for that step
   * @returns whether all of it was drafted
   */
  async draftSong(sections: ReadonlySet<SectionId>, gesture = gestureNow()): Promise<boolean> {
    const score = this.score();
    if (this.busy() || !score) return false;
    this.stopped.set(false);
    const lines = songLines(score, sections);
    const asker = this.open();
    await this.draftLines(lines, async ({ section, line }, index) => {
      this.whole.set(index / lines.length);
      await this.draftLine(section, line, TAKES_OF_A_SONG, gesture);
      if (asker === this.open()) this.rememberHook(section, line, gesture);
    });
    if (asker !== this.open()) return false;
    this.news.set(this.stopped() ? 'Drafting stopped' : 'The song is drafted');
    return !this.stopped();
  }

  /** Drafts one line after another until all are done, it is stopped, or another song opens. */
  private async draftLines(
    lines: readonly SongLine[],
    draft: (line: SongLine, index: number) => Promise<void>,
  ): Promise<void> {
    const asker = this.open();
    this.banding.set(true);
    try {
      for (const [index, line] of lines.entries()) {
        if (this.stopped() || asker !== this.open()) break;
        await draft(line, index);
      }
    } finally {
      this.whole.set(null);
      this.banding.set(false);
    }
  }

  /** What the first melody of a song begins with is remembered, so that its other sections can say it too. */
  private rememberHook(section: SectionId, line: LineId, gesture: string): void {
    const score = this.ownScore();
    const found = score?.sections.find(({ id }) => id === section);
    const take = found ? soundingId(found, line, this.heard()) : null;
    if (!score || take === null) return;
    const hooked = withHook(score, this.takes(), take, newId('motif'));
    if (hooked !== score)
      this.store.dispatch(
        ScoreActions.revised({ name: 'draft the song', score: hooked, takes: [], released: [], gesture }),
      );
  }

  /** @param gesture  first takes of empty lines that come in one gesture are one step of undo */
  private async draftLine(sectionId: SectionId, line: LineId, count: number, gesture: string): Promise<void> {
    const section = this.score()?.sections.find(({ id }) => id === sectionId);
    const request = section ? this.request(section, line) : null;
    if (!section || !request) return;
    this.problem.set(null);
    const before = takesOf(this.takes(), sectionId, line);
    const from = nextAttempt(before.map(({ origin }) => origin));
    const printOf = printFor(request.asking);
    const asker = this.open();
    const made: string[] = [];
    const run = this.client.run(
      { request, from, count, shown: before.map(printOf) },
      {
        take: (answer) => {
          if (asker !== this.open()) return;
          const take = this.takeFrom(answer, request, section, line);
          made.push(take.id);
          this.add(take, made.length === 1, gesture);
        },
        progress: (share) => {
          this.share.set(share);
        },
        refused: (refusal) => {
          if (asker === this.open()) this.problem.set({ ...refusal, section: sectionId, line });
        },
      },
    );
    this.share.set(0);
    this.running.set({ song: asker, section: sectionId, line, cancel: run.cancel });
    await run.done;
    this.running.set(null);
    if (made.length === 0 || asker !== this.open()) return;
    this.news.set(`${made.length} takes drafted for ${this.nameOf(line)}`);
    this.letOldestGo();
  }

  /** The first take of a line that has nothing becomes the song's, else it is heard; the others join the list. */
  private add(take: Take, first: boolean, gesture: string): void {
    const section = this.score()?.sections.find(({ id }) => id === take.section);
    const line = take.of === 'harmony' ? HARMONY : take.part;
    if (first && section && soundingId(section, line, this.heard()) === null) {
      this.desk.adopt(take, gesture);
      return;
    }
    this.store.dispatch(TakeActions.made({ takes: [take] }));
    if (first) this.store.dispatch(TakeActions.heard({ take: take.id, section: take.section, line, at: Date.now() }));
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

  /** Takes of a line that were never heard, chosen or judged. */
  unheard(section: SectionId, line: LineId): string[] {
    const { score, takes, heard } = this.song();
    const own = new Set(takesOf(takes, section, line).map(({ id }) => id));
    return score ? unheardTakes(score, { takes, heard }, this.heard()).filter((id) => own.has(id)) : [];
  }

  /** Lets go of what was drafted for a line and never heard, chosen or judged; it can be brought back at once. */
  clearUnheard(section: SectionId, line: LineId): void {
    const { takes } = this.song();
    const gone = this.unheard(section, line).flatMap((id) => takes[id] ?? []);
    if (gone.length === 0) return;
    const asker = this.open();
    this.store.dispatch(TakeActions.cleared({ takes: gone.map(({ id }) => id) }));
    this.notices.say(
      `${gone.length} unheard ${gone.length === 1 ? 'take was' : 'takes were'} cleared for ${this.nameOf(line)}.`,
      {
        label: 'Bring them back',
        run: () => {
          if (asker === this.open()) this.store.dispatch(TakeActions.made({ takes: gone }));
        },
      },
    );
  }

  private nameOf(line: LineId): string {
    return line === HARMONY ? 'the chords' : (this.score()?.parts.find(({ id }) => id === line)?.name ?? 'the part');
  }

  /** The complete asking, with the takes it listens to. */
  private request(section: Section, line: LineId): DraftRequest | null {
    const music = this.music();
    const seed = this.song().open?.seed;
    return music && seed !== undefined ? requestFor(music, section, line, seed) : null;
  }

  private takeFrom(
    { attempts, content }: Extract<FromWorker, { kind: 'take' }>,
    { asking, seed }: DraftRequest,
    section: Section,
    line: LineId,
  ): Take {
    const score = this.score();
    const place = { id: newId('take'), section: section.id, length: score ? sectionTicks(score, section) : 1 };
    return draftedTake(
      place,
      { asking, seed, attempts },
      content.of === 'part' ? { of: 'part', part: line, notes: content.notes } : content,
    );
  }
}

/** A name for one press of a button. */
const gestureNow = (): string => `draft ${crypto.randomUUID()}`;

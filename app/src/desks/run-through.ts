import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import { requestFor } from '@fendro/core/compose/asking';
import type { DraftRequest } from '@fendro/core/compose/draft';
import { own } from '@fendro/core/song/look-up';
import { sectionOf, soundingId, type Music } from '@fendro/core/song/resolve';
import { inDraftingOrder } from '@fendro/core/song/roles';
import type { LineId, SectionId, TakeId } from '@fendro/core/song/schema';
import { RUN_STEPS, sayStep, type RunStep } from '@fendro/core/sounding/run-steps';
import { Playback } from '../sound/playback';
import { News } from '../store/news';
import { selectBar, selectLine, selectMusic, selectSection, selectSong } from '../store/selectors';
import { SessionActions, sessionFeature } from '../store/session';
import { TakeActions } from '../store/song.actions';
import { DraftRuns } from './draft-runs';
import { StepClock } from './step-clock';

/** Takes of a line that are drafted at a time, and how few are left when more are. */
const [BATCH, FEW] = [4, 2];

/** A take that waits to be heard, and what it was asked for. */
interface Ready {
  readonly take: TakeId;
  readonly asked: string;
}

/** Hands-free audition: another new take every few bars or loops, for one line or the whole band, until it is stopped. */
@Injectable({ providedIn: 'root' })
export class RunThrough {
  private readonly store = inject(Store);
  private readonly playback = inject(Playback);
  private readonly runs = inject(DraftRuns);
  private readonly news = inject(News);
  private readonly music = this.store.selectSignal(selectMusic);
  private readonly song = this.store.selectSignal(selectSong);
  private readonly section = this.store.selectSignal(selectSection);
  private readonly line = this.store.selectSignal(selectLine);
  private readonly bar = this.store.selectSignal(selectBar);
  private readonly looping = this.store.selectSignal(sessionFeature.selectLooping);
  private readonly byItself = this.store.selectSignal(sessionFeature.selectRunning);
  readonly running = computed(() => this.byItself() === 'run-through');
  readonly every = signal<RunStep>(RUN_STEPS[2] as RunStep);
  /** Whether every part gets another take, or the line in focus alone. */
  readonly band = signal(false);
  /** What the line that grows under the heard take shows: since when it has sounded, and for how long, in ms. */
  readonly step = signal<{ readonly since: number; readonly lasts: number } | null>(null);
  /** How many takes came in so far. */
  readonly heard = signal(0);
  /** The section that it goes on in, and its lines. */
  private place: { readonly section: SectionId; readonly lines: readonly LineId[] } | null = null;
  private ready = new Map<LineId, readonly Ready[]>();
  private readonly clock = new StepClock(
    {
      watch: (watcher) => this.playback.watch(watcher),
      loop: () => this.playback.span(),
      bar: this.bar,
      every: () => this.every(),
    },
    {
      begins: (lasts) => {
        this.dropStale();
        this.step.set({ since: performance.now(), lasts });
        void this.draftAhead();
      },
      ends: () => {
        this.next();
      },
      over: () => {
        this.stop();
      },
    },
  );
  /** The lines of which takes come in. */
  readonly lines = computed((): readonly LineId[] => (this.running() ? (this.place?.lines ?? []) : []));

  constructor() {
    // It belongs to the section that it began in.
    effect(() => {
      const section = this.section()?.id;
      untracked(() => {
        if (this.running() && section !== this.place?.section) this.stop();
      });
    });
  }

  toggle(): void {
    if (this.running()) this.stop();
    else this.start();
  }

  private start(): void {
    const [section, music] = [this.section(), this.music()];
    if (!section || !music) return;
    const playing = inDraftingOrder(music.score.parts)
      .map(({ id }) => id)
      .filter((line) => soundingId(section, line, music.heard) !== null);
    this.place = { section: section.id, lines: this.band() ? playing : [this.line()] };
    this.ready = new Map();
    this.heard.set(0);
    this.store.dispatch(SessionActions.runSet({ running: 'run-through' }));
    if (!this.looping()) this.store.dispatch(SessionActions.loopToggled());
    this.news.say(`Run-through: another take every ${sayStep(this.every())}`);
    this.clock.start();
    this.playback.playIfStopped();
    void this.draftAhead();
  }

  stop(): void {
    this.clock.stop();
    this.place = null;
    this.step.set(null);
    if (!this.running()) return;
    this.store.dispatch(SessionActions.runSet({ running: null }));
    this.news.say(`Run-through stopped after ${this.heard()} takes`);
  }

  setEvery(every: RunStep): void {
    this.every.set(every);
    this.clock.again();
  }

  setBand(band: boolean): void {
    this.band.set(band);
    if (!this.running()) return;
    this.stop();
    this.start();
  }

  /** Another take comes in at the next bar line; what is not drafted yet comes a step later. */
  next(): void {
    const place = this.place;
    if (!place) return;
    const band: Record<LineId, TakeId> = {};
    for (const line of place.lines) {
      const [first, ...others] = this.ready.get(line) ?? [];
      if (!first) continue;
      band[line] = first.take;
      this.ready.set(line, others);
    }
    const count = Object.keys(band).length;
    if (count === 0) return;
    this.store.dispatch(TakeActions.bandHeard({ section: place.section, band }));
    this.heard.update((heard) => heard + count);
    void this.draftAhead();
  }

  /** Drafts what will be heard next, so that it is there before the music needs it. */
  private async draftAhead(): Promise<void> {
    const place = this.place;
    if (!place || this.runs.busy() || !this.lacking(place.lines).length) return;
    await this.runs.alone(async () => {
      for (const line of this.lacking(place.lines)) {
        if (this.place !== place || this.runs.wasStopped()) return;
        if ((await this.draft(place.section, line)) > 0 || this.place !== place) continue;
        // Nothing more can be had: what cannot be met, or that all was shown, is told at the line.
        this.stop();
      }
    });
  }

  /** Lines of which too few takes are ready. */
  private lacking(lines: readonly LineId[]): LineId[] {
    return lines.filter((line) => (this.ready.get(line)?.length ?? 0) < (this.band() ? 1 : FEW));
  }

  /** Lets go of what was asked for otherwise than would be now: a word of the brief, a hold or the chords have changed. */
  private dropStale(): void {
    for (const [line, ready] of this.ready) {
      const request = ready.length > 0 ? this.request(line) : null;
      if (request)
        this.ready.set(
          line,
          ready.filter(({ asked }) => asked === askedBy(request)),
        );
    }
  }

  /** What a line is asked for now, beside what will be heard of the others then. */
  private request(line: LineId): DraftRequest | null {
    const [music, place, seed] = [this.music(), this.place, this.song().open?.seed];
    const section = music && place ? sectionOf(music.score, place.section) : undefined;
    if (!music || !place || !section || seed === undefined) return null;
    const coming = Object.fromEntries(
      [...this.ready].flatMap(([other, [first]]) => (first && other !== line ? [[other, first.take]] : [])),
    );
    const then: Music = {
      ...music,
      heard: { ...music.heard, [section.id]: { ...own(music.heard, section.id), ...coming } },
    };
    return requestFor(then, section, line, seed);
  }

  private async draft(id: SectionId, line: LineId): Promise<number> {
    const [score, request] = [this.music()?.score, this.request(line)];
    const section = score ? sectionOf(score, id) : undefined;
    if (!section || !request) return 0;
    const asked = askedBy(request);
    return this.runs.run({
      section,
      line,
      request,
      count: this.band() ? 1 : BATCH,
      take: (take) => {
        this.store.dispatch(TakeActions.made({ takes: [take] }));
        if (this.place) this.ready.set(line, [...(this.ready.get(line) ?? []), { take: take.id, asked }]);
      },
      usedUp: (found) => (found === 0 ? 'The run-through has shown every take that this brief allows.' : null),
    });
  }
}

/** What a request asks for but for its company, which changes with every take that comes in. */
const askedBy = ({ asking: { beside: _beside, ...asking } }: DraftRequest): string => JSON.stringify(asking);

import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import { passNotes } from '@fendro/core/patterns/pass';
import { partTake } from '@fendro/core/song/resolve';
import type { Note } from '@fendro/core/song/schema';
import type { RunStep } from '@fendro/core/sounding/run-steps';
import { LevelMatch, type Pair } from '../sound/level-match';
import { Playback } from '../sound/playback';
import { News } from '../store/news';
import { selectBar, selectLine, selectMusic, selectPart, selectPass, selectSection } from '../store/selectors';
import { SessionActions, sessionFeature } from '../store/session';
import { AuditionDesk } from './audition-desk';
import { StepClock } from './step-clock';
import { TakeView } from './take-view';

const NONE: readonly Note[] = [];

/** Two takes against each other: one drawn over the other, turned round by hand or by itself every few bars. */
@Injectable({ providedIn: 'root' })
export class CompareDesk {
  private readonly store = inject(Store);
  private readonly playback = inject(Playback);
  private readonly audition = inject(AuditionDesk);
  private readonly news = inject(News);
  private readonly view = inject(TakeView);
  private readonly levels = inject(LevelMatch);
  private readonly music = this.store.selectSignal(selectMusic);
  private readonly pass = this.store.selectSignal(selectPass);
  private readonly section = this.store.selectSignal(selectSection);
  private readonly line = this.store.selectSignal(selectLine);
  private readonly part = this.store.selectSignal(selectPart);
  private readonly bar = this.store.selectSignal(selectBar);
  private readonly byItself = this.store.selectSignal(sessionFeature.selectRunning);
  /** True while two takes are compared. */
  readonly on = signal(false);
  /** After how long they are turned round by themselves; null where the hand does it. */
  readonly every = signal<RunStep | null>(null);
  /** The two, the heard one first, in words. */
  readonly pair = computed(() => {
    const [heard, other] = [this.audition.sounding(), this.audition.partner()];
    return heard === null || other === null ? null : { heard: this.view.nameOf(heard), other: this.view.nameOf(other) };
  });
  /** By how much the louder of the two is turned down, in words; empty until both were measured. */
  readonly matched = computed(() => {
    const most = Math.max(0, ...[...this.levels.decibels().values()].map((decibels) => -decibels));
    return this.levels.decibels().size === 0 ? '' : most < 0.5 ? 'equally loud' : `levelled by ${most.toFixed(1)} dB`;
  });
  /** The notes of the one that is not heard. */
  readonly hollow = computed((): readonly Note[] => {
    const [music, section] = [this.music(), this.section()];
    const take = music && this.on() ? partTake(music.takes, this.audition.partner()) : null;
    return music && section && take ? passNotes(music, section, take, this.pass()) : NONE;
  });
  private readonly place = computed(() => `${this.section()?.id ?? ''} ${this.line()}`);
  private readonly clock = new StepClock(
    {
      watch: (watcher) => this.playback.watch(watcher),
      loop: () => this.playback.span(),
      bar: this.bar,
      every: () => this.every() ?? { loops: 1 },
    },
    {
      begins: () => undefined,
      ends: () => {
        this.turn();
      },
      over: () => {
        this.setEvery(null);
      },
    },
  );

  constructor() {
    // The two are heard at the same level for as long as they are compared; which of them is heard changes nothing.
    const pair = computed(
      (): Pair | null => {
        const [section, part] = [this.section(), this.part()];
        const [heard, other] = [this.audition.sounding(), this.audition.partner()];
        if (!this.on() || !section || !part || heard === null || other === null) return null;
        const takes = heard < other ? ([heard, other] as const) : ([other, heard] as const);
        return { section: section.id, part: part.id, takes };
      },
      { equal: (a, b) => JSON.stringify(a) === JSON.stringify(b) },
    );
    effect(() => {
      this.levels.pair.set(pair());
    });
    // It belongs to the line and the section that it began in.
    effect(() => {
      this.place();
      untracked(() => {
        if (this.on()) this.end();
      });
    });
  }

  toggle(): void {
    if (this.on()) this.end();
    else if (this.audition.partner() !== null) {
      this.on.set(true);
      const pair = this.pair();
      if (pair) this.news.say(`Comparing ${pair.heard} with ${pair.other}`);
      this.playback.playIfStopped();
    }
  }

  private end(): void {
    this.setEvery(null);
    this.on.set(false);
  }

  /** Turns the two round by themselves, or no more. */
  setEvery(every: RunStep | null): void {
    this.every.set(every);
    if (every === null) {
      this.clock.stop();
      if (this.byItself() === 'turns') this.store.dispatch(SessionActions.runSet({ running: null }));
      return;
    }
    this.store.dispatch(SessionActions.runSet({ running: 'turns' }));
    this.clock.start();
    this.playback.playIfStopped();
  }

  /** The other of the two is heard. */
  turn(): void {
    const other = this.audition.partner();
    if (other !== null) this.audition.hear(other);
  }
}

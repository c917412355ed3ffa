import { computed, effect, inject, Injectable, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { Playback } from '../sound/playback';
import { selectScore, selectSong } from '../store/selectors';
import { pageMemory } from '../ui/page-memory';

const KEY = 'fendro first minute';

export interface GuideStep {
  readonly title: string;
  readonly text: string;
}

export const GUIDE_STEPS: readonly GuideStep[] = [
  { title: 'Press play', text: 'Space, or the green button above. The section in view loops.' },
  {
    title: 'Try another melody',
    text: 'Press ↓ or click a take in the bench on the right. The song goes on; the new take comes in at the next bar.',
  },
  {
    title: 'Keep what you like',
    text: 'Y keeps the take you hear, Enter makes it the song’s. Nothing you hear is ever lost.',
  },
  { title: 'Hand it over', text: 'Deliver, above on the right, writes MIDI files that any studio program opens.' },
];

/**
 * The first minute, step by step. It watches what is done and moves on by itself; it can be put away and taken up
 * again.
 */
@Injectable({ providedIn: 'root' })
export class Guide {
  private readonly store = inject(Store);
  private readonly playback = inject(Playback);
  private readonly song = this.store.selectSignal(selectSong);
  private readonly score = this.store.selectSignal(selectScore);
  readonly step = signal(this.stored());
  readonly open = computed(() => this.step() >= 0 && this.step() < GUIDE_STEPS.length);
  private heardAtStart: number | null = null;
  private decided: number | null = null;

  constructor() {
    effect(() => {
      if (this.step() === 0 && this.playback.playing()) this.go(1);
    });
    effect(() => {
      const heard = this.song().heard.length;
      if (this.step() !== 1) this.heardAtStart = null;
      else if (this.heardAtStart === null) this.heardAtStart = heard;
      else if (heard > this.heardAtStart) this.go(2);
    });
    effect(() => {
      const decisions =
        this.song().past.filter(({ name }) => name === 'judge a take' || name === 'choose a take').length +
        Object.keys(this.score()?.remarks ?? {}).length;
      if (this.step() !== 2) this.decided = null;
      else if (this.decided === null) this.decided = decisions;
      else if (decisions > this.decided) this.go(3);
    });
  }

  private stored(): number {
    const stored = pageMemory.get(KEY);
    return stored === null ? 0 : Number(stored);
  }

  go(step: number): void {
    this.step.set(step);
    pageMemory.set(KEY, String(step));
  }

  /** Puts it away; the Help page takes it up where it was. */
  dismiss(): void {
    this.go(-1 - Math.max(0, this.step()));
  }

  resume(): void {
    const step = this.step();
    this.go(step < 0 ? -1 - step : step >= GUIDE_STEPS.length ? 0 : step);
  }

  finish(): void {
    if (this.step() >= 0) this.go(GUIDE_STEPS.length);
  }
}

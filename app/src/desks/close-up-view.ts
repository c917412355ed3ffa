import { computed, inject, Injectable, linkedSignal, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { leadOf } from '@fendro/core/song/pick-up';
import type { PartId } from '@fendro/core/song/schema';
import { clamp, type Ticks } from '@fendro/core/theory/units';
import { selectBar, selectSection } from '../store/selectors';
import { TakeEdits } from './take-edits';

/** Where notes snap to, in ticks; 0 lets them lie anywhere. */
export const SNAPS = [
  { value: 480, text: 'quarters' },
  { value: 240, text: 'eighths' },
  { value: 160, text: 'eighth triplets' },
  { value: 120, text: 'sixteenths' },
  { value: 80, text: 'sixteenth triplets' },
  { value: 60, text: 'thirty-seconds' },
  { value: 0, text: 'anywhere' },
] as const;

/** Which rows stand in view. */
export const ROW_CHOICES = ['around the line', 'what is played', 'all notes'] as const;
export type RowChoice = (typeof ROW_CHOICES)[number];

/** What the strip under the notes shows, one at a time. */
const STRIPS = ['loudness', 'chance', 'bend', 'vibrato', 'swell'] as const;
export type Strip = (typeof STRIPS)[number];

interface Stretch {
  readonly from: Ticks;
  readonly to: Ticks;
}

/** What stays free at the left of the notes, in px, so that the first of them is whole. */
export const INSET = 8;

/** The least that the close-up shows: a quarter. */
const CLOSEST: Ticks = 480;
/** Snapped or not, a key moves a note by so much at least: about a hundredth of a second. */
const NUDGE: Ticks = 10;

/** How the close-up is looked at: its stretch of time, its rows, its grid and its strip. */
@Injectable({ providedIn: 'root' })
export class CloseUpView {
  private readonly store = inject(Store);
  private readonly edits = inject(TakeEdits);
  private readonly section = this.store.selectSignal(selectSection);
  private readonly bar = this.store.selectSignal(selectBar);
  readonly snap = signal<Ticks>(120);
  readonly rows = signal<RowChoice>('around the line');
  /** What can be shown: drums are struck, nothing bends them; notes of chords are as loud as they are, no more. */
  readonly strips = computed((): readonly Strip[] => {
    if (this.edits.ofChords()) return ['loudness'];
    return this.edits.player()?.drums ? ['loudness', 'chance'] : STRIPS;
  });
  private readonly wishedStrip = signal<Strip>('loudness');
  readonly strip = computed((): Strip =>
    this.strips().includes(this.wishedStrip()) ? this.wishedStrip() : 'loudness',
  );
  /** Parts whose notes stand behind. */
  readonly behind = signal<readonly PartId[]>([]);
  /** By how much a key moves a note. */
  readonly nudge = computed(() => (this.snap() === 0 ? NUDGE : this.snap()));

  /** All there is to see: the section, with its pick-up where it has one. */
  readonly whole = computed((): Stretch => {
    return { from: 0 - leadOf(this.edits.notes()), to: (this.section()?.bars ?? 1) * this.bar() };
  });
  private readonly wished = linkedSignal<string | undefined, Stretch | null>({
    source: () => this.section()?.id,
    computation: () => null,
  });
  /** The stretch that is in view; all of it until the writer goes closer. */
  readonly stretch = computed((): Stretch => {
    const [whole, wished] = [this.whole(), this.wished()];
    if (!wished) return whole;
    const length = clamp(wished.to - wished.from, Math.min(CLOSEST, whole.to - whole.from), whole.to - whole.from);
    const from = clamp(wished.from, whole.from, whole.to - length);
    return { from, to: from + length };
  });

  /** Goes closer or further, so that a moment stays where it is. */
  zoom(factor: number, around: Ticks): void {
    const { from, to } = this.stretch();
    this.wished.set({ from: around - (around - from) / factor, to: around + (to - around) / factor });
  }

  pan(by: Ticks): void {
    const { from, to } = this.stretch();
    const whole = this.whole();
    const way = clamp(by, whole.from - from, whole.to - to);
    if (way !== 0) this.wished.set({ from: from + way, to: to + way });
  }

  /** Goes along until a stretch of time can be seen. */
  reveal(from: Ticks, to: Ticks): void {
    const view = this.stretch();
    if (from < view.from) this.pan(from - view.from);
    else if (to > view.to) this.pan(Math.min(to - view.to, from - view.from));
  }

  showStrip(strip: Strip): void {
    this.wishedStrip.set(strip);
  }

  toggleBehind(part: PartId): void {
    this.behind.update((parts) => (parts.includes(part) ? parts.filter((other) => other !== part) : [...parts, part]));
  }

  nextSnap(): (typeof SNAPS)[number] {
    const next = SNAPS[(SNAPS.findIndex(({ value }) => value === this.snap()) + 1) % SNAPS.length] ?? SNAPS[0];
    this.snap.set(next.value);
    return next;
  }

  nextRows(): RowChoice {
    const next = ROW_CHOICES[(ROW_CHOICES.indexOf(this.rows()) + 1) % ROW_CHOICES.length] ?? ROW_CHOICES[0];
    this.rows.set(next);
    return next;
  }
}

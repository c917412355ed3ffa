import { computed, inject, Injectable, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { withoutHand } from '@fendro/core/song/chord-hand';
import * as edits from '@fendro/core/song/chord-edit';
import { chordsByThemselves } from '@fendro/core/shaping/chord-notes';
import type { ChordSpan } from '@fendro/core/song/schema';
import { modulo, type Ticks } from '@fendro/core/theory/units';
import { beatsOf } from '@fendro/core/theory/metre';
import { HarmonyDesk } from './harmony-desk';
import { selectBar, selectSection } from '../store/selectors';
import { CHORD_GRIDS, SessionActions, sessionFeature } from '../store/session';

/** What can be done to the chord in focus or the chords of the selected bars, by keys and by buttons alike. */
@Injectable({ providedIn: 'root' })
export class ChordDesk {
  private readonly store = inject(Store);
  private readonly desk = inject(HarmonyDesk);
  private readonly clip = this.store.selectSignal(sessionFeature.selectClip);
  private readonly bars = this.store.selectSignal(sessionFeature.selectBars);
  private readonly chordAt = this.store.selectSignal(sessionFeature.selectChordAt);
  private readonly grid = this.store.selectSignal(sessionFeature.selectGrid);
  private readonly section = this.store.selectSignal(selectSection);
  private readonly bar = this.store.selectSignal(selectBar);
  /** Where the caret stands, over all systems of the sheet. */
  readonly typing = signal<{ readonly at: Ticks; readonly text: string } | null>(null);

  /** One step of the grid; a beat where it is the metre's own. */
  private step(): Ticks {
    return CHORD_GRIDS[this.grid()] || (beatsOf(this.desk.typing().metre)[0]?.length ?? 480);
  }

  private edit(name: string, chords: readonly ChordSpan[], gesture?: string): void {
    this.desk.edit(name, chords, gesture);
  }

  copy(): void {
    this.store.dispatch(
      SessionActions.chordsCopied({ clip: edits.copyChords(this.desk.chords(), this.desk.stretch()) }),
    );
  }

  cut(): void {
    this.copy();
    this.clear();
  }

  paste(at: Ticks = this.bars() ? this.desk.stretch().from : this.chordAt()): void {
    const clip = this.clip();
    if (clip && clip.length > 0)
      this.edit('paste chords', edits.pasteChords(this.desk.chords(), at, clip, this.desk.length()));
  }

  clear(): void {
    this.edit('clear chords', edits.clearChords(this.desk.chords(), this.desk.stretch(), this.desk.length()));
  }

  /** The stretch once more after itself; the selection goes along, so that it can be repeated again. */
  repeat(): void {
    const bars = this.bars();
    this.edit('repeat chords', edits.repeatChords(this.desk.chords(), this.desk.stretch(), this.desk.length()));
    const section = this.section();
    if (bars && section) {
      const size = bars.to - bars.from;
      const from = Math.min(section.bars - 1, bars.to);
      this.store.dispatch(SessionActions.barsSelected({ bars: { from, to: Math.min(section.bars, from + size) } }));
    }
  }

  transpose(by: number): void {
    this.edit('transpose chords', edits.transposeChords(this.desk.chords(), this.desk.stretch(), by, this.desk.key()));
  }

  degree(by: number): void {
    this.edit(
      'move chords along the scale',
      edits.transposeByDegrees(this.desk.chords(), this.desk.stretch(), by, this.desk.key()),
    );
  }

  reverse(): void {
    this.edit('reverse chords', edits.reverseChords(this.desk.chords(), this.desk.stretch(), this.desk.length()));
  }

  /** Cuts at the focused place; where a chord begins there, in its middle on the grid. */
  split(at: Ticks = this.chordAt()): void {
    const span = this.desk.focused();
    if (!span) return;
    const step = this.step();
    const middle = span.start + Math.max(step, Math.round(span.duration / 2 / step) * step);
    this.edit('split a chord', edits.splitChord(this.desk.chords(), at > span.start ? at : middle, this.desk.length()));
  }

  /** One chord of the selected bars, or of the focused chord and the next. */
  join(): void {
    const stretch = this.desk.stretch();
    const next = this.desk.chords().find(({ start }) => start >= stretch.to);
    const to = this.bars() ? stretch.to : next ? next.start + next.duration : stretch.to;
    this.edit('join chords', edits.joinChords(this.desk.chords(), { from: stretch.from, to }, this.desk.length()));
  }

  /** Moves by a step of the grid where the chord in focus begins, or the whole chord. */
  shift(by: 1 | -1, whole: boolean): void {
    const span = this.desk.chords().findLast(({ start }) => start <= this.chordAt());
    if (!span) return;
    const to = span.start + by * this.step();
    const move = whole ? edits.moveChord : edits.moveBoundary;
    const moved = move(this.desk.chords(), span.start, to, this.desk.length());
    this.edit(whole ? 'move a chord' : 'resize a chord', moved);
    if (moved.some(({ start }) => start === to)) this.store.dispatch(SessionActions.chordFocused({ at: to }));
  }

  /** True where some chords of the stretch strike notes that were set one by one. */
  readonly hasHand = computed(() => this.desk.chords().some(({ voicing }) => voicing?.notes !== undefined));

  /** Lets the chords of the stretch strike in their rhythm and voicing again, in place of notes set one by one. */
  byThemselves(): void {
    const stretch = this.bars() ? this.desk.stretch() : { from: 0, to: this.desk.length() };
    const chords = chordsByThemselves(this.desk.chords(), ({ start }) => start >= stretch.from && start < stretch.to);
    this.edit('let chords strike in their rhythm', chords);
  }

  /** The next or the last inversion of the chords in the stretch. */
  invert(by: 1 | -1): void {
    const { from, to } = this.desk.stretch();
    const inverted = this.desk.chords().map((span): ChordSpan => {
      if (!span.chord || span.start < from || span.start >= to) return span;
      const voicing = withoutHand(span.voicing ?? {});
      const inversion = modulo((voicing.inversion ?? 0) + by, span.chord.tones.length);
      return { ...span, voicing: { ...voicing, inversion } };
    });
    this.edit('invert a chord', inverted);
  }
}

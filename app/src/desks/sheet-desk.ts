import { computed, inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import { HARMONY, type LineId } from '@fendro/core/song/schema';
import { Playback } from '../sound/playback';
import { selectBar, selectLine, selectPlaced, selectScore, selectView } from '../store/selectors';
import { SessionActions, sessionFeature, type BarSpan } from '../store/session';

/** Moving about on the sheet: over lines, bars and sections, and selecting bars. */
@Injectable({ providedIn: 'root' })
export class SheetDesk {
  private readonly store = inject(Store);
  private readonly playback = inject(Playback);
  private readonly score = this.store.selectSignal(selectScore);
  private readonly cursor = this.store.selectSignal(sessionFeature.selectCursor);
  private readonly line = this.store.selectSignal(selectLine);
  private readonly view = this.store.selectSignal(selectView);
  private readonly placed = this.store.selectSignal(selectPlaced);
  private readonly bar = this.store.selectSignal(selectBar);
  readonly selected = this.store.selectSignal(sessionFeature.selectBars);
  private readonly chordAt = this.store.selectSignal(sessionFeature.selectChordAt);
  /** The bars that keys mean: the selected ones, else the one that the cursor is on, or the chord in focus. */
  readonly bars = computed((): BarSpan => {
    const [selected, line] = [this.selected(), this.line()];
    if (selected) return selected;
    const bar = line === HARMONY ? Math.floor(this.chordAt() / this.bar()) : this.cursor();
    return { from: bar, to: bar + 1 };
  });
  private readonly lines = computed((): readonly LineId[] => [
    HARMONY,
    ...(this.score()?.parts.map(({ id }) => id) ?? []),
  ]);

  focusLine(line: LineId): void {
    if (line !== this.line()) this.store.dispatch(SessionActions.lineFocused({ line }));
  }

  /** The chords come first, then the parts in the song's order. */
  moveLine(by: 1 | -1): void {
    const lines = this.lines();
    const next = lines[Math.max(0, Math.min(lines.length - 1, lines.indexOf(this.line()) + by))];
    if (next !== undefined) this.focusLine(next);
  }

  /** Puts the cursor on the bar before or after; with `selects`, the selection goes along. */
  moveBar(by: 1 | -1, selects: boolean): void {
    const count = this.view()?.section.bars ?? 1;
    const [before, bars] = [this.cursor(), this.selected()];
    const next = Math.max(0, Math.min(count - 1, before + by));
    this.store.dispatch(SessionActions.cursorMoved({ bar: next }));
    if (!selects) {
      if (bars) this.letSelectionGo();
      return;
    }
    const anchor = bars ? (before === bars.from ? bars.to - 1 : bars.from) : before;
    this.select(anchor, next);
  }

  /** Selects all bars between two, both included. */
  select(from: number, to: number): void {
    const bars = { from: Math.min(from, to), to: Math.max(from, to) + 1 };
    const now = this.selected();
    if (now?.from !== bars.from || now.to !== bars.to) this.store.dispatch(SessionActions.barsSelected({ bars }));
  }

  letSelectionGo(): void {
    this.store.dispatch(SessionActions.barsSelected({ bars: null }));
  }

  moveSection(by: 1 | -1): void {
    const placed = this.placed();
    const place = placed.findIndex(({ occurrence }) => occurrence.id === this.view()?.occurrence.id);
    const next = placed[Math.max(0, Math.min(placed.length - 1, place + by))];
    if (next) this.store.dispatch(SessionActions.occurrenceViewed({ occurrence: next.occurrence.id }));
  }

  /** From the selected bars on, else from the bar that the cursor is on. */
  playFromHere(): void {
    const view = this.view();
    const [bars, cursor] = [this.selected(), this.cursor()];
    if (view) void this.playback.play(view.start + (bars?.from ?? cursor) * this.bar());
  }
}

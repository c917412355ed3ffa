import {
  ApplicationRef,
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  input,
  signal,
} from '@angular/core';
import { Store } from '@ngrx/store';
import { moveBoundary, moveChord, spanText } from '@fendro/core/song/chord-edit';
import { typeChords, typedProblem } from '@fendro/core/song/chord-typing';
import { heldBars, holdsOf } from '@fendro/core/song/holds';
import { HARMONY, type ChordSpan } from '@fendro/core/song/schema';
import { beatsOf } from '@fendro/core/theory/metre';
import type { Ticks } from '@fendro/core/theory/units';
import { HarmonyDesk } from '../desks/harmony-desk';
import { selectBar, selectSection, selectLine } from '../store/selectors';
import { CHORD_GRIDS, SessionActions, sessionFeature } from '../store/session';
import { ChordSymbol } from '../ui/chord-symbol';
import { percentIn, type System } from './bar-geometry';
import { tickUnder } from '../ui/time-scale';
import { ChordDesk } from '../desks/chord-desk';

interface Cell {
  readonly at: Ticks;
  readonly opensBar: boolean;
  readonly span: ChordSpan | undefined;
  readonly held: boolean;
  readonly left: number;
  readonly width: number;
  readonly label: string;
}

/** The chord line over one system: a cell at every place of the grid, each takes typing. */
@Component({
  selector: 'fd-chord-row',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChordSymbol],
  templateUrl: './chord-row.html',
  styleUrl: './chord-row.scss',
})
export class ChordRow {
  private readonly store = inject(Store);
  private readonly desk = inject(HarmonyDesk);
  private readonly edits = inject(ChordDesk);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  readonly system = input.required<System>();
  private readonly chordAt = this.store.selectSignal(sessionFeature.selectChordAt);
  private readonly grid = this.store.selectSignal(sessionFeature.selectGrid);
  private readonly bars = this.store.selectSignal(sessionFeature.selectBars);
  private readonly line = this.store.selectSignal(selectLine);
  private readonly bar = this.store.selectSignal(selectBar);
  private readonly section = this.store.selectSignal(selectSection);
  private readonly application = inject(ApplicationRef);
  protected readonly typing = this.edits.typing;
  /** What the text may have meant, the next one to be put in first. */
  private offers: readonly string[] = [];
  protected readonly problem = signal<{ reason: string; nearest: readonly string[] } | null>(null);
  /** A chord on its way to another place. */
  protected readonly sliding = signal<{ readonly span: ChordSpan; readonly to: Ticks; readonly whole: boolean } | null>(
    null,
  );

  protected readonly percent = computed(() => percentIn(this.system()));

  protected readonly tabStop = computed(() => {
    const chordAt = this.chordAt();
    return this.cells().findLast(({ at }) => at <= chordAt)?.at ?? this.system().from;
  });

  /** The step of the grid; the beat of the metre where none is set. */
  private readonly places = computed((): readonly { at: Ticks; beat: number; within: Ticks }[] => {
    const beats = beatsOf(this.desk.typing().metre);
    const step = CHORD_GRIDS[this.grid()];
    if (step === 0) return beats.map(({ at }, beat) => ({ at, beat, within: 0 }));
    return beats.flatMap(({ at, length }, beat) =>
      Array.from({ length: Math.max(1, Math.round(length / step)) }, (_, index) => ({
        at: at + index * step,
        beat,
        within: index * step,
      })),
    );
  });

  protected readonly cells = computed((): Cell[] => {
    const bar = this.bar();
    const { from, firstBar, bars } = this.system();
    const percent = percentIn(this.system());
    const chords = this.desk.chords();
    const places = this.places();
    const section = this.section();
    const held = heldBars(section ? holdsOf(section, HARMONY) : []);
    return Array.from({ length: bars }, (_, index) => index).flatMap((inSystem) =>
      places.map(({ at: inBar, beat, within }, index): Cell => {
        const at = from + inSystem * bar + inBar;
        const end = from + inSystem * bar + (places[index + 1]?.at ?? bar);
        // A chord between places of the grid is shown in the cell that it falls into.
        const span = chords.find(({ start }) => start === at) ?? chords.find(({ start }) => start > at && start < end);
        const said = span
          ? span.unread
            ? `${span.unread}, cannot be read`
            : span.chord
              ? spanText(span)
              : 'no chord'
          : 'empty';
        const place = within === 0 ? `beat ${beat + 1}` : `beat ${beat + 1} and ${within} ticks`;
        const isHeld = held.has(firstBar + inSystem);
        return {
          at,
          opensBar: inBar === 0,
          span,
          held: isHeld,
          left: percent(at),
          width: percent(end) - percent(at),
          label: `Bar ${firstBar + inSystem + 1} ${place}, ${said}${isHeld && span ? ', held' : ''}`,
        };
      }),
    );
  });

  protected isFocused(cell: Cell): boolean {
    return (
      this.line() === HARMONY &&
      cell.span !== undefined &&
      this.desk.focused()?.start === cell.span.start &&
      this.bars() === null
    );
  }

  /** True from a press of the mouse on: the focus that it brings is not the writer's choice yet, the click is. */
  protected pressed = false;

  /** By keys. Showing at a press what belongs to chords would move the sheet from under the mouse before its click. */
  protected arrive(at: Ticks): void {
    if (!this.pressed) this.focus(at);
  }

  private focus(at: Ticks): void {
    if (this.line() !== HARMONY) this.store.dispatch(SessionActions.lineFocused({ line: HARMONY }));
    if (this.chordAt() !== at) this.store.dispatch(SessionActions.chordFocused({ at }));
  }

  protected open(at: Ticks): void {
    this.pressed = false;
    this.focus(at);
    const span = this.desk.chords().find(({ start }) => start === at);
    const text = span ? spanText(span) : '';
    this.typing.set({ at, text });
    this.check(text);
    // The caret is there before the next key comes: quick typing must lose no letter.
    this.application.tick();
    const caret = document.querySelector<HTMLInputElement>('.caret');
    caret?.focus();
    caret?.select();
  }

  /** Says while typing what could not be read; several chords at once are judged one by one. */
  protected check(text: string): void {
    this.problem.set(typedProblem(text, this.desk.typing()));
    this.offers = this.problem()?.nearest ?? [];
  }

  protected moveKey(event: KeyboardEvent, at: Ticks): void {
    const arrow = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
    if (arrow === 0 || event.altKey || event.shiftKey || event.ctrlKey || event.metaKey) return;
    this.focusCell(at, arrow);
    event.preventDefault();
    event.stopPropagation();
  }

  /** All chord cells of the sheet in order, over every system. */
  private focusCell(at: Ticks, by: 1 | -1, opens = false): void {
    const sheet = this.host.nativeElement.closest('[data-region]');
    const cells = [...(sheet?.querySelectorAll<HTMLElement>('.symbol') ?? [])].sort(
      (a, b) => Number(a.dataset['at']) - Number(b.dataset['at']),
    );
    const next =
      by > 0
        ? cells.find((cell) => Number(cell.dataset['at']) > at)
        : cells.findLast((cell) => Number(cell.dataset['at']) < at);
    if (opens && next) this.open(Number(next.dataset['at']));
    else if (next) next.focus();
    else cells.at(by > 0 ? -1 : 0)?.focus();
  }

  protected typeKey(event: KeyboardEvent): void {
    const typing = this.typing();
    const input = event.target as HTMLInputElement;
    event.stopPropagation();
    if (!typing) return;
    if (event.key === 'Escape') {
      this.close();
      this.application.tick();
      document.querySelector<HTMLElement>(`[data-at="${typing.at}"]`)?.focus();
      return;
    }
    if (event.key === 'ArrowDown' && this.offers.length > 0) {
      event.preventDefault();
      this.offerNext(input);
      return;
    }
    if (event.key !== 'Enter' && event.key !== 'Tab') return;
    event.preventDefault();
    const bars = input.value
      .trim()
      .replace(/^\||\|$/g, '')
      .split('|').length;
    this.commit(typing.at, input.value);
    // Enter goes on to the bar after what was typed, Tab to the next place.
    const bar = this.bar();
    const before = event.key === 'Enter' ? (Math.floor(typing.at / bar) + bars) * bar - 1 : typing.at;
    this.focusCell(event.shiftKey ? typing.at : before, event.shiftKey ? -1 : 1, true);
  }

  /** Puts the nearest reading in place of what cannot be read, again the one after it. */
  private offerNext(input: HTMLInputElement): void {
    const [offer, ...others] = this.offers;
    if (offer === undefined) return;
    input.value = offer;
    this.problem.set(null);
    this.offers = [...others, offer];
  }

  /** A click elsewhere takes what was typed; a caret that has moved on has been taken already. */
  protected leave(event: FocusEvent, at: Ticks): void {
    const typing = this.typing();
    if (typing?.at === at) this.commit(typing.at, (event.target as HTMLInputElement).value);
  }

  private close(): void {
    this.typing.set(null);
    this.problem.set(null);
  }

  private commit(at: Ticks, text: string): void {
    const old = this.desk.chords().find(({ start }) => start === at);
    const unchanged = old ? text.trim() === spanText(old) : text.trim() === '';
    this.close();
    if (!unchanged) this.desk.edit('type a chord', typeChords(this.desk.chords(), at, text, this.desk.typing()));
  }

  protected grip(event: PointerEvent, span: ChordSpan): void {
    event.preventDefault();
    event.stopPropagation();
    (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
    this.sliding.set({ span, to: span.start, whole: event.altKey });
  }

  protected slide(event: PointerEvent): void {
    const sliding = this.sliding();
    const row = this.host.nativeElement.querySelector('.row');
    if (!sliding || !row) return;
    const { from, room } = this.system();
    const tick = tickUnder(event, row.getBoundingClientRect(), from, from + room);
    const nearest = this.cells().reduce(
      (best, { at }) => (Math.abs(at - tick) < Math.abs(best - tick) ? at : best),
      sliding.span.start,
    );
    if (nearest !== sliding.to) this.sliding.set({ ...sliding, to: nearest });
  }

  protected drop(event: PointerEvent): void {
    const sliding = this.sliding();
    this.sliding.set(null);
    event.stopPropagation();
    if (!sliding || sliding.to === sliding.span.start) return;
    const edit = sliding.whole ? moveChord : moveBoundary;
    this.desk.edit(
      sliding.whole ? 'move a chord' : 'resize a chord',
      edit(this.desk.chords(), sliding.span.start, sliding.to, this.desk.length()),
    );
  }
}

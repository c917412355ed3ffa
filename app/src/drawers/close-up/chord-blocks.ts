import {
  ApplicationRef,
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  signal,
  viewChild,
} from '@angular/core';
import { Store } from '@ngrx/store';
import { moveBoundary, moveChord, pasteChords, spanText } from '@fendro/core/song/chord-edit';
import { typeChords, typedProblem } from '@fendro/core/song/chord-typing';
import type { ChordSpan } from '@fendro/core/song/schema';
import type { Ticks } from '@fendro/core/theory/units';
import { CloseUpView, INSET } from '../../desks/close-up-view';
import { HarmonyDesk } from '../../desks/harmony-desk';
import { News } from '../../store/news';
import { selectBar } from '../../store/selectors';
import { SessionActions, sessionFeature } from '../../store/session';
import { hostSize } from '../../ui/canvas';
import { ChordSymbol } from '../../ui/chord-symbol';
import { timeScale } from '../../ui/time-scale';

interface Block {
  readonly span: ChordSpan;
  readonly left: number;
  readonly width: number;
  readonly label: string;
}

/** What a drag does with a block: the whole of it goes along, or its end. */
interface Drag {
  readonly span: ChordSpan;
  readonly of: 'all' | 'end';
  readonly x: number;
  /** How far the pointer has gone, in ticks, snapped; null until it has gone far enough to mean a drag. */
  readonly by: Ticks | null;
  readonly copy: boolean;
}

/** How far a pointer goes before it drags, in px. */
const DRAGS_AFTER = 3;

/**
 * The chords of the section as blocks over their notes: moved, copied, stretched, typed anew, and by the keys of the chord
 * row split, joined, inverted and cleared.
 */
@Component({
  selector: 'fd-chord-blocks',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChordSymbol],
  template: `
    <div class="row" role="listbox" aria-label="Chords as blocks" aria-orientation="horizontal" data-keys="chords">
      @for (block of blocks(); track $index) {
        @if (typing() === block.span.start) {
          <input
            #caret
            class="caret"
            aria-label="Chord"
            autocapitalize="off"
            autocomplete="off"
            spellcheck="false"
            [style.left.px]="block.left"
            [style.width.px]="block.width"
            [value]="textOf(block.span)"
            [attr.aria-invalid]="wrong()"
            (input)="wrong.set(!readable(caret.value))"
            (keydown)="typeKey($event, block.span, caret.value)"
            (blur)="commit(block.span, caret.value)"
          />
        } @else {
          <div
            class="block"
            role="option"
            [attr.aria-selected]="block.span.start === now()"
            [attr.aria-label]="block.label"
            [class.unread]="block.span.unread"
            [style.left.px]="block.left"
            [style.width.px]="block.width"
            [tabindex]="block.span.start === now() ? 0 : -1"
            (focus)="arrive(block.span)"
            (keydown)="key($event, $index)"
            (dblclick)="type(block.span)"
            (pointerdown)="press($event, block.span, 'all')"
            (pointermove)="move($event)"
            (pointerup)="drop()"
            (pointercancel)="drag.set(null)"
          >
            @if (block.span.unread; as text) {
              {{ text }}
            } @else {
              <fd-chord-symbol [chord]="block.span.chord" />
            }
            @if (!$last) {
              <span
                class="end"
                aria-hidden="true"
                title="Drag: how long it lasts"
                (pointerdown)="press($event, block.span, 'end')"
              ></span>
            }
          </div>
        }
      }
    </div>
  `,
  styleUrl: './chord-blocks.scss',
})
export class ChordBlocks {
  private readonly store = inject(Store);
  private readonly desk = inject(HarmonyDesk);
  private readonly view = inject(CloseUpView);
  private readonly news = inject(News);
  private readonly application = inject(ApplicationRef);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly bar = this.store.selectSignal(selectBar);
  private readonly chordAt = this.store.selectSignal(sessionFeature.selectChordAt);
  private readonly size = hostSize();
  private readonly caret = viewChild<ElementRef<HTMLInputElement>>('caret');
  /** Where a chord is typed anew. */
  protected readonly typing = signal<Ticks | null>(null);
  protected readonly wrong = signal(false);
  protected readonly drag = signal<Drag | null>(null);
  protected readonly textOf = spanText;
  protected readonly now = computed(() => this.desk.chords().findLast(({ start }) => start <= this.chordAt())?.start);
  private readonly x = computed(() => {
    const { from, to } = this.view.stretch();
    return timeScale(from, to, Math.max(1, this.size().width), INSET);
  });

  /** The chords as a drag would leave them. */
  private readonly shown = computed((): readonly ChordSpan[] => {
    const [chords, drag] = [this.desk.chords(), this.drag()];
    return drag?.by ? this.dragged(drag.by, drag) : chords;
  });

  protected readonly blocks = computed((): readonly Block[] => {
    const [x, bar] = [this.x(), this.bar()];
    return this.shown().map((span): Block => {
      const [left, right] = [x(span.start), x(span.start + span.duration)];
      const said = span.unread ? `${span.unread}, cannot be read` : spanText(span);
      const from = Math.floor(span.start / bar) + 1;
      const length = Math.round((100 * span.duration) / bar) / 100;
      return {
        span,
        left,
        width: Math.max(4, right - left - 2),
        label: `${said}, from bar ${from}, ${length} ${length === 1 ? 'bar' : 'bars'}`,
      };
    });
  });

  private dragged(by: Ticks, { span, of, copy }: Drag): ChordSpan[] {
    const [chords, length] = [this.desk.chords(), this.desk.length()];
    const end = span.start + span.duration;
    if (of === 'end') return moveBoundary(chords, end, end + by, length);
    const to = span.start + by;
    if (!copy) return moveChord(chords, span.start, to, length);
    if (to < 0 || to >= length) return [...chords];
    const clip = [{ ...span, start: 0, duration: Math.min(span.duration, length - to) }];
    return pasteChords(chords, to, clip, length);
  }

  protected arrive({ start }: ChordSpan): void {
    if (this.chordAt() !== start) this.store.dispatch(SessionActions.chordFocused({ at: start }));
  }

  protected press(event: PointerEvent, span: ChordSpan, of: Drag['of']): void {
    if (event.button !== 0) return;
    event.stopPropagation();
    const block = (event.currentTarget as HTMLElement).closest<HTMLElement>('.block');
    block?.setPointerCapture(event.pointerId);
    this.drag.set({ span, of, x: event.clientX, by: null, copy: event.altKey });
  }

  protected move({ clientX, altKey }: PointerEvent): void {
    const drag = this.drag();
    if (!drag || (drag.by === null && Math.abs(clientX - drag.x) < DRAGS_AFTER)) return;
    const x = this.x();
    const snap = this.view.snap() || 1;
    const by = Math.round((x.invert(clientX) - x.invert(drag.x)) / snap) * snap;
    this.drag.set({ ...drag, by, copy: altKey });
  }

  protected drop(): void {
    const drag = this.drag();
    this.drag.set(null);
    if (!drag?.by) return;
    const name = drag.of === 'end' ? 'resize a chord' : drag.copy ? 'copy a chord' : 'move a chord';
    const chords = this.dragged(drag.by, drag);
    this.desk.edit(name, chords);
    const at = drag.of === 'end' ? drag.span.start : drag.span.start + drag.by;
    if (chords.some(({ start }) => start === at)) this.store.dispatch(SessionActions.chordFocused({ at }));
  }

  protected key(event: KeyboardEvent, index: number): void {
    if (event.altKey || event.ctrlKey || event.metaKey || event.shiftKey) return;
    const chords = this.desk.chords();
    if (event.key === 'Enter') this.type(chords[index]);
    else if (event.key === 'ArrowLeft' || event.key === 'ArrowRight') {
      const next = index + (event.key === 'ArrowRight' ? 1 : -1);
      this.host.nativeElement.querySelectorAll<HTMLElement>('.block')[next]?.focus();
    } else return;
    event.preventDefault();
    event.stopPropagation();
  }

  protected type(span: ChordSpan | undefined): void {
    if (!span) return;
    this.arrive(span);
    this.wrong.set(false);
    this.typing.set(span.start);
    // The caret is there before the next key comes: quick typing must lose no letter.
    this.application.tick();
    const caret = this.caret()?.nativeElement;
    caret?.focus();
    caret?.select();
  }

  protected readonly readable = (text: string): boolean => typedProblem(text, this.desk.typing()) === null;

  protected typeKey(event: KeyboardEvent, span: ChordSpan, text: string): void {
    event.stopPropagation();
    if (event.key === 'Escape') this.typing.set(null);
    else if (event.key === 'Enter') this.commit(span, text);
    else return;
    event.preventDefault();
    // The block that takes its place has the focus again.
    this.application.tick();
    this.host.nativeElement.querySelector<HTMLElement>('[aria-selected="true"]')?.focus();
  }

  protected commit(span: ChordSpan, text: string): void {
    if (this.typing() !== span.start) return;
    this.typing.set(null);
    if (text.trim() === spanText(span)) return;
    const problem = typedProblem(text, this.desk.typing());
    if (problem) this.news.say(problem.reason);
    this.desk.edit('type a chord', typeChords(this.desk.chords(), span.start, text, this.desk.typing()));
  }
}

import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  input,
  signal,
  viewChild,
} from '@angular/core';
import { Store } from '@ngrx/store';
import type { Note } from '@fendro/core/song/schema';
import { type Ids, type Notes } from '@fendro/core/shaping/room';
import { clamp } from '@fendro/core/theory/units';
import { CloseUpDesk } from '../../desks/close-up-desk';
import { CloseUpView, INSET } from '../../desks/close-up-view';
import { NotesDesk } from '../../desks/notes-desk';
import { Playback } from '../../sound/playback';
import type { Position } from '../../sound/position-watch';
import { selectView } from '../../store/selectors';
import { SessionActions } from '../../store/session';
import { hostSize, penOf } from '../../ui/canvas';
import { inPictures } from '../../ui/in-pictures';
import { MovingMark } from '../../ui/moving-mark';
import { Theme, tokensAt } from '../../ui/theme';
import { timeScale } from '../../ui/time-scale';
import { beginsAt, boxed, dragged, nameOf, repitched, type Grip, type Spot } from './gesture';
import { hitAt } from './hit';
import { paintGround, paintHand, type Picture } from './paint';
import type { Rows } from './row-layout';

/** What the surface is given to draw: all that does not depend on its size and its pointer. */
export type Shown = Omit<
  Picture,
  'rows' | 'open' | 'x' | 'box' | 'from' | 'to' | 'snap' | 'picked' | 'cursor' | 'dragged'
>;

interface Drag {
  readonly grip: Grip;
  readonly from: Spot;
  readonly x: number;
  readonly y: number;
  /** False until the pointer has gone far enough to mean a drag. */
  readonly moved: boolean;
  readonly to: Spot;
  readonly copy: boolean;
  readonly free: boolean;
}

const NOBODY: Ids = new Set();
/** How far a pointer goes before it drags, in px. */
const DRAGS_AFTER = 3;
const ZOOM_A_NOTCH = 1.25;

/** The notes of the close-up, drawn on a canvas; pointer and wheel. */
@Component({
  selector: 'fd-close-up-surface',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(keydown.escape)': 'escape($event)' },
  template: `
    <canvas #ground aria-hidden="true" [style.height.px]="rows().height"></canvas>
    <canvas
      #hand
      class="hand"
      aria-hidden="true"
      [style.height.px]="rows().height"
      [style.cursor]="cursorStyle()"
      (pointerdown)="press($event)"
      (pointermove)="move($event)"
      (pointerup)="release()"
      (pointercancel)="cancel()"
      (pointerleave)="under.set(null)"
      (dblclick)="add($event)"
      (wheel)="wheel($event)"
    ></canvas>
    <div #head class="head" hidden></div>
  `,
  styleUrl: '../../ui/moving-mark.scss',
  styles: `
    :host {
      display: block;
      position: relative;
      overflow: hidden;
    }
    canvas {
      display: block;
      width: 100%;
      touch-action: pan-y;
    }
    .hand {
      position: absolute;
      inset: 0 0 auto;
    }
  `,
})
export class CloseUpSurface {
  private readonly store = inject(Store);
  private readonly desk = inject(CloseUpDesk);
  private readonly view = inject(CloseUpView);
  private readonly picks = inject(NotesDesk);
  private readonly playback = inject(Playback);
  private readonly theme = inject(Theme);
  private readonly place = this.store.selectSignal(selectView);
  readonly shown = input.required<Shown>();
  readonly rows = input.required<Rows>();

  private readonly ground = viewChild.required<ElementRef<HTMLCanvasElement>>('ground');
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('hand');
  private readonly head = viewChild.required<ElementRef<HTMLElement>>('head');
  private readonly mark = computed(() => new MovingMark(this.head().nativeElement));
  private readonly size = hostSize();
  private readonly width = computed(() => this.size().width);
  /** Where the pointer is, while it presses nothing. */
  protected readonly under = signal<{ readonly spot: Spot; readonly grip: Grip } | null>(null);
  private readonly drag = signal<Drag | null>(null);
  private readonly x = computed(() => {
    const { from, to } = this.view.stretch();
    return timeScale(from, to, Math.max(1, this.width()), INSET);
  });

  /** The notes as a drag would leave them. */
  private readonly preview = computed((): { readonly notes: Notes; readonly picked: Ids } => {
    const [notes, drag, room] = [this.shown().notes, this.drag(), this.desk.room()];
    const plain = { notes, picked: this.desk.ids() };
    if (!drag?.moved || !room) return plain;
    const { grip, from, to, copy, free } = drag;
    if (grip.of === 'nothing') return { notes, picked: boxed(notes, grip, from, to) };
    return dragged(notes, grip, from, to, { copy, snap: free ? 0 : this.view.snap() }, room) ?? plain;
  });

  private readonly box = computed((): Picture['box'] => {
    const drag = this.drag();
    if (!drag?.moved || drag.grip.of !== 'nothing') return null;
    const [a, b] = [this.rows().of(drag.from.pitch), this.rows().of(drag.to.pitch)];
    if (!a || !b) return null;
    const [left, right] = [this.x()(drag.from.at), this.x()(drag.to.at)].sort((one, other) => one - other) as [
      number,
      number,
    ];
    const [top, bottom] = [Math.min(a.top, b.top), Math.max(a.top + a.height, b.top + b.height)];
    return { left, top, width: right - left, height: bottom - top };
  });

  /** The notes that a drag takes along, the same set all along. */
  private readonly dragged = computed((): Ids => {
    const drag = this.drag();
    return drag?.moved && drag.grip.of === 'notes' && !drag.copy ? drag.grip.ids : NOBODY;
  });

  /** What stays while the pointer moves. */
  private readonly still = computed((): Omit<Picture, 'picked' | 'cursor' | 'open' | 'box'> => {
    const { from, to } = this.view.stretch();
    return {
      ...this.shown(),
      dragged: this.dragged(),
      rows: this.rows(),
      x: this.x(),
      from,
      to,
      snap: this.view.snap(),
    };
  });

  private readonly picture = computed((): Picture => {
    const [still, under, box] = [this.still(), this.under(), this.box()];
    const open = this.drag() ? null : under && this.rows().of(under.spot.pitch);
    return { ...still, picked: this.preview().picked, cursor: this.picks.cursor(), open: open ?? null, box };
  });

  protected readonly cursorStyle = computed(() => {
    const grip = this.drag()?.grip ?? this.under()?.grip;
    if (grip?.of !== 'notes') return 'crosshair';
    return grip.part === 'body' ? 'grab' : 'ew-resize';
  });

  constructor() {
    const destroyed = inject(DestroyRef);
    afterNextRender(() => {
      destroyed.onDestroy(
        this.playback.watch((position) => {
          this.moveHead(position);
        }),
      );
    });
    const ground = inPictures(() => {
      this.drawGround();
    });
    const hand = inPictures(() => {
      this.drawHand();
    });
    effect(() => {
      this.still();
      this.theme.name();
      this.width();
      ground.ask();
    });
    effect(() => {
      this.picture();
      this.preview();
      this.theme.name();
      this.width();
      hand.ask();
    });
    destroyed.onDestroy(() => {
      ground.forget();
      hand.forget();
    });
  }

  /** How large both canvases are. */
  private readonly canvasSize = computed(() => ({ width: this.width(), height: this.rows().height }));

  private drawGround(): void {
    const pen = penOf(this.ground().nativeElement, this.canvasSize());
    if (!pen) return;
    const picture = { ...this.still(), picked: NOBODY, cursor: null, open: null, box: null };
    paintGround(pen, tokensAt(this.ground().nativeElement), picture, this.width());
  }

  private drawHand(): void {
    const pen = penOf(this.canvas().nativeElement, this.canvasSize());
    if (!pen) return;
    const drag = this.drag();
    const { notes, picked } = this.preview();
    const moved = drag?.moved && drag.grip.of === 'notes' ? notes.filter(({ id }) => picked.has(id)) : [];
    paintHand(pen, tokensAt(this.canvas().nativeElement), this.picture(), moved);
  }

  private moveHead(position: Position | null): void {
    const [place, { from, to }] = [this.place(), this.view.stretch()];
    const at = position && place ? position.tick - place.start : Number.NaN;
    if (!position || !(at >= from && at < to)) {
      this.mark().hide();
      return;
    }
    const way = { from: INSET, to: this.width(), top: 0, height: this.rows().height };
    this.mark().show(way, (at - from) / (to - from), (to - from) / position.speed);
  }

  private spotAt({ clientX, clientY }: MouseEvent): Spot {
    const frame = this.canvas().nativeElement.getBoundingClientRect();
    const { from, to } = this.view.stretch();
    const row = this.rows().at(clamp(clientY - frame.top, 0, Math.max(0, this.rows().height - 1)));
    return { at: clamp(this.x().invert(clientX - frame.left), from, to), pitch: row?.pitch ?? 60 };
  }

  /** What a press at a place would take hold of. */
  private gripAt(event: MouseEvent): Grip {
    const frame = this.canvas().nativeElement.getBoundingClientRect();
    const [left, top] = [event.clientX - frame.left, event.clientY - frame.top];
    const { notes, drums } = this.shown();
    const hit = hitAt({ notes, drums, rows: this.rows(), x: this.x() }, left, top);
    const ids = this.desk.ids();
    if (!hit) return { of: 'nothing', kept: event.shiftKey ? ids : NOBODY };
    const { note, part } = hit;
    return { of: 'notes', part, note: note.id, ids: ids.has(note.id) ? ids : new Set([note.id]) };
  }

  protected press(event: PointerEvent): void {
    if (event.button !== 0) return;
    const from = this.spotAt(event);
    const grip = this.gripAt(event);
    const { copy, free } = meaningOf(event);
    this.canvas().nativeElement.setPointerCapture(event.pointerId);
    if (grip.of === 'notes') {
      if (event.shiftKey) {
        this.picks.pick(grip.note, true);
        return;
      }
      if (!this.desk.ids().has(grip.note)) this.picks.pick(grip.note, false);
      const note = this.shown().notes.find(({ id }) => id === grip.note);
      if (note) this.desk.sound([note]);
    }
    this.drag.set({ grip, from, to: from, x: event.clientX, y: event.clientY, moved: false, copy, free });
  }

  protected move(event: PointerEvent): void {
    const drag = this.drag();
    const to = this.spotAt(event);
    if (!drag) {
      this.under.set({ spot: to, grip: this.gripAt(event) });
      return;
    }
    const far = Math.max(Math.abs(event.clientX - drag.x), Math.abs(event.clientY - drag.y)) >= DRAGS_AFTER;
    const before = this.preview().notes;
    this.drag.set({ ...drag, to, moved: drag.moved || far, ...meaningOf(event) });
    const heard = drag.grip.of === 'notes' && to.pitch !== drag.to.pitch ? repitched(before, this.preview().notes) : [];
    if (heard.length > 0) this.desk.sound(heard);
  }

  protected release(): void {
    const drag = this.drag();
    const { picked } = this.preview();
    this.drag.set(null);
    if (!drag) return;
    const { grip, from, to, copy, free, moved } = drag;
    if (grip.of === 'nothing') {
      if (moved) this.picks.pickAll(picked);
      else this.goTo(from);
      return;
    }
    if (moved)
      this.desk.commit({ name: nameOf(grip, copy) }, (notes, room) =>
        dragged(notes, grip, from, to, { copy, snap: free ? 0 : this.view.snap() }, room),
      );
    else if (grip.ids.size > 1) this.picks.pick(grip.note, false);
  }

  /** A press on nothing lets go of what was picked, and goes to the bar. */
  private goTo({ at }: Spot): void {
    this.picks.letGo();
    const bar = Math.max(0, Math.floor(at / this.shown().bar));
    this.store.dispatch(SessionActions.cursorMoved({ bar }));
  }

  /** Lets go of a drag; everything stays as it was. */
  protected cancel(): void {
    this.drag.set(null);
  }

  protected escape(event: Event): void {
    if (!this.drag()) return;
    event.preventDefault();
    event.stopPropagation();
    this.cancel();
  }

  protected add(event: MouseEvent): void {
    const spot = this.spotAt(event);
    if (this.gripAt(event).of === 'notes') return;
    const snap = this.view.snap();
    const near = this.shown().notes.findLast(({ start }) => start <= spot.at) ?? this.shown().notes[0];
    const note: Note = {
      start: beginsAt(spot.at, snap),
      duration: snap === 0 ? 120 : snap,
      pitch: spot.pitch,
      velocity: near?.velocity ?? 84,
    };
    this.desk.add(note);
    this.desk.sound([note]);
  }

  /** With Ctrl closer and further, with Shift or sideways along. */
  protected wheel(event: WheelEvent): void {
    const along = event.shiftKey ? event.deltaY || event.deltaX : event.deltaX;
    if (event.ctrlKey || event.metaKey)
      this.view.zoom(event.deltaY < 0 ? ZOOM_A_NOTCH : 1 / ZOOM_A_NOTCH, this.spotAt(event).at);
    else if (Math.abs(along) > 0 && (event.shiftKey || Math.abs(event.deltaX) > Math.abs(event.deltaY)))
      this.view.pan(this.x().invert(along) - this.x().invert(0));
    else return;
    event.preventDefault();
  }
}

/** With Alt a drag copies, with Ctrl or Cmd it goes beside the grid. */
const meaningOf = ({ altKey, ctrlKey, metaKey }: MouseEvent): Pick<Drag, 'copy' | 'free'> => ({
  copy: altKey,
  free: ctrlKey || metaKey,
});

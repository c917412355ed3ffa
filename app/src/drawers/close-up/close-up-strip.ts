import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  input,
  signal,
  viewChild,
} from '@angular/core';
import { scaleLinear } from 'd3';
import { CURVES, valueAt } from '@fendro/core/song/curve';
import type { CurveKind } from '@fendro/core/song/schema';
import { drawn } from '@fendro/core/shaping/curves';
import { endOf, type Ids, type Notes } from '@fendro/core/shaping/room';
import { stemOf, stemsDrawn, stemsMoved, type PathPoint, type Stem } from '@fendro/core/shaping/touch';
import { clamp, type Ticks } from '@fendro/core/theory/units';
import { CloseUpDesk } from '../../desks/close-up-desk';
import { CloseUpView, INSET, type Strip } from '../../desks/close-up-view';
import { hostSize, penOf } from '../../ui/canvas';
import { Theme, tokensAt } from '../../ui/theme';
import { timeScale } from '../../ui/time-scale';

const HEIGHT = 56;
/** A stem is meant by a pointer so far beside it, in px. */
const REACH = 7;
/** The furthest that a bend is drawn by hand, in cents: an octave. */
const WIDEST_DRAWN = 1200;

const isStem = (strip: Strip): strip is Stem => strip === 'loudness' || strip === 'chance';

const rangeOf = (strip: Strip): readonly [low: number, high: number] => {
  if (strip === 'loudness') return [1, 127];
  if (strip === 'bend') return [-WIDEST_DRAWN, WIDEST_DRAWN];
  return [0, 100];
};

const NAMES: Readonly<Record<Strip, string>> = {
  loudness: 'set how loud notes are',
  chance: 'set the chance of notes',
  bend: 'bend notes',
  vibrato: 'let notes tremble',
  swell: 'let notes swell',
};

interface Stroke {
  readonly path: readonly PathPoint[];
  /** From the press straight to the pointer. */
  readonly straight: boolean;
}

/** One quality of the notes above as stems or curves, drawn by the pointer. */
@Component({
  selector: 'fd-close-up-strip',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<canvas
    #canvas
    aria-hidden="true"
    [style.height.px]="height"
    (pointerdown)="press($event)"
    (pointermove)="move($event)"
    (pointerup)="release()"
    (pointercancel)="stroke.set(null)"
  ></canvas>`,
  styles: `
    :host {
      display: block;
      position: relative;
    }
    canvas {
      display: block;
      width: 100%;
      cursor: ns-resize;
      touch-action: none;
    }
  `,
})
export class CloseUpStrip {
  private readonly desk = inject(CloseUpDesk);
  private readonly view = inject(CloseUpView);
  private readonly theme = inject(Theme);
  readonly colour = input.required<number>();
  /** One bar, in ticks. */
  readonly bar = input.required<Ticks>();
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly size = hostSize();
  private readonly width = computed(() => this.size().width);
  protected readonly height = HEIGHT;
  protected readonly stroke = signal<Stroke | null>(null);

  private readonly x = computed(() => {
    const { from, to } = this.view.stretch();
    return timeScale(from, to, Math.max(1, this.width()), INSET);
  });
  private readonly y = computed(() => scaleLinear(rangeOf(this.view.strip()), [HEIGHT - 4, 4]).clamp(true));
  /** What a stroke changes: the picked notes, or all where none are. */
  private readonly ids = computed((): Ids => {
    const ids = this.desk.ids();
    return ids.size > 0 ? ids : new Set(this.desk.notes().map(({ id }) => id));
  });
  private readonly preview = computed((): Notes => {
    const [notes, stroke] = [this.desk.notes(), this.stroke()];
    return stroke ? this.changed(notes, stroke) : notes;
  });

  private changed(notes: Notes, { path, straight }: Stroke): Notes {
    const [strip, ids] = [this.view.strip(), this.ids()];
    const [first, last] = [path[0], path.at(-1)];
    if (!first || !last) return notes;
    const ends = straight ? [first, last] : path;
    const way = [...ends].sort((a, b) => a.at - b.at);
    if (!isStem(strip)) return drawn(notes, ids, strip, way);
    // Several that are picked keep their differences.
    if (!straight && this.desk.ids().size > 1)
      return stemsMoved(notes, ids, strip, Math.round(last.value - first.value));
    return stemsDrawn(notes, ids, strip, way, this.x().invert(REACH) - this.x().invert(0));
  }

  constructor() {
    effect(() => {
      this.theme.name();
      this.draw();
    });
  }

  private pointAt({ clientX, clientY }: PointerEvent): PathPoint {
    const frame = this.canvas().nativeElement.getBoundingClientRect();
    const { from, to } = this.view.stretch();
    return {
      at: Math.round(clamp(this.x().invert(clientX - frame.left), from, to)),
      value: Math.round(this.y().invert(clientY - frame.top)),
    };
  }

  protected press(event: PointerEvent): void {
    if (event.button !== 0) return;
    this.canvas().nativeElement.setPointerCapture(event.pointerId);
    this.stroke.set({ path: [this.pointAt(event)], straight: event.shiftKey });
  }

  protected move(event: PointerEvent): void {
    const stroke = this.stroke();
    const last = stroke?.path.at(-1);
    if (!stroke || !last) return;
    const point = this.pointAt(event);
    const [low, high] = [Math.min(last.at, point.at), Math.max(last.at, point.at)];
    // Where the pointer goes again, the newer stroke counts; the first point stays, since differences go by it.
    const path = stroke.path.filter(({ at }, index) => index === 0 || (at !== point.at && (at <= low || at >= high)));
    this.stroke.set({ path: [...path, point], straight: event.shiftKey });
  }

  protected release(): void {
    const stroke = this.stroke();
    this.stroke.set(null);
    if (!stroke) return;
    this.desk.commit({ name: NAMES[this.view.strip()] }, (notes) => {
      const after = this.changed(notes, stroke);
      return { notes: after, picked: this.desk.ids() };
    });
  }

  private draw(): void {
    const [width, strip, notes, x, y] = [this.width(), this.view.strip(), this.preview(), this.x(), this.y()];
    const canvas = this.canvas().nativeElement;
    const pen = penOf(canvas, { width, height: HEIGHT });
    if (!pen) return;
    const token = tokensAt(canvas);
    pen.fillStyle = token('--paper');
    pen.fillRect(0, 0, width, HEIGHT);
    const picked = this.desk.ids();
    const { from, to } = this.view.stretch();
    const rest = isStem(strip) ? null : CURVES[strip].rest;
    pen.fillStyle = token('--line');
    if (rest !== null) pen.fillRect(0, y(rest), width, 1);
    this.drawBars(pen, token);
    for (const note of notes) {
      if (note.start >= to || endOf(note) <= from) continue;
      const meant = picked.size === 0 || picked.has(note.id);
      pen.globalAlpha = meant ? 1 : 0.4;
      pen.fillStyle = pen.strokeStyle = token(`--part-${this.colour()}`);
      if (isStem(strip)) {
        const [left, top] = [x(note.start), y(stemOf(note, strip))];
        pen.fillRect(left, top, 2, HEIGHT - top);
        pen.fillRect(left - 2, top - 1.5, 6, 3);
      } else this.drawCurve(pen, note, strip);
    }
    pen.globalAlpha = 1;
  }

  /** Bar lines with their numbers: those of the notes above scroll out of sight. */
  private drawBars(pen: CanvasRenderingContext2D, token: (name: string) => string): void {
    const [{ from, to }, bar, x] = [this.view.stretch(), this.bar(), this.x()];
    pen.font = `10px ${token('--mono')}`;
    for (let at = Math.ceil(from / bar) * bar; at < to; at += bar) {
      pen.fillStyle = token('--line');
      pen.fillRect(Math.round(x(at)), 0, 1, HEIGHT);
      pen.fillStyle = token('--quiet');
      if (at >= 0) pen.fillText(String(at / bar + 1), x(at) + 4, 10);
    }
  }

  private drawCurve(pen: CanvasRenderingContext2D, note: Notes[number], kind: CurveKind): void {
    const [x, y, curve] = [this.x(), this.y(), note[kind]];
    const value = (at: number): number => (curve ? valueAt(curve, at) : CURVES[kind].rest);
    const moments = [
      0,
      ...(curve ?? []).map(({ at }) => at).filter((at) => at > 0 && at < note.duration),
      note.duration,
    ];
    pen.lineWidth = curve ? 2 : 1;
    pen.beginPath();
    moments.forEach((at, index) => {
      const [left, top] = [x(note.start + at), y(value(at))];
      if (index === 0) pen.moveTo(left, top);
      else pen.lineTo(left, top);
    });
    pen.stroke();
    if (curve) for (const { at, value: own } of curve) pen.fillRect(x(note.start + at) - 2, y(own) - 2, 4, 4);
  }
}

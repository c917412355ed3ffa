import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  input,
  viewChild,
} from '@angular/core';
import { scaleLinear } from 'd3';
import type { ChordSpan, Note } from '@fendro/core/song/schema';
import type { NoteRole } from '@fendro/core/study/note-roles';
import type { Ticks } from '@fendro/core/theory/units';
import { hostSize, penOf } from './canvas';
import { inDrumOrder } from './drum-rows';
import { inView } from './in-view';
import { drawRoleSign } from './role-marks';
import { Theme, tokensAt } from './theme';
import { timeScale } from './time-scale';

/** Shapes tell parts apart where colours do not. */
export type NoteShape = 'bar' | 'outline' | 'slim' | 'dot' | 'hatched';

const SHAPES: readonly NoteShape[] = ['bar', 'outline', 'slim', 'hatched'];

export const shapeOf = (colour: number, drums: boolean): NoteShape =>
  drums ? 'dot' : (SHAPES[colour % SHAPES.length] ?? 'bar');

/** Where pitches lie, and how high their notes are, in px. */
interface Row {
  readonly y: (pitch: number) => number;
  readonly height: number;
}
interface Box {
  readonly left: number;
  /** Its middle. */
  readonly y: number;
  readonly width: number;
}

/** How far beside a note a pointer may be that means it, in px. */
const REACH = 3;

/**
 * A picture of notes over time, over faint bands of the chords. Decorative: whatever holds it says in words what it
 * shows.
 */
@Component({
  selector: 'fd-note-picture',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<canvas #surface aria-hidden="true"></canvas>`,
  styles: `
    :host {
      display: block;
      position: relative;
      overflow: hidden;
    }
    canvas {
      display: block;
      width: 100%;
      height: 100%;
    }
  `,
})
export class NotePicture {
  readonly notes = input.required<readonly Note[]>();
  readonly from = input<Ticks>(0);
  readonly to = input.required<Ticks>();
  readonly bar = input.required<Ticks>();
  readonly colour = input(0);
  readonly shape = input<NoteShape>('bar');
  readonly chords = input<readonly ChordSpan[]>([]);
  /** Places in the list of notes that are marked, as rubbing against the chords. */
  readonly marks = input<readonly number[]>([]);
  /** Places in the list of notes that are held, each by itself. */
  readonly held = input<readonly number[]>([]);
  /** Places in the list of notes that are picked. */
  readonly picked = input<readonly number[]>([]);
  /** What each note does against its chord, in the order of the notes: drawn as a sign over all but chord notes. */
  readonly roles = input<readonly NoteRole[]>([]);
  /** Notes of another take, drawn hollow over these. */
  readonly hollow = input<readonly Note[]>([]);
  /** Draws the notes faintly, as of a take that is only tried. */
  readonly tentative = input(false);

  private readonly surface = viewChild.required<ElementRef<HTMLCanvasElement>>('surface');
  private readonly theme = inject(Theme);
  private readonly seen = inView();
  private readonly size = hostSize();

  /** Lowest and highest pitch of the whole take, so that its systems share one scale. */
  private readonly range = computed(() => {
    const pitches = [...this.notes(), ...this.hollow()].map(({ pitch }) => pitch);
    const low = Math.min(...pitches, 127);
    const high = Math.max(...pitches, 0);
    const middle = pitches.length > 0 ? (low + high) / 2 : 60;
    return { low: Math.min(low, middle - 4), high: Math.max(high, middle + 4) };
  });

  constructor() {
    effect(() => {
      // What nobody sees is drawn when it comes into view.
      if (!this.seen()) return;
      this.theme.name();
      this.draw();
    });
  }

  private draw(): void {
    const { width, height } = this.size();
    const canvas = this.surface().nativeElement;
    const notes = this.notes();
    const [from, to] = [this.from(), this.to()];
    const pen = penOf(canvas, this.size());
    if (!pen) return;
    const token = tokensAt(canvas);
    const x = timeScale(from, to, width);

    this.chords().forEach(({ start, duration }, index) => {
      if (start >= to || start + duration <= from) return;
      pen.fillStyle = token(index % 2 === 0 ? '--band-even' : '--band-odd');
      pen.fillRect(x(start), 0, x(start + duration) - x(start), height);
    });
    pen.fillStyle = token('--line');
    for (let at = Math.ceil(from / this.bar()) * this.bar(); at <= to; at += this.bar())
      pen.fillRect(Math.min(width - 1, Math.round(x(at))), 0, 1, height);

    const shape = this.shape();
    const row = this.rowOf(height);
    pen.fillStyle = pen.strokeStyle = token(`--part-${this.colour()}`);
    pen.globalAlpha = this.tentative() ? 0.8 : 1;
    for (const note of notes) {
      if (note.start >= to || note.start + note.duration <= from) continue;
      const left = x(note.start);
      const right = Math.max(left + 2, x(note.start + note.duration) - 1);
      drawNote(pen, shape, left, row.y(note.pitch), right - left, row.height, note.velocity);
    }
    pen.globalAlpha = 1;
    pen.strokeStyle = token('--ink');
    pen.lineWidth = 1;
    for (const note of this.hollow()) {
      if (note.start >= to || note.start + note.duration <= from) continue;
      const left = x(note.start);
      const width = Math.max(3, x(note.start + note.duration) - left - 1);
      pen.strokeRect(left + 0.5, row.y(note.pitch) - row.height / 2 - 0.5, width, row.height + 1);
    }
    this.drawHeld(pen, x, row, token('--surface'), token('--ink'));
    this.drawPicked(pen, x, row, token('--ink'));
    pen.strokeStyle = token(`--part-${this.colour()}`);
    if (this.roles().length > 0) this.drawRoles(pen, x, row.y, token('--ink'));
    if (this.marks().length > 0) this.drawMarks(pen, x, row.y, token('--alert'));
  }

  /** Where a note of the list is drawn; null where it is out of the picture. */
  private boxOf(index: number, x: (at: Ticks) => number, row: Row): Box | null {
    const note = this.notes()[index];
    if (!note || note.start >= this.to() || note.start + note.duration <= this.from()) return null;
    const left = x(note.start);
    const width = this.shape() === 'dot' ? 6 : Math.max(3, x(note.start + note.duration) - left - 1);
    return { left: this.shape() === 'dot' ? left - 3 : left, y: row.y(note.pitch), width };
  }

  /** The note under a pointer, as its place in the list; null where there is none. */
  noteAt({ clientX, clientY }: Pick<PointerEvent, 'clientX' | 'clientY'>): number | null {
    const { width, height } = this.size();
    const frame = this.surface().nativeElement.getBoundingClientRect();
    if (width === 0 || height === 0) return null;
    const [x, row] = [timeScale(this.from(), this.to(), width), this.rowOf(height)];
    const [left, top] = [clientX - frame.left, clientY - frame.top];
    const hits = this.notes().flatMap((_, index) => {
      const box = this.boxOf(index, x, row);
      const away = box ? Math.abs(box.y - top) : Infinity;
      return box && left >= box.left - REACH && left <= box.left + box.width + REACH && away <= row.height / 2 + REACH
        ? [{ index, away }]
        : [];
    });
    return hits.sort((a, b) => a.away - b.away)[0]?.index ?? null;
  }

  /** A hatch across each held note, as over held bars. */
  private drawHeld(
    pen: CanvasRenderingContext2D,
    x: (at: Ticks) => number,
    row: Row,
    paper: string,
    ink: string,
  ): void {
    for (const index of this.held()) {
      const box = this.boxOf(index, x, row);
      if (!box) continue;
      const [top, bottom] = [box.y - row.height / 2 - 1, box.y + row.height / 2 + 1];
      pen.lineWidth = 1.5;
      pen.strokeStyle = paper;
      for (let at = box.left + 3; at < box.left + box.width; at += 5) {
        pen.beginPath();
        pen.moveTo(at, bottom);
        pen.lineTo(at + 3, top);
        pen.stroke();
      }
      pen.fillStyle = ink;
      pen.fillRect(box.left, bottom + 1, box.width, 1.5);
    }
  }

  private drawPicked(pen: CanvasRenderingContext2D, x: (at: Ticks) => number, row: Row, ink: string): void {
    pen.strokeStyle = ink;
    pen.lineWidth = 2;
    for (const index of this.picked()) {
      const box = this.boxOf(index, x, row);
      if (box) pen.strokeRect(box.left - 2, box.y - row.height / 2 - 3, box.width + 4, row.height + 6);
    }
    pen.lineWidth = 1;
  }

  private drawRoles(
    pen: CanvasRenderingContext2D,
    x: (at: Ticks) => number,
    y: (pitch: number) => number,
    colour: string,
  ): void {
    pen.globalAlpha = 1;
    pen.strokeStyle = colour;
    this.roles().forEach((role, index) => {
      const note = this.notes()[index];
      if (!note || note.start >= this.to() || note.start + note.duration <= this.from()) return;
      const top = y(note.pitch) - 4;
      // No room above: the sign stands below.
      drawRoleSign(pen, role, x(note.start), top < 8 ? y(note.pitch) + 11 : top);
    });
  }

  /** A small peak over each marked note. */
  private drawMarks(
    pen: CanvasRenderingContext2D,
    x: (at: Ticks) => number,
    y: (pitch: number) => number,
    colour: string,
  ): void {
    pen.globalAlpha = 1;
    pen.strokeStyle = colour;
    pen.lineWidth = 1.6;
    for (const mark of this.marks()) {
      const note = this.notes()[mark];
      if (!note || note.start >= this.to() || note.start + note.duration <= this.from()) continue;
      const [left, top] = [x(note.start), y(note.pitch) - 9];
      pen.beginPath();
      pen.moveTo(left, top + 4);
      pen.lineTo(left + 4, top);
      pen.lineTo(left + 8, top + 4);
      pen.stroke();
    }
  }

  private rowOf(height: number): Row {
    const margin = 3;
    if (this.shape() === 'dot') {
      // Drums are drawn in rows of their own rather than by pitch.
      const used = inDrumOrder([...this.notes(), ...this.hollow()].map(({ pitch }) => pitch));
      const step = (height - 2 * margin) / Math.max(1, used.length);
      return { y: (pitch) => margin + (used.indexOf(pitch) + 0.5) * step, height: Math.min(4, step) };
    }
    const { low, high } = this.range();
    const y = scaleLinear([low, high], [height - margin - 2, margin + 2]);
    return { y: (pitch) => y(pitch), height: Math.max(3, Math.min(6, (height - 2 * margin) / (high - low + 1))) };
  }
}

/** One note in the shape of its part. */
export function drawNote(
  pen: CanvasRenderingContext2D,
  shape: NoteShape,
  x: number,
  y: number,
  width: number,
  height: number,
  velocity: number,
): void {
  const top = y - height / 2;
  switch (shape) {
    case 'dot': {
      const radius = 1.2 + (velocity / 127) * 1.6;
      pen.beginPath();
      pen.arc(x + radius, y, radius, 0, 2 * Math.PI);
      pen.fill();
      break;
    }
    case 'outline':
      pen.lineWidth = 1.4;
      pen.strokeRect(x + 0.7, top + 0.5, Math.max(1, width - 1.4), Math.max(2, height - 1));
      break;
    case 'slim':
      pen.fillRect(x, y - 1, width, 2);
      pen.fillRect(x, top, 2, height);
      break;
    case 'hatched':
      pen.fillRect(x, top, width, 1.2);
      pen.fillRect(x, top + height - 1.2, width, 1.2);
      for (let at = 0; at < width; at += 4) pen.fillRect(x + at, top, 1.6, height);
      break;
    case 'bar':
      // Round corners cost most of a picture, and nobody sees them on what is this small.
      if (width < 4) {
        pen.fillRect(x, top, width, height);
        break;
      }
      pen.beginPath();
      pen.roundRect(x, top, width, height, Math.min(2, height / 2));
      pen.fill();
      break;
  }
}

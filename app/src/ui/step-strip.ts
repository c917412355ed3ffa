import {
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  input,
  model,
  output,
  signal,
} from '@angular/core';
import { modulo, range, type Ticks } from '@fendro/core/theory/units';
import {
  bandOf,
  boxOf,
  hatchOf,
  heldValue,
  PAD,
  repeatsOf,
  ribbonsOf,
  valueAtHeight,
  type Box,
  type StepLook,
  type StepValue,
} from './step-geometry';

/** A step that was drawn otherwise. */
export interface DrawnStep {
  readonly step: number;
  readonly value: StepValue;
}

/** A pointer that was moved so far, in px, moves what it has pressed. */
const MOVED = 3;

/** Keys that a strip passes on to whoever holds it: tie, hold, longer, shorter, by chance, take away. */
const STRIP_KEYS = ['t', 'h', '+', '-', 'r', 'Delete', 'Enter'];

/**
 * A strip of steps under bars: as long as it likes, and said again in paler ink to the end. Dragging over steps draws
 * them; arrows go along and step the one that was gone to.
 */
@Component({
  selector: 'fd-step-strip',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div
      class="strip"
      role="slider"
      tabindex="0"
      [attr.aria-label]="label()"
      [attr.aria-valuemin]="low()"
      [attr.aria-valuemax]="high()"
      [attr.aria-valuenow]="now() ?? low()"
      [attr.aria-valuetext]="said()"
      [style.width.px]="width()"
      [style.height.px]="height()"
      (pointerdown)="press($event)"
      (pointermove)="drag($event)"
      (pointerup)="drop()"
      (pointercancel)="letGo()"
      (focus)="focused.emit()"
      (keydown)="key($event)"
    >
      <svg [attr.width]="width()" [attr.height]="height()" aria-hidden="true">
        @if (band(); as own) {
          <rect class="band" x="0" [attr.y]="own.top" [attr.width]="cycle()" [attr.height]="own.height" />
        }
        @for (line of bars(); track line) {
          <line class="bar" [attr.x1]="line" [attr.x2]="line" y1="0" [attr.y2]="height()" />
        }
        @if (look() === 'ribbon') {
          <path class="ribbon again" [attr.d]="ribbons()" />
          <rect
            class="ribbon"
            x="1"
            rx="4"
            [attr.y]="pad"
            [attr.width]="cycle() - 2"
            [attr.height]="height() - 2 * pad"
          />
        }
        <path class="again" [style.fill]="colour()" [attr.d]="repeats()" />
        <rect
          class="here"
          rx="2"
          [attr.x]="at() * stepWidth()"
          y="0.5"
          [attr.width]="stepWidth()"
          [attr.height]="height() - 1"
        />
        @for (box of boxes(); track box.step) {
          <rect
            class="own"
            rx="2"
            [class.tied]="ties().includes(box.step)"
            [style.fill]="colour()"
            [attr.x]="box.left"
            [attr.y]="box.top"
            [attr.width]="box.width"
            [attr.height]="box.height"
          />
        }
        @for (box of otherBoxes(); track $index) {
          <rect
            class="other"
            rx="2"
            [attr.x]="box.left"
            [attr.y]="box.top"
            [attr.width]="box.width"
            [attr.height]="box.height"
          />
        }
        @for (step of heldSteps(); track step) {
          <path class="held" [attr.d]="hatch(step)" />
        }
      </svg>
    </div>
  `,
  styleUrl: './step-strip.scss',
})
export class StepStrip {
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  readonly label = input.required<string>();
  readonly values = input.required<readonly StepValue[]>();
  readonly low = input.required<number>();
  readonly high = input.required<number>();
  /** Length of a step, and of all that is shown, in ticks. */
  readonly rate = input.required<Ticks>();
  readonly length = input.required<Ticks>();
  readonly bar = input.required<Ticks>();
  /** Px of a tick. */
  readonly scale = input.required<number>();
  readonly height = input(36);
  /** Bars that stand on the ground, lines at a height, or notches in a ribbon. */
  readonly look = input<StepLook>('bar');
  readonly colour = input<string | null>(null);
  /** What chance may draw; null where nothing is drawn by chance. */
  readonly range = input<{ readonly low: number; readonly high: number } | null>(null);
  readonly held = input<readonly number[]>([]);
  /** The whole strip is held. */
  readonly still = input(false);
  readonly ties = input<readonly number[]>([]);
  /** What steps may say instead. */
  readonly others = input<readonly { readonly step: number; readonly value: number }[]>([]);
  readonly inWords = input<(value: StepValue, step: number) => string>((value) => String(value));
  /** The step that keys go on from. */
  readonly at = model(0);
  readonly drawn = output<readonly DrawnStep[]>();
  /** By a key: so many up or down. */
  readonly stepped = output<{ readonly step: number; readonly by: number }>();
  /** Any other key of the strip. */
  readonly struck = output<{ readonly step: number; readonly key: string }>();
  readonly focused = output();
  protected readonly pad = PAD;
  protected readonly dragged = signal<ReadonlyMap<number, StepValue> | null>(null);
  /** Where a ribbon was pressed, and whether a notch stands there that was not moved since. */
  private notch: { readonly step: number; readonly y: number; readonly stands: boolean } | null = null;

  private readonly shown = computed((): readonly StepValue[] => {
    const dragged = this.dragged();
    return this.values().map((value, step) => (dragged?.has(step) ? (dragged.get(step) ?? null) : value));
  });
  protected readonly stepWidth = computed(() => this.rate() * this.scale());
  protected readonly width = computed(() => Math.ceil(this.length() * this.scale()));
  protected readonly cycle = computed(() => this.values().length * this.stepWidth());
  protected readonly now = computed(() => this.shown()[this.at()] ?? null);
  protected readonly said = computed(() => {
    const [at, count] = [this.at(), this.values().length];
    const held = this.still() || this.held().includes(at) ? ', held' : '';
    return `Step ${at + 1} of ${count}: ${this.inWords()(this.now(), at)}${held}`;
  });
  protected readonly bars = computed(() => {
    const bar = this.bar() * this.scale();
    return range(Math.floor(this.width() / bar) + 1)
      .slice(1)
      .map((count) => Math.round(count * bar) + 0.5);
  });
  protected readonly band = computed(() => {
    const own = this.range();
    return own && bandOf(this.layout(), own.low, own.high);
  });
  protected readonly heldSteps = computed(() =>
    this.still() ? range(this.values().length) : this.held().filter((step) => step < this.values().length),
  );

  /** How strips of this look, height and range are laid out. */
  private readonly layout = computed(() => ({
    look: this.look(),
    height: this.height(),
    low: this.low(),
    high: this.high(),
    stepWidth: this.stepWidth(),
  }));
  protected readonly boxes = computed((): readonly Box[] =>
    this.shown().flatMap((value, step) => {
      const tied = this.ties().includes(step);
      // What only holds on stands at the height of what it holds.
      const height = tied ? heldValue(this.shown(), this.ties(), step) : value;
      return height === null ? [] : [boxOf(this.layout(), height, step, tied)];
    }),
  );

  protected readonly otherBoxes = computed((): readonly Box[] =>
    this.others()
      .filter(({ step }) => step < this.values().length)
      .map(({ step, value }) => boxOf(this.layout(), value, step, false)),
  );

  /** The strip said again to the end, as one path. */
  protected readonly repeats = computed(() => {
    return repeatsOf(this.boxes(), this.cycle(), this.width());
  });
  protected readonly ribbons = computed(() => ribbonsOf(this.cycle(), this.width(), this.height()));

  /** A quiet hatch over a step that chance leaves alone. */
  protected hatch(step: number): string {
    return hatchOf(step * this.stepWidth(), this.stepWidth(), this.height());
  }

  private stepUnder({ clientX }: PointerEvent): number {
    const { left } = this.host.nativeElement.getBoundingClientRect();
    return modulo(Math.floor((clientX - left) / this.stepWidth()), this.values().length);
  }

  private valueUnder({ clientY }: PointerEvent): number {
    const { top } = this.host.nativeElement.getBoundingClientRect();
    return valueAtHeight(this.layout(), clientY - top);
  }

  /** Draws under the pointer; a notch that is pressed goes along with it, or is taken away where it stays. */
  protected press(event: PointerEvent): void {
    (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
    const step = this.stepUnder(event);
    this.at.set(step);
    const there = this.look() === 'ribbon' && this.values()[step] !== null;
    // Notches stay in the step that they were pressed in.
    this.notch = this.look() === 'ribbon' ? { step, y: event.clientY, stands: there } : null;
    this.dragged.set(there ? new Map() : new Map([[step, this.valueUnder(event)]]));
  }

  protected drag(event: PointerEvent): void {
    const dragged = this.dragged();
    const { notch } = this;
    if (!dragged || (notch?.stands && Math.abs(event.clientY - notch.y) < MOVED)) return;
    if (notch) this.notch = { ...notch, stands: false };
    const step = notch?.step ?? this.stepUnder(event);
    const value = this.valueUnder(event);
    if (dragged.get(step) === value) return;
    this.at.set(step);
    this.dragged.set(new Map([...dragged, [step, value]]));
  }

  protected drop(): void {
    const [dragged, notch] = [this.dragged(), this.notch];
    this.letGo();
    const steps: DrawnStep[] = notch?.stands ? [{ step: notch.step, value: null }] : [];
    for (const [step, value] of dragged ?? []) steps.push({ step, value });
    if (steps.some(({ step, value }) => value !== this.values()[step])) this.drawn.emit(steps);
  }

  protected letGo(): void {
    this.dragged.set(null);
    this.notch = null;
  }

  protected key(event: KeyboardEvent): void {
    const { key } = event;
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const [step, last] = [this.at(), this.values().length - 1];
    if (key === 'ArrowLeft') this.at.set(step === 0 ? last : step - 1);
    else if (key === 'ArrowRight') this.at.set(step === last ? 0 : step + 1);
    else if (key === 'Home') this.at.set(0);
    else if (key === 'End') this.at.set(last);
    else if (key === 'ArrowUp' || key === 'ArrowDown') this.stepped.emit({ step, by: key === 'ArrowUp' ? 1 : -1 });
    else if (STRIP_KEYS.includes(key)) this.struck.emit({ step, key });
    else return;
    event.preventDefault();
    event.stopPropagation();
  }
}

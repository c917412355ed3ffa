import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButton, MatIconButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { pitchOfDegree } from '@fendro/core/patterns/degrees';
import * as edits from '@fendro/core/patterns/loop-edits';
import { meetings } from '@fendro/core/patterns/loops';
import type { Over } from '@fendro/core/patterns/over';
import { loopSettings } from '@fendro/core/patterns/settings/loop-settings';
import { choiceOf } from '@fendro/core/settings/setting';
import { boundsOf, LOOP_COUNT, MOST_STEPS, type ChordSpan, type Loop, type Loops } from '@fendro/core/song/schema';
import { clamp, range, type MidiNote } from '@fendro/core/theory/units';
import { PatternDesk } from '../../desks/pattern-desk';
import { ChoiceField } from '../../ui/fields/choice-field';
import type { StepValue } from '../../ui/step-geometry';
import { StepStrip, type DrawnStep } from '../../ui/step-strip';
import { StepCount } from './step-count';

/** Height of a ribbon and what lies between two, in px. */
const RIBBON = 40;
const BETWEEN = 4;
/** Degrees that a ribbon shows at least, and over and under what it strikes. */
const LEAST_SHOWN = 7;
const AROUND = 1;

/** Interlocking loops as ribbons at their true length: a notch where one strikes, a link where several meet. */
@Component({
  selector: 'fd-loop-ribbons',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, MatButton, MatIcon, MatIconButton, StepCount, StepStrip],
  template: `
    <div class="ribbons">
      @for (loop of pattern().loops; track $index) {
        <div class="row" role="group" [attr.aria-label]="'Loop ' + ($index + 1)">
          <div class="names">
            <span class="name">Loop {{ $index + 1 }}</span>
            <fd-step-count [of]="'Loop ' + ($index + 1)" [count]="loop.steps" (resized)="resize($index, $event)" />
            <button
              matIconButton
              class="small"
              [attr.aria-label]="'Take loop ' + ($index + 1) + ' away'"
              [disabled]="pattern().loops.length <= least"
              (click)="remove($index)"
            >
              <mat-icon svgIcon="delete" />
            </button>
          </div>
          <fd-step-strip
            look="ribbon"
            [label]="'Loop ' + ($index + 1)"
            [values]="valuesOf(loop)"
            [low]="shownOf(loop).low"
            [high]="shownOf(loop).high"
            [rate]="loop.rate"
            [length]="over().length"
            [bar]="over().bar"
            [scale]="scale()"
            [height]="ribbon"
            [colour]="colour()"
            [inWords]="words"
            [at]="$index === focus() ? at() : 0"
            (atChange)="go($index, $event)"
            (focused)="focus.set($index)"
            (drawn)="draw($index, $event)"
            (stepped)="step($index, $event)"
            (struck)="strike($index, $event)"
          />
        </div>
      }
      <svg class="links" aria-hidden="true" [attr.width]="width()" [attr.height]="height()">
        <path [attr.d]="links()" />
      </svg>
    </div>
    <div class="details">
      <span>Loop {{ focus() + 1 }}</span>
      @for (setting of settings; track setting.id) {
        <fd-choice-field
          class="small"
          [label]="setting.label + ' of loop ' + (focus() + 1)"
          [choices]="setting.choices"
          [value]="nearest(setting)"
          (chosen)="set(setting.id, $event)"
        />
      }
      <button matButton class="small" [disabled]="pattern().loops.length >= most" (click)="edit('add a loop', another)">
        Another loop
      </button>
    </div>
  `,
  styleUrls: ['./pattern-rows.scss', './loop-ribbons.scss'],
})
export class LoopRibbons {
  private readonly desk = inject(PatternDesk);
  readonly pattern = input.required<Loops>();
  readonly over = input.required<Over>();
  readonly scale = input.required<number>();
  readonly colour = input.required<string>();
  readonly first = input.required<ChordSpan | undefined>();
  readonly sayPitch = input.required<(pitch: MidiNote) => string>();
  protected readonly settings = loopSettings;
  protected readonly least = LOOP_COUNT.least;
  protected readonly most = LOOP_COUNT.most;
  protected readonly ribbon = RIBBON;
  protected readonly another = edits.withAnotherLoop;
  private readonly wished = signal(0);
  protected readonly focus = signal(0);
  protected readonly loop = computed(
    () => this.pattern().loops[clamp(this.focus(), 0, this.pattern().loops.length - 1)] as Loop,
  );
  protected readonly at = computed(() => clamp(this.wished(), 0, this.loop().steps - 1));

  protected valuesOf({ steps, notches }: Loop): readonly StepValue[] {
    const degrees = new Map(notches.map(({ step, degree }) => [step, degree]));
    return range(steps).map((step) => degrees.get(step) ?? null);
  }

  protected shownOf({ notches }: Loop): { readonly low: number; readonly high: number } {
    const bounds = boundsOf('degree', 'chord');
    const all = notches.map(({ degree }) => degree);
    const low = Math.max(bounds.low, Math.min(0, ...all) - AROUND);
    return { low, high: Math.min(bounds.high, Math.max(Math.max(...all) + AROUND, low + LEAST_SHOWN)) };
  }

  protected readonly width = computed(() => Math.ceil(this.over().length * this.scale()));
  protected readonly height = computed(() => this.pattern().loops.length * (RIBBON + BETWEEN) - BETWEEN);
  /** A link from the first to the last of the loops that strike together, for each such moment. */
  protected readonly links = computed(() => {
    const middle = (place: number): number => place * (RIBBON + BETWEEN) + RIBBON / 2;
    return [...meetings(this.pattern(), this.over())]
      .map(([at, places]) => {
        const x = Math.round(at * this.scale()) + 1.5;
        return `M${x} ${middle(Math.min(...places))}V${middle(Math.max(...places))}`;
      })
      .join('');
  });

  protected readonly words = (value: StepValue): string => {
    if (value === null) return 'no stroke';
    const pitch = pitchOfDegree(value, this.pattern(), this.first(), this.over().ground);
    return `degree ${value + 1}, ${pitch === null ? 'silent' : this.sayPitch()(pitch)}`;
  };

  protected nearest({ choices, value }: (typeof loopSettings)[number]): string | number {
    const now = value(this.loop());
    return choiceOf({ choices, value: now })?.value ?? now;
  }

  protected go(place: number, step: number): void {
    this.focus.set(place);
    this.wished.set(step);
  }

  protected edit(name: string, change: (pattern: Loops) => Loops, kind?: string): void {
    this.desk.edit(name, (pattern) => (pattern.of === 'loops' ? change(pattern) : pattern), kind);
  }

  protected set(id: string, value: string | number): void {
    const setting = loopSettings.find((own) => own.id === id);
    const place = this.focus();
    if (setting)
      this.edit('set a loop', (pattern) => {
        const loop = pattern.loops[place];
        return loop ? edits.withLoop(pattern, place, setting.set(loop, value)) : pattern;
      });
  }

  protected resize(place: number, by: number): void {
    this.go(place, this.at());
    this.edit('change a loop’s length', (pattern) => {
      const steps = clamp((pattern.loops[place]?.steps ?? 1) + by, 1, MOST_STEPS);
      return edits.withLoop(pattern, place, { steps });
    });
  }

  protected remove(place: number): void {
    this.focus.set(Math.max(0, Math.min(this.focus(), this.pattern().loops.length - 2)));
    this.edit('take a loop away', (pattern) => edits.withoutLoop(pattern, place));
  }

  protected draw(place: number, steps: readonly DrawnStep[]): void {
    this.edit('draw a loop', (pattern) =>
      steps.reduce((drawn, { step, value }) => edits.withNotch(drawn, place, step, value), pattern),
    );
  }

  protected step(place: number, { step, by }: { readonly step: number; readonly by: number }): void {
    this.edit(
      'draw a loop',
      (pattern) => {
        const now = edits.notchAt(pattern, place, step);
        return edits.withNotch(pattern, place, step, now === null ? 0 : now + by);
      },
      `draw loop ${place} ${step}`,
    );
  }

  protected strike(place: number, { step, key }: { readonly step: number; readonly key: string }): void {
    if (key === '+' || key === '-') this.resize(place, key === '+' ? 1 : -1);
    else if (key === 'Enter' || key === 'Delete')
      this.edit('draw a loop', (pattern) => {
        const there = edits.notchAt(pattern, place, step) !== null;
        return there || key === 'Enter' ? edits.withNotch(pattern, place, step, there ? null : 0) : pattern;
      });
  }
}

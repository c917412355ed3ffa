import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatButton, MatIconButton } from '@angular/material/button';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatIcon } from '@angular/material/icon';
import * as edits from '@fendro/core/patterns/pattern-edits';
import { boundsOf, MOST_OTHERS, type DrawnPattern, type StripName } from '@fendro/core/song/schema';
import { NumberField } from '../../ui/fields/number-field';
import type { StepValue } from '../../ui/step-geometry';

/** What a step is changed to. */
export interface StepChange {
  readonly name: string;
  readonly change: (pattern: DrawnPattern) => DrawnPattern;
  readonly kind?: string;
}

/** How likely another note is until the writer says otherwise, in %. */
const FIRST_SHARE = 30;

/** Between which values chance draws. */
const ENDS = [
  { id: 'low', before: 'Chance draws from', said: 'The least that chance draws of ' },
  { id: 'high', before: 'to', said: 'The most that chance draws of ' },
] as const;

/** What the step that was gone to last says exactly, and in which range chance draws its strip. */
@Component({
  selector: 'fd-step-details',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatCheckbox, MatIcon, MatIconButton, NumberField],
  template: `
    <span class="what">{{ label() }}, step {{ step() + 1 }}: {{ words()(value(), step()) }}</span>
    <fd-number-field
      class="small"
      [label]="label() + ' of step ' + (step() + 1)"
      [bounds]="bounds()"
      [told]="told()"
      [value]="shift(value())"
      [of]="name() + step()"
      (changed)="draw($event)"
    />
    @if (name() === 'degree') {
      <mat-checkbox [checked]="pattern().ties.includes(step())" (change)="emit('tie a step', tie)">Tied</mat-checkbox>
    }
    <mat-checkbox [checked]="held()" (change)="emit('hold a step', hold)">Held</mat-checkbox>
    @if (name() === 'degree') {
      @for (other of others(); track $index) {
        <span class="other">
          or
          <fd-number-field
            class="small"
            [label]="'Other note ' + ($index + 1)"
            [bounds]="bounds()"
            [told]="told()"
            [value]="shift(other.value)"
            (changed)="setOther($index, { value: unshift($event) })"
          />
          in
          <fd-number-field
            class="small"
            [label]="'How often other note ' + ($index + 1) + ' is taken'"
            unit="%"
            [bounds]="shares"
            told="A share is 1 to 100 %; all of them together are no more."
            [value]="other.share"
            (changed)="setOther($index, { share: $event })"
          />
          <button
            matIconButton
            class="small"
            [attr.aria-label]="'Take other note ' + ($index + 1) + ' away'"
            (click)="removeOther($index)"
          >
            <mat-icon svgIcon="close" />
          </button>
        </span>
      }
      @if (others().length < most) {
        <button matButton class="small" (click)="addOther()">Or another note</button>
      }
    }
    <span class="gap"></span>
    <span class="other">
      @for (end of ends; track end.id) {
        {{ end.before }}
        <fd-number-field
          class="small"
          [label]="end.said + label().toLowerCase()"
          [bounds]="bounds()"
          [told]="told()"
          [value]="shift(strip()[end.id])"
          [of]="name()"
          (changed)="setEnd(end.id, unshift($event))"
        />
      }
    </span>
  `,
  styles: `
    :host {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 2px 10px;
      font-size: 0.8125rem;
    }
    .what {
      min-width: 12rem;
    }
    .other {
      display: inline-flex;
      align-items: center;
      gap: 4px;
    }
    .gap {
      flex: 1;
    }
  `,
})
export class StepDetails {
  readonly name = input.required<StripName>();
  readonly label = input.required<string>();
  readonly step = input.required<number>();
  readonly pattern = input.required<DrawnPattern>();
  readonly words = input.required<(value: StepValue, step: number) => string>();
  readonly changed = output<StepChange>();
  protected readonly most = MOST_OTHERS;
  protected readonly shares = { least: 1, most: 100 };
  protected readonly ends = ENDS;
  protected readonly strip = computed(() => this.pattern().strips[this.name()]);
  protected readonly value = computed(() => this.strip().values[this.step()] ?? this.strip().low);
  protected readonly held = computed(() => this.strip().still || this.strip().held.includes(this.step()));
  protected readonly others = computed(() => this.pattern().others.filter(({ step }) => step === this.step()));
  /** Degrees are counted from 1, as musicians do; pitches by MIDI note numbers. */
  private readonly from = computed(() => (this.name() === 'degree' && this.pattern().degrees !== 'fixed' ? 1 : 0));
  protected readonly bounds = computed(() => {
    const { low, high } = boundsOf(this.name(), this.pattern().degrees);
    return { least: low + this.from(), most: high + this.from() };
  });
  protected readonly told = computed(
    () => `${this.label()} goes from ${this.bounds().least} to ${this.bounds().most}.`,
  );

  protected shift(value: number): number {
    return value + this.from();
  }

  protected unshift(value: number): number {
    return value - this.from();
  }

  protected emit(name: string, change: StepChange['change'], kind?: string): void {
    this.changed.emit({ name, change, ...(kind === undefined ? {} : { kind }) });
  }

  protected readonly tie = (pattern: DrawnPattern): DrawnPattern => edits.withTie(pattern, this.step());
  protected readonly hold = (pattern: DrawnPattern): DrawnPattern =>
    edits.withHeldStep(pattern, this.name(), this.step());

  protected draw(value: number): void {
    const [name, step] = [this.name(), this.step()];
    this.emit(`draw ${this.label().toLowerCase()}`, (pattern) =>
      edits.withValue(pattern, name, step, this.unshift(value)),
    );
  }

  protected setEnd(end: 'low' | 'high', value: number): void {
    const name = this.name();
    this.emit('set what chance draws', (pattern) => {
      const { low, high } = pattern.strips[name];
      return end === 'low' ? edits.withRange(pattern, name, value, high) : edits.withRange(pattern, name, low, value);
    });
  }

  private withOthers(others: readonly { readonly value: number; readonly share: number }[]): void {
    this.emit('give a step other notes', (pattern) => edits.withOthers(pattern, this.step(), others));
  }

  protected addOther(): void {
    this.withOthers([...this.others(), { value: this.value() + 2, share: FIRST_SHARE }]);
  }

  protected setOther(place: number, change: { readonly value?: number; readonly share?: number }): void {
    this.withOthers(this.others().map((other, index) => (index === place ? { ...other, ...change } : other)));
  }

  protected removeOther(place: number): void {
    this.withOthers(this.others().filter((_, index) => index !== place));
  }
}

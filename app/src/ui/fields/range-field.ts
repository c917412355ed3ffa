import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatSlider, MatSliderRangeThumb } from '@angular/material/slider';

export interface Range {
  readonly low: number;
  readonly high: number;
}

/** Two numbers that bound something, slid by two handles. */
@Component({
  selector: 'fd-range-field',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatSlider, MatSliderRangeThumb],
  template: `
    @if (shown(); as text) {
      <span class="name" aria-hidden="true">{{ text }}</span>
    }
    <mat-slider [min]="least()" [max]="most()" [displayWith]="said">
      <input
        matSliderStartThumb
        #start="matSliderRangeThumb"
        [value]="low()"
        [attr.aria-label]="labels()[0]"
        (input)="moved.emit({ low: start.value, high: high() })"
      />
      <input
        matSliderEndThumb
        #end="matSliderRangeThumb"
        [value]="high()"
        [attr.aria-label]="labels()[1]"
        (input)="moved.emit({ low: low(), high: end.value })"
      />
    </mat-slider>
    <span class="mono figure" aria-hidden="true">{{ text() }}</span>
  `,
  styleUrl: './slide-field.scss',
})
export class RangeField {
  /** What each handle is called: lowest, highest. */
  readonly labels = input.required<readonly [string, string]>();
  readonly shown = input<string>();
  readonly low = input.required<number>();
  readonly high = input.required<number>();
  readonly least = input.required<number>();
  readonly most = input.required<number>();
  readonly inWords = input<(value: number) => string>(String);
  readonly moved = output<Range>();

  protected readonly said = (value: number): string => this.inWords()(value);
  protected readonly text = computed(() => `${this.said(this.low())}–${this.said(this.high())}`);
}

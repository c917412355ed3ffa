import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatSlider, MatSliderThumb } from '@angular/material/slider';

/** A number that is slid, with its unit beside it. */
@Component({
  selector: 'fd-slide-field',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatSlider, MatSliderThumb],
  template: `
    @if (shown(); as text) {
      <span class="name" aria-hidden="true">{{ text }}</span>
    }
    <mat-slider [min]="least()" [max]="most()" [step]="step()" [displayWith]="said">
      <input
        matSliderThumb
        #thumb="matSliderThumb"
        [value]="value()"
        [attr.aria-label]="label()"
        (input)="moved.emit(thumb.value)"
        (dblclick)="returns()"
      />
    </mat-slider>
    <span class="mono figure" aria-hidden="true">{{ said(value()) }}</span>
  `,
  styleUrl: './slide-field.scss',
})
export class SlideField {
  readonly label = input.required<string>();
  /** Its name on the page, where it is not told by what stands around it. */
  readonly shown = input<string>();
  readonly value = input.required<number>();
  readonly least = input(0);
  readonly most = input(100);
  readonly step = input(1);
  readonly unit = input('');
  /** Where a double click puts it back to. */
  readonly usual = input<number>();
  /** How the number is told, where it is not simply a number with its unit. */
  readonly inWords = input<(value: number) => string>();
  readonly moved = output<number>();
  protected readonly said = (value: number): string =>
    this.inWords()?.(value) ?? (this.unit() === '' ? String(value) : `${value} ${this.unit()}`);

  protected returns(): void {
    const usual = this.usual();
    if (usual !== undefined) this.moved.emit(usual);
  }
}

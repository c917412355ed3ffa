import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatIconButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';

/** How many steps a strip or a loop has, and a step less or more. */
@Component({
  selector: 'fd-step-count',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatIcon, MatIconButton],
  template: `
    <button matIconButton class="small" [attr.aria-label]="of() + ': a step less'" (click)="resized.emit(-1)">
      <mat-icon svgIcon="remove" />
    </button>
    <span class="mono count" title="Its length in steps">{{ count() }}</span>
    <button matIconButton class="small" [attr.aria-label]="of() + ': a step more'" (click)="resized.emit(1)">
      <mat-icon svgIcon="add" />
    </button>
  `,
  styles: `
    :host {
      display: flex;
      align-items: center;
    }
    .count {
      min-width: 1.25rem;
      text-align: center;
      font-size: 0.75rem;
    }
  `,
})
export class StepCount {
  /** “Loudness”, “Loop 2”. */
  readonly of = input.required<string>();
  readonly count = input.required<number>();
  /** By so many steps. */
  readonly resized = output<1 | -1>();
}

import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { LoopedStretch } from '../../desks/looped-stretch';
import { NumberField } from '../../ui/fields/number-field';

/** How often what is looped goes round in its files. */
@Component({
  selector: 'fd-times-round',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [NumberField],
  template: `
    <fd-number-field
      label="Times round"
      told="1 to 16 times; nothing has changed."
      [value]="looped.rounds()"
      [bounds]="{ least: 1, most: 16 }"
      (changed)="looped.rounds.set($event)"
    />
    <span>times round; what is left to chance differs each time</span>
  `,
  styles: ':host { display: contents; }',
})
export class TimesRound {
  protected readonly looped = inject(LoopedStretch);
}

import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatCheckbox } from '@angular/material/checkbox';
import { COUNT_IN_NAMES, RecordingSettings, type RecordSettings } from '../desks/playing/record-settings';
import { ChoiceField, type Choice } from '../ui/fields/choice-field';

const COUNTS: readonly RecordSettings['countIn'][] = [0, 1, 2];

/** How a recording is counted in, and whether the metronome goes along: the same for notes and for guides. */
@Component({
  selector: 'fd-count-in',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, MatCheckbox],
  template: `
    <fd-choice-field
      class="small"
      label="Count in"
      [choices]="counts"
      [value]="settings.now().countIn"
      (chosen)="settings.change({ countIn: $event })"
    />
    <mat-checkbox [checked]="settings.now().clicks" (change)="settings.change({ clicks: $event.checked })"
      >clicks</mat-checkbox
    >
  `,
  styles: `
    :host {
      display: contents;
    }
  `,
})
export class CountIn {
  protected readonly settings = inject(RecordingSettings);
  protected readonly counts = COUNTS.map((value): Choice<RecordSettings['countIn']> => ({
    value,
    text: COUNT_IN_NAMES[value],
  }));
}

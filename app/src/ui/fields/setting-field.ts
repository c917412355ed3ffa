import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { choiceOf, type BoundSetting } from '@fendro/core/settings/setting';
import { ChoiceField } from './choice-field';

/** A setting under its name, with all its choices; one that stands between two of them shows the nearest. */
@Component({
  selector: 'fd-setting-field',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField],
  template: `
    <span aria-hidden="true">{{ setting().label }}</span>
    <fd-choice-field
      class="small"
      [label]="setting().label"
      [choices]="setting().choices"
      [value]="nearest()"
      (chosen)="chosen.emit($event)"
    />
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      font-size: 0.75rem;
      color: var(--quiet);
    }
  `,
})
export class SettingField {
  readonly setting = input.required<Pick<BoundSetting<unknown>, 'label' | 'choices' | 'value'>>();
  readonly chosen = output<string | number>();
  protected readonly nearest = computed(() => choiceOf(this.setting())?.value ?? this.setting().value);
}

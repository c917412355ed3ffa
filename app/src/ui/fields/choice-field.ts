import { afterRenderEffect, ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { FormControl, ReactiveFormsModule } from '@angular/forms';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';

/** One of a short list. */
export interface Choice<T> {
  readonly value: T;
  readonly text: string;
  /** The heading that it stands under. */
  readonly group?: string;
}

/** Words as choices that mean themselves. */
export const choicesOf = <T extends string>(values: readonly T[]): readonly Choice<T>[] =>
  values.map((value) => ({ value, text: value }));

/** A choice from a short list: the system's own list inside a field. */
@Component({
  selector: 'fd-choice-field',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatFormField, MatInput, ReactiveFormsModule],
  template: `
    <mat-form-field>
      <select matNativeControl #field [attr.aria-label]="label()" [formControl]="control" (change)="pick(field.value)">
        @for (group of groups(); track group.name) {
          @if (group.name) {
            <optgroup [label]="group.name">
              @for (choice of group.choices; track choice.value) {
                <option [value]="keyOf(choice.value)">{{ choice.text }}</option>
              }
            </optgroup>
          } @else {
            @for (choice of group.choices; track choice.value) {
              <option [value]="keyOf(choice.value)">{{ choice.text }}</option>
            }
          }
        }
      </select>
    </mat-form-field>
  `,
})
export class ChoiceField<T extends string | number | null> {
  readonly label = input.required<string>();
  readonly choices = input.required<readonly Choice<T>[]>();
  readonly value = input.required<T>();
  readonly chosen = output<T>();
  protected readonly control = new FormControl('', { nonNullable: true });
  /** In their order, each heading once. */
  protected readonly groups = computed(() => {
    const groups = new Map<string, Choice<T>[]>();
    for (const choice of this.choices())
      groups.set(choice.group ?? '', [...(groups.get(choice.group ?? '') ?? []), choice]);
    return [...groups].map(([name, choices]) => ({ name, choices }));
  });

  constructor() {
    // After the options are there.
    afterRenderEffect(() => {
      this.choices();
      this.control.setValue(this.keyOf(this.value()));
    });
  }

  /** What stands for a value among the options. */
  protected keyOf(value: T): string {
    return value === null ? '' : String(value);
  }

  protected pick(key: string): void {
    const choice = this.choices().find(({ value }) => this.keyOf(value) === key);
    if (choice && choice.value !== this.value()) this.chosen.emit(choice.value);
    // What was refused gives way to what holds.
    this.control.setValue(this.keyOf(this.value()));
  }
}

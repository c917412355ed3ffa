import { booleanAttribute, ChangeDetectionStrategy, Component, computed, effect, input, output } from '@angular/core';
import { FormControl, ReactiveFormsModule } from '@angular/forms';
import { MatError, MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { named } from './named';

/** A name that is typed where it stands; an empty one is no name, and leaves the old one where there must be one. */
@Component({
  selector: 'fd-text-field',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatError, MatFormField, MatInput, ReactiveFormsModule],
  template: `
    <mat-form-field class="told-below">
      <input
        matInput
        #field
        autocomplete="off"
        [attr.aria-label]="label()"
        [maxlength]="most()"
        [formControl]="control"
        (change)="take(field.value)"
        (keydown.enter)="field.blur()"
        (keydown.escape)="putBack()"
      />
      <mat-error role="alert">{{ told() }}</mat-error>
    </mat-form-field>
  `,
})
export class TextField {
  readonly label = input.required<string>();
  readonly value = input.required<string>();
  /** Characters. */
  readonly most = input(60);
  readonly mayBeEmpty = input(false, { transform: booleanAttribute });
  readonly changed = output<string>();
  protected readonly control = new FormControl('', { nonNullable: true, validators: named });
  protected readonly told = computed(() => `A name needs a letter; it stays “${this.value()}”.`);

  constructor() {
    effect(() => {
      this.control.setValidators(this.mayBeEmpty() ? null : named);
      this.control.reset(this.value());
    });
  }

  protected take(typed: string): void {
    this.control.setValue(typed);
    this.control.markAsTouched();
    if (this.control.invalid) return;
    const text = typed.trim();
    if (text !== this.value()) this.changed.emit(text);
    this.control.reset(this.value());
  }

  protected putBack(): void {
    this.control.reset(this.value());
  }
}

import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  input,
  output,
  viewChild,
} from '@angular/core';
import { FormControl, ReactiveFormsModule, type AbstractControl, type ValidationErrors } from '@angular/forms';
import { MatError, MatFormField, MatSuffix } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { readNumber, type NumberBounds } from '../read-number';

/** A number that is typed: what cannot be taken is told below the field and changes nothing. */
@Component({
  selector: 'fd-number-field',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatError, MatFormField, MatInput, MatSuffix, ReactiveFormsModule],
  template: `
    <mat-form-field class="told-below">
      <input
        matInput
        #field
        class="mono"
        autocomplete="off"
        [attr.inputmode]="(bounds().digits ?? 0) > 0 ? 'decimal' : 'numeric'"
        [attr.aria-label]="label()"
        [placeholder]="blank() ?? ''"
        [style.width.ch]="width()"
        [formControl]="control"
        (change)="take(field.value)"
        (keydown.enter)="field.blur()"
        (keydown.escape)="putBack()"
        (keydown.arrowup)="step($event, 1)"
        (keydown.arrowdown)="step($event, -1)"
        [attr.role]="whole() ? 'spinbutton' : null"
        [attr.aria-valuenow]="whole() ? value() : null"
        [attr.aria-valuemin]="whole() ? bounds().least : null"
        [attr.aria-valuemax]="whole() ? bounds().most : null"
      />
      @if (unit(); as text) {
        <span matTextSuffix>{{ text }}</span>
      }
      <mat-error role="alert">{{ told() }}</mat-error>
    </mat-form-field>
  `,
})
export class NumberField {
  readonly label = input.required<string>();
  readonly value = input.required<number | null>();
  readonly bounds = input.required<NumberBounds>();
  readonly unit = input<string>();
  /** What is told where no such number was typed: what is possible, and that nothing has changed. */
  readonly told = input.required<string>();
  /** What an empty field means; without it an empty field is no number. */
  readonly blank = input<string>();
  /** What it is a number of: what was typed for one is nothing to another. */
  readonly of = input<unknown>();
  /** By how much the arrow keys change a whole number. */
  readonly stepSize = input(1);
  protected readonly whole = computed(() => (this.bounds().digits ?? 0) === 0);
  readonly changed = output<number>();
  readonly cleared = output();
  private readonly field = viewChild.required<ElementRef<HTMLInputElement>>('field');
  private readonly text = computed(() => String(this.value() ?? ''));
  protected readonly control = new FormControl('', { nonNullable: true });
  protected readonly width = computed(
    () => Math.max(String(this.bounds().most).length, this.text().length, this.blank()?.length ?? 0) + 1.5,
  );

  constructor() {
    effect(() => {
      this.of();
      const [bounds, text] = [this.bounds(), this.text()];
      this.control.setValidators(({ value }: AbstractControl<string>): ValidationErrors | null =>
        this.isBlank(value) || readNumber(value, bounds) !== null ? null : { number: true },
      );
      this.control.reset(text);
    });
  }

  /** True where what stands in the field is no such number; it is told from then on. */
  refuses(): boolean {
    this.control.markAsTouched();
    return this.control.invalid;
  }

  private isBlank(text: string): boolean {
    return this.blank() !== undefined && text.trim() === '';
  }

  protected take(text: string): void {
    this.control.setValue(text);
    this.control.markAsTouched();
    if (this.control.invalid) return;
    const number = readNumber(text, this.bounds());
    if (number === null) this.cleared.emit();
    else if (number !== this.value()) this.changed.emit(number);
    // What was refused, or written another way, gives way to what holds.
    this.control.reset(this.text());
  }

  /** Up and down step from what stands in the field. */
  protected step(event: Event, by: 1 | -1): void {
    if (!this.whole()) return;
    event.preventDefault();
    const { least, most } = this.bounds();
    const from = readNumber(this.control.value, this.bounds()) ?? this.value() ?? least;
    this.take(String(Math.max(least, Math.min(most, from + by * this.stepSize()))));
  }

  protected putBack(): void {
    this.control.reset(this.text());
    this.field().nativeElement.select();
  }
}

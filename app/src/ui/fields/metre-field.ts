import {
  afterRenderEffect,
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  input,
  linkedSignal,
  output,
  viewChild,
} from '@angular/core';
import { FormControl, ReactiveFormsModule, type AbstractControl, type ValidationErrors } from '@angular/forms';
import { MatError, MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { METRES, metreText, readMetre, type Metre } from '@fendro/core/theory/metre';
import { ChoiceField, type Choice } from './choice-field';

/** Stands for the choice of typing another one. */
const OTHER = 'other';

const isMetre = ({ value }: AbstractControl<string>): ValidationErrors | null =>
  readMetre(value) === null ? { metre: true } : null;

/** A metre: one of those that are usual, or any that is typed, with its groups. */
@Component({
  selector: 'fd-metre-field',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, MatError, MatFormField, MatInput, ReactiveFormsModule],
  template: `
    @if (typing()) {
      <mat-form-field class="told-below">
        <input
          matInput
          #field
          class="mono"
          autocomplete="off"
          [attr.aria-label]="label() + ', typed'"
          [formControl]="control"
          (change)="take(field.value)"
          (keydown.enter)="field.blur()"
          (keydown.escape)="typing.set(false)"
        />
        <mat-error role="alert"
          >Type a metre such as 7/8, or with its groups, 7/8 3+2+2: halves, quarters or eighths (in groups of two to
          four), up to 16 of them. It stays {{ shown() }}.</mat-error
        >
      </mat-form-field>
    } @else {
      <fd-choice-field [label]="label()" [choices]="choices()" [value]="shown()" (chosen)="choose($event)" />
    }
  `,
  styles: `
    mat-form-field {
      width: 7.5rem;
    }
  `,
})
export class MetreField {
  readonly label = input.required<string>();
  /** Null where none is its own. */
  readonly value = input.required<Metre | null>();
  /** What having none means; without it there always is one. */
  readonly blank = input<string>();
  readonly chosen = output<Metre>();
  readonly cleared = output();
  protected readonly typing = linkedSignal({ source: this.value, computation: () => false });
  private readonly field = viewChild<ElementRef<HTMLInputElement>>('field');
  protected readonly control = new FormControl('', { nonNullable: true, validators: isMetre });
  protected readonly shown = computed(() => {
    const metre = this.value();
    return metre ? metreText(metre) : (this.blank() ?? '');
  });
  protected readonly choices = computed((): readonly Choice<string>[] => {
    const [blank, now] = [this.blank(), this.shown()];
    const usual = METRES.map(metreText);
    const known = blank === undefined ? usual : [blank, ...usual];
    const all = known.includes(now) ? known : [...known, now];
    return [...all.map((text) => ({ value: text, text })), { value: OTHER, text: 'other …' }];
  });

  constructor() {
    // The field that was asked for is ready to be typed in.
    afterRenderEffect(() => {
      const field = this.field()?.nativeElement;
      field?.focus();
      field?.select();
    });
  }

  protected choose(text: string): void {
    if (text === OTHER) {
      this.control.reset(this.value() ? this.shown() : '');
      this.typing.set(true);
    } else if (text === this.blank()) this.cleared.emit();
    else this.take(text);
  }

  protected take(text: string): void {
    this.control.setValue(text);
    this.control.markAsTouched();
    const metre = readMetre(text);
    if (!metre) return;
    this.typing.set(false);
    if (metreText(metre) !== this.shown()) this.chosen.emit(metre);
  }
}

import { ChangeDetectionStrategy, Component, computed, effect, input, output, signal } from '@angular/core';
import { FormControl, ReactiveFormsModule } from '@angular/forms';
import {
  MatAutocomplete,
  MatAutocompleteTrigger,
  MatOptgroup,
  MatOption,
  type MatAutocompleteActivatedEvent,
  type MatAutocompleteSelectedEvent,
} from '@angular/material/autocomplete';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import type { Choice } from './choice-field';
import { wordsIn } from '../words';

/** A choice from a long list, found by words; what the arrow keys come upon can be heard before it is taken. */
@Component({
  selector: 'fd-find-field',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    MatAutocomplete,
    MatAutocompleteTrigger,
    MatFormField,
    MatInput,
    MatOptgroup,
    MatOption,
    ReactiveFormsModule,
  ],
  template: `
    <mat-form-field>
      <input
        matInput
        #field
        #trigger="matAutocompleteTrigger"
        autocomplete="off"
        spellcheck="false"
        [attr.aria-label]="label()"
        [placeholder]="placeholder()"
        [matAutocomplete]="found"
        [formControl]="control"
        (focus)="wanted.set(true); field.select()"
        (input)="asked.set(field.value)"
        (keydown.enter)="takeFound(trigger)"
      />
      <mat-autocomplete
        #found="matAutocomplete"
        [panelWidth]="panelWidth()"
        [displayWith]="named"
        (closed)="leave()"
        (optionSelected)="pick($event)"
        (optionActivated)="come($event)"
      >
        @if (wanted()) {
          @for (group of groups(); track group.name) {
            <mat-optgroup [label]="group.name">
              @for (choice of group.choices; track choice.value) {
                <mat-option [value]="choice.value">{{ choice.text }}</mat-option>
              }
            </mat-optgroup>
          } @empty {
            <mat-option disabled>Nothing by these words</mat-option>
          }
        }
      </mat-autocomplete>
    </mat-form-field>
  `,
})
export class FindField {
  readonly label = input.required<string>();
  readonly choices = input.required<readonly Choice<string>[]>();
  readonly value = input.required<string>();
  readonly placeholder = input('');
  readonly panelWidth = input<string>('18rem');
  readonly chosen = output<string>();
  /** The arrow keys came upon one: it may be heard. */
  readonly tried = output<string>();
  /** The list was left; whatever was tried is over. */
  readonly left = output();
  /** False until the first focus: most lists are long and never opened. */
  protected readonly wanted = signal(false);
  /** What is typed to find by; nothing while the list has only been opened, and again once it is left. */
  protected readonly asked = signal('');
  protected readonly control = new FormControl('', { nonNullable: true });
  protected readonly named = (value: string): string =>
    this.choices().find((choice) => choice.value === value)?.text ?? '';
  protected readonly groups = computed(() => {
    const words = wordsIn(this.asked());
    const groups = new Map<string, Choice<string>[]>();
    for (const choice of this.choices()) {
      const group = choice.group ?? '';
      const text = `${choice.text} ${group}`.toLowerCase();
      if (words.every((word) => text.includes(word))) groups.set(group, [...(groups.get(group) ?? []), choice]);
    }
    return [...groups].map(([name, choices]) => ({ name, choices }));
  });

  private readonly text = computed(() => this.named(this.value()));

  constructor() {
    effect(() => {
      // Lists that say the same anew must not undo what is being typed.
      this.text();
      this.control.setValue(this.value());
    });
  }

  protected pick({ option }: MatAutocompleteSelectedEvent): void {
    if (typeof option.value === 'string' && option.value !== this.value()) this.chosen.emit(option.value);
  }

  /**
   * Enter after typing means what was found, or what the arrows came upon in it: never what a list shows that has not
   * caught up with the typing.
   */
  protected takeFound(trigger: MatAutocompleteTrigger): void {
    if (!trigger.panelOpen || this.asked() === '') return;
    const found = this.groups().flatMap(({ choices }) => choices);
    const choice = found.find(({ value }) => value === trigger.activeOption?.value) ?? found[0];
    if (!choice) return;
    trigger.closePanel();
    if (choice.value !== this.value()) this.chosen.emit(choice.value);
  }

  protected come({ option }: MatAutocompleteActivatedEvent): void {
    if (typeof option?.value === 'string') this.tried.emit(option.value);
  }

  /** What was typed was for finding only. */
  protected leave(): void {
    this.asked.set('');
    this.left.emit();
    this.control.setValue(this.value());
  }
}

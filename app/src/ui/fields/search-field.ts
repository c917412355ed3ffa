import { ChangeDetectionStrategy, Component, input, model } from '@angular/core';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';

/** Words to find something by, while they are typed. */
@Component({
  selector: 'fd-search-field',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatFormField, MatInput],
  template: `
    <mat-form-field>
      <input
        matInput
        #words
        type="search"
        autocomplete="off"
        spellcheck="false"
        [attr.aria-label]="label()"
        [placeholder]="placeholder()"
        [value]="query()"
        (input)="query.set(words.value)"
      />
    </mat-form-field>
  `,
})
export class SearchField {
  readonly label = input.required<string>();
  readonly placeholder = input('');
  readonly query = model.required<string>();
}

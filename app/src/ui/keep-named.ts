import { ChangeDetectionStrategy, Component, input, output, signal } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatButton } from '@angular/material/button';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { LIMITS, shortened } from '@fendro/core/song/limits';
import { named } from './fields/named';

/** One thing on the shelf, as a list names it. */
export interface KeptThing {
  readonly id: string;
  readonly name: string;
  /** What more is said of it; nothing where the name says all. */
  readonly note?: string;
}

/** Puts what is in view on the shelf under a name, and takes things off it that are there. */
@Component({
  selector: 'fd-keep-named',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatFormField, MatInput, ReactiveFormsModule],
  template: `
    @if (naming()) {
      <form [formGroup]="form" (submit)="submit($event)">
        <mat-form-field>
          <input matInput formControlName="name" [attr.aria-label]="'Name of the ' + what()" [maxlength]="longest" />
        </mat-form-field>
        <button matButton="filled" class="small">Save</button>
        <button matButton="outlined" class="small" type="button" (click)="naming.set(false)">Cancel</button>
      </form>
    } @else if (save()) {
      <button matButton="outlined" class="small" (click)="askName()">Save to the shelf …</button>
    }
    @for (own of kept(); track own.id) {
      <span class="own"
        ><span
          >{{ own.name }}
          @if (own.note) {
            <small class="quiet">{{ own.note }}</small>
          }
        </span>
        <button
          matButton
          class="small"
          [attr.aria-label]="'Remove ' + own.name + ' from the shelf'"
          (click)="removed.emit(own.id)"
        >
          Remove
        </button></span
      >
    }
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      gap: 4px;
      align-items: flex-start;
    }
    form,
    .own {
      display: flex;
      align-items: center;
      gap: 6px;
      font-size: 0.8125rem;
    }
    .own {
      justify-content: space-between;
      align-self: stretch;
    }
  `,
})
export class KeepNamed {
  /** “brief”, “treatments”. */
  readonly what = input.required<string>();
  /** The name that is proposed. */
  readonly proposed = input.required<string>();
  readonly kept = input.required<readonly KeptThing[]>();
  /** Puts it there, and tells whether that could be done; null where there is nothing to be kept. */
  readonly save = input.required<((name: string) => boolean) | null>();
  readonly removed = output<string>();
  protected readonly naming = signal(false);
  protected readonly longest = LIMITS.name;
  protected readonly form = new FormGroup({ name: new FormControl('', { nonNullable: true, validators: named }) });

  protected askName(): void {
    this.form.setValue({ name: shortened(this.proposed(), LIMITS.name) });
    this.naming.set(true);
  }

  protected submit(event: Event): void {
    event.preventDefault();
    const { name } = this.form.getRawValue();
    if (this.form.valid && this.save()?.(name.trim())) this.naming.set(false);
  }
}

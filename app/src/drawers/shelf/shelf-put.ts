import { ChangeDetectionStrategy, Component, computed, ElementRef, inject, signal, viewChild } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { MatMenu, MatMenuItem, MatMenuTrigger } from '@angular/material/menu';
import { Putting, type Puttable } from '../../desks/shelf/putting';
import { News } from '../../store/news';
import { named } from '../../ui/fields/named';

/** Puts something of the song on the shelf: first what, then under which name. */
@Component({
  selector: 'fd-shelf-put',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatFormField, MatInput, MatMenu, MatMenuItem, MatMenuTrigger, ReactiveFormsModule],
  template: `
    @if (naming(); as what) {
      <form [formGroup]="form" (submit)="put($event, what)">
        <mat-form-field>
          <input matInput #field formControlName="name" maxlength="60" [attr.aria-label]="'Name for ' + what.what" />
        </mat-form-field>
        <button matButton="filled" class="small">Put there</button>
        <button matButton="outlined" class="small" type="button" (click)="naming.set(null)">Cancel</button>
      </form>
    } @else {
      <button matButton="outlined" class="small" [matMenuTriggerFor]="menu" [disabled]="putting.choices().length === 0">
        Put on the shelf …
      </button>
      <mat-menu #menu="matMenu">
        @for (choice of putting.choices(); track choice.id) {
          <button mat-menu-item (click)="ask(choice)">{{ first(choice.what) }}</button>
        }
      </mat-menu>
    }
  `,
  styles: `
    form {
      display: flex;
      align-items: center;
      gap: 6px;
    }
  `,
})
export class ShelfPut {
  protected readonly putting = inject(Putting);
  private readonly news = inject(News);
  protected readonly naming = signal<Puttable | null>(null);
  protected readonly form = new FormGroup({ name: new FormControl('', { nonNullable: true, validators: named }) });
  private readonly field = viewChild<ElementRef<HTMLInputElement>>('field');
  private readonly element = computed(() => this.field()?.nativeElement);

  protected readonly first = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

  protected ask(what: Puttable): void {
    this.form.setValue({ name: what.name.slice(0, 60) });
    this.naming.set(what);
    // The menu gives the focus back to its button first, which is no longer there.
    setTimeout(() => this.element()?.select());
  }

  protected put(event: Event, what: Puttable): void {
    event.preventDefault();
    const name = this.form.getRawValue().name.trim();
    if (!this.form.valid || !what.put(name)) return;
    this.naming.set(null);
    this.news.say(`“${name}” lies on the shelf`);
  }
}

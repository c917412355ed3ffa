import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { ReactiveFormsModule, FormControl, FormGroup } from '@angular/forms';
import { named } from '../ui/fields/named';
import { MatInput } from '@angular/material/input';
import { MatFormField } from '@angular/material/form-field';
import { ChoiceField, type Choice } from '../ui/fields/choice-field';
import { MatButton } from '@angular/material/button';
import { Store } from '@ngrx/store';
import { LIMITS, shortened } from '@fendro/core/song/limits';
import { takenBrief } from '@fendro/core/song/briefs';
import { isDrumRole, roleOf } from '@fendro/core/song/roles';
import type { Brief, Part, Role } from '@fendro/core/song/schema';
import { instrumentOf } from '@fendro/core/sounding/instruments';
import { selectScore } from '../store/selectors';
import { Shelf } from '../store/shelf';
import { ScoreActions } from '../store/song.actions';

/** Briefs taken over from other parts and from the shelf, and saved there. */
@Component({
  selector: 'fd-brief-shelf',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, ChoiceField, MatFormField, MatInput, ReactiveFormsModule],
  template: `
    <fd-choice-field label="Take the brief of" [choices]="sources()" [value]="null" (chosen)="take($event)" />
    @if (naming()) {
      <form [formGroup]="form" (submit)="save($event)">
        <mat-form-field>
          <input matInput formControlName="name" aria-label="Name of the brief" [maxlength]="longest" />
        </mat-form-field>
        <button matButton="filled" class="small">Save</button>
        <button matButton="outlined" class="small" type="button" (click)="naming.set(false)">Cancel</button>
      </form>
    } @else {
      <button matButton="outlined" class="small" (click)="askName()">Save to the shelf …</button>
    }
    @for (own of saved(); track own.id) {
      <span class="own"
        ><span
          >{{ own.name }} <small class="quiet">{{ roleName(own.role) }}</small></span
        >
        <button
          matButton
          class="small"
          [attr.aria-label]="'Remove ' + own.name + ' from the shelf'"
          (click)="shelf.removeBrief(own.id)"
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
      padding-top: 4px;
      border-top: 1px solid var(--line);
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
export class BriefShelf {
  private readonly store = inject(Store);
  protected readonly shelf = inject(Shelf);
  readonly part = input.required<Part>();
  private readonly score = this.store.selectSignal(selectScore);
  protected readonly naming = signal(false);

  /** Drums and pitched parts have little to say to each other. */
  private readonly alike = (role: Role): boolean => isDrumRole(role) === isDrumRole(this.part().role);
  private readonly parts = computed(() =>
    (this.score()?.parts ?? []).filter(({ id, role }) => id !== this.part().id && this.alike(role)),
  );
  protected readonly saved = computed(() => this.shelf.contents().briefs.filter(({ role }) => this.alike(role)));
  protected readonly sources = computed((): readonly Choice<string | null>[] => [
    { value: null, text: 'Take a brief from …' },
    ...this.parts().map(({ id, name }) => ({ value: id, text: name, group: 'This song' })),
    ...this.saved().map(({ id, name }) => ({ value: id, text: name, group: 'Shelf' })),
  ]);
  protected readonly longest = LIMITS.name;
  protected readonly form = new FormGroup({ name: new FormControl('', { nonNullable: true, validators: named }) });

  protected askName(): void {
    this.form.setValue({ name: shortened(`${this.part().name} of ${this.score()?.title ?? ''}`, LIMITS.name) });
    this.naming.set(true);
  }

  protected roleName(role: Role): string {
    return roleOf(role).name.toLowerCase();
  }

  protected take(id: string | null): void {
    const from: { readonly role: Role; readonly brief: Brief } | undefined =
      this.parts().find((part) => part.id === id) ?? this.saved().find((own) => own.id === id);
    const { id: part, role, brief, instrument } = this.part();
    if (from)
      this.store.dispatch(
        ScoreActions.briefChanged({ part, change: takenBrief(from, role, brief, instrumentOf(instrument)) }),
      );
  }

  protected save(event: Event): void {
    event.preventDefault();
    const { role, brief } = this.part();
    const { name } = this.form.getRawValue();
    if (this.form.valid && this.shelf.saveBrief({ name: name.trim(), role, brief })) this.naming.set(false);
  }
}

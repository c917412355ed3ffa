import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
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
  template: `
    <select #source class="field" aria-label="Take the brief of" (change)="take(source.value); source.value = ''">
      <option value="">Take a brief from …</option>
      @if (parts().length > 0) {
        <optgroup label="This song">
          @for (part of parts(); track part.id) {
            <option [value]="part.id">{{ part.name }}</option>
          }
        </optgroup>
      }
      @if (saved().length > 0) {
        <optgroup label="Shelf">
          @for (own of saved(); track own.id) {
            <option [value]="own.id">{{ own.name }}</option>
          }
        </optgroup>
      }
    </select>
    @if (naming()) {
      <form (submit)="save($event, name.value)">
        <input #name class="field" aria-label="Name of the brief" maxlength="60" [value]="proposed()" />
        <button class="button small primary">Save</button>
        <button class="button small" type="button" (click)="naming.set(false)">Cancel</button>
      </form>
    } @else {
      <button class="button small" (click)="naming.set(true)">Save to the shelf …</button>
    }
    @for (own of saved(); track own.id) {
      <span class="own"
        ><span
          >{{ own.name }} <small class="quiet">{{ roleName(own.role) }}</small></span
        >
        <button
          class="button bare small"
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
    .field {
      min-height: 28px;
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
  protected readonly parts = computed(() =>
    (this.score()?.parts ?? []).filter(({ id, role }) => id !== this.part().id && this.alike(role)),
  );
  protected readonly saved = computed(() => this.shelf.contents().briefs.filter(({ role }) => this.alike(role)));
  protected readonly proposed = computed(() =>
    shortened(`${this.part().name} of ${this.score()?.title ?? ''}`, LIMITS.name),
  );

  protected roleName(role: Role): string {
    return roleOf(role).name.toLowerCase();
  }

  protected take(id: string): void {
    const from: { readonly role: Role; readonly brief: Brief } | undefined =
      this.parts().find((part) => part.id === id) ?? this.saved().find((own) => own.id === id);
    const { id: part, role, brief, instrument } = this.part();
    if (from)
      this.store.dispatch(
        ScoreActions.briefChanged({ part, change: takenBrief(from, role, brief, instrumentOf(instrument)) }),
      );
  }

  protected save(event: Event, name: string): void {
    event.preventDefault();
    const { role, brief } = this.part();
    if (name.trim() === '') return;
    if (this.shelf.saveBrief({ name: name.trim(), role, brief })) this.naming.set(false);
  }
}

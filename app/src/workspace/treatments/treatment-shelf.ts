import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { Store } from '@ngrx/store';
import { TreatDesk } from '../../desks/treat-desk';
import { selectPart, selectScore } from '../../store/selectors';
import { Shelf } from '../../store/shelf';
import { ChoiceField, type Choice } from '../../ui/fields/choice-field';
import { KeepNamed } from '../../ui/keep-named';

/** Whole chains of treatments taken over from other parts and from the shelf, and saved there. */
@Component({
  selector: 'fd-treatment-shelf',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, KeepNamed],
  template: `
    <fd-choice-field label="Take treatments of" [choices]="sources()" [value]="null" (chosen)="take($event)" />
    <fd-keep-named
      what="treatments"
      [proposed]="proposed()"
      [kept]="shelf.contents().chains"
      [save]="desk.any() ? save : null"
      (removed)="shelf.remove('chains', $event)"
    />
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      gap: 4px;
      align-items: flex-start;
      margin-top: 6px;
      padding-top: 8px;
      border-top: 1px solid var(--line);
    }
    fd-keep-named {
      align-self: stretch;
    }
  `,
})
export class TreatmentShelf {
  private readonly store = inject(Store);
  protected readonly desk = inject(TreatDesk);
  protected readonly shelf = inject(Shelf);
  private readonly part = this.store.selectSignal(selectPart);
  private readonly score = this.store.selectSignal(selectScore);
  private readonly parts = computed(() =>
    (this.score()?.parts ?? []).filter(({ id, treatments }) => treatments && id !== this.part()?.id),
  );
  protected readonly sources = computed((): readonly Choice<string | null>[] => [
    { value: null, text: 'Take treatments from …' },
    ...this.parts().map(({ id, name }) => ({ value: id, text: name, group: 'This song' })),
    ...this.shelf.contents().chains.map(({ id, name }) => ({ value: id, text: name, group: 'Shelf' })),
  ]);
  /** Treatments are called by what they do. */
  protected readonly proposed = computed(
    () => this.desk.said({ branch: 0, step: 0 }) || `Of ${this.part()?.name ?? ''}`,
  );

  protected take(id: string | null): void {
    const chain =
      this.parts().find((part) => part.id === id)?.treatments ??
      this.shelf.contents().chains.find((own) => own.id === id)?.chain;
    if (chain) this.desk.take(chain);
  }

  protected readonly save = (name: string): boolean => this.shelf.add('chains', { name, chain: this.desk.chain() });
}

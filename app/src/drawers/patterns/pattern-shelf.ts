import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { Store } from '@ngrx/store';
import { isDrumRole, roleOf } from '@fendro/core/song/roles';
import type { Role } from '@fendro/core/song/schema';
import { PatternDesk } from '../../desks/pattern-desk';
import { selectPart, selectScore } from '../../store/selectors';
import { Shelf } from '../../store/shelf';
import { ChoiceField, type Choice } from '../../ui/fields/choice-field';
import { KeepNamed, type KeptThing } from '../../ui/keep-named';

/** Patterns taken from the shelf for the part in focus, and saved there. */
@Component({
  selector: 'fd-pattern-shelf',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, KeepNamed],
  template: `
    <fd-choice-field
      class="small"
      label="Take a pattern"
      [choices]="choices()"
      [value]="null"
      (chosen)="take($event)"
    />
    <fd-keep-named
      what="pattern"
      [proposed]="proposed()"
      [kept]="kept()"
      [save]="desk.pattern() ? save : null"
      (removed)="shelf.remove('patterns', $event)"
    />
  `,
  styles: `
    :host {
      display: flex;
      flex-wrap: wrap;
      gap: 4px 12px;
      align-items: flex-start;
    }
  `,
})
export class PatternShelf {
  private readonly store = inject(Store);
  protected readonly desk = inject(PatternDesk);
  protected readonly shelf = inject(Shelf);
  private readonly part = this.store.selectSignal(selectPart);
  private readonly score = this.store.selectSignal(selectScore);

  /** Patterns of drums say nothing to pitched parts, nor theirs to drums. */
  private readonly alike = computed(() => {
    const isDrums = (role: Role): boolean => isDrumRole(role) === isDrumRole(this.part()?.role ?? 'melody');
    return this.shelf.contents().patterns.filter(({ role }) => isDrums(role));
  });
  protected readonly kept = computed((): readonly KeptThing[] =>
    this.alike().map(({ id, name, role }) => ({ id, name, note: roleOf(role).name.toLowerCase() })),
  );
  protected readonly choices = computed((): readonly Choice<string | null>[] => [
    {
      value: null,
      text: this.alike().length === 0 ? 'No pattern on the shelf yet' : 'Take a pattern from the shelf …',
    },
    ...this.alike().map(({ id, name }) => ({ value: id, text: name })),
  ]);
  protected readonly proposed = computed(() => `${this.part()?.name ?? ''} of ${this.score()?.title ?? ''}`);

  protected take(id: string | null): void {
    const kept = this.alike().find((own) => own.id === id);
    if (kept) this.desk.take(kept.pattern, kept.role);
  }

  protected readonly save = (name: string): boolean => {
    const [pattern, part] = [this.desk.pattern(), this.part()];
    return pattern !== null && part !== null && this.shelf.add('patterns', { name, role: part.role, pattern });
  };
}

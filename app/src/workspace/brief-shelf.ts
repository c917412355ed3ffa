import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { ChoiceField, type Choice } from '../ui/fields/choice-field';
import { Store } from '@ngrx/store';
import { takenBrief } from '@fendro/core/song/briefs';
import { isDrumRole, roleOf } from '@fendro/core/song/roles';
import type { Brief, Part, Role } from '@fendro/core/song/schema';
import { instrumentOf } from '@fendro/core/sounding/instruments';
import { selectScore } from '../store/selectors';
import { Shelf } from '../store/shelf';
import { ScoreActions } from '../store/song.actions';
import { KeepNamed, type KeptThing } from '../ui/keep-named';

/** Briefs taken over from other parts and from the shelf, and saved there. */
@Component({
  selector: 'fd-brief-shelf',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, KeepNamed],
  template: `
    <fd-choice-field label="Take the brief of" [choices]="sources()" [value]="null" (chosen)="take($event)" />
    <fd-keep-named
      what="brief"
      [proposed]="proposed()"
      [kept]="kept()"
      [save]="save"
      (removed)="shelf.remove('briefs', $event)"
    />
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
    fd-keep-named {
      align-self: stretch;
    }
  `,
})
export class BriefShelf {
  private readonly store = inject(Store);
  protected readonly shelf = inject(Shelf);
  readonly part = input.required<Part>();
  private readonly score = this.store.selectSignal(selectScore);

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
  protected readonly kept = computed((): readonly KeptThing[] =>
    this.saved().map(({ id, name, role }) => ({ id, name, note: roleOf(role).name.toLowerCase() })),
  );
  protected readonly proposed = computed(() => `${this.part().name} of ${this.score()?.title ?? ''}`);

  protected take(id: string | null): void {
    const from: { readonly role: Role; readonly brief: Brief } | undefined =
      this.parts().find((part) => part.id === id) ?? this.saved().find((own) => own.id === id);
    const { id: part, role, brief, instrument } = this.part();
    if (from)
      this.store.dispatch(
        ScoreActions.briefChanged({ part, change: takenBrief(from, role, brief, instrumentOf(instrument)) }),
      );
  }

  protected readonly save = (name: string): boolean => {
    const { role, brief } = this.part();
    return this.shelf.add('briefs', { name, role, brief });
  };
}

import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { leanLabel } from '@fendro/core/lean/words';
import { FURTHEST_MOVE, type LeanMoves, type LeanSetting } from '@fendro/core/song/schema';
import { range } from '@fendro/core/theory/units';
import { LeanDesk, type LeanTarget } from '../../desks/lean-desk';
import { Shelf } from '../../store/shelf';
import { ChoiceField, type Choice } from '../../ui/fields/choice-field';
import { KeepNamed } from '../../ui/keep-named';

const FAR: readonly Choice<number>[] = range(2 * FURTHEST_MOVE + 1)
  .map((index) => FURTHEST_MOVE - index)
  .map((by) => ({ value: by, text: by === 0 ? 'stays' : by > 0 ? `${by} more` : `${-by} less` }));

/** A word of the writer's own, made of any settings, tried at once and kept on the shelf. */
@Component({
  selector: 'fd-own-leaning',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, KeepNamed, MatButton],
  template: `
    <button matButton class="small" [attr.aria-expanded]="making()" (click)="making.set(!making())">
      A word of your own …
    </button>
    @if (making()) {
      <p class="quiet">How far it moves each setting, in notches:</p>
      <div class="settings">
        @for (setting of settings(); track setting.id) {
          <label>
            <span aria-hidden="true">{{ setting.label }}</span>
            <fd-choice-field
              class="small"
              [label]="setting.label"
              [choices]="far"
              [value]="setting.by"
              (chosen)="put(setting.id, $event)"
            />
          </label>
        }
      </div>
      @if (moves().length > 0) {
        <button matButton="outlined" class="small" (click)="attempt()">Lean by it now</button>
      }
    }
    <fd-keep-named
      what="leaning"
      proposed="own way"
      [kept]="shelf.contents().leanings"
      [save]="making() && moves().length > 0 ? save : null"
      (removed)="shelf.removeLeaning($event)"
    />
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      align-items: flex-start;
      gap: 4px;
      padding-top: 6px;
      border-top: 1px solid var(--line);
    }
    p {
      margin: 0;
    }
    .settings {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(7rem, 1fr));
      gap: 4px 10px;
      align-self: stretch;
    }
    label {
      display: flex;
      flex-direction: column;
      font-size: 0.75rem;
      color: var(--quiet);
    }
    fd-keep-named {
      align-self: stretch;
    }
  `,
})
export class OwnLeaning {
  private readonly desk = inject(LeanDesk);
  protected readonly shelf = inject(Shelf);
  readonly of = input.required<LeanTarget>();
  protected readonly far = FAR;
  protected readonly making = signal(false);
  private readonly wished = signal<Readonly<Partial<Record<LeanSetting, number>>>>({});
  protected readonly settings = computed(() =>
    this.desk.settings(this.of()).map((id) => ({ id, label: leanLabel(id), by: this.wished()[id] ?? 0 })),
  );
  protected readonly moves = computed((): LeanMoves =>
    this.settings().flatMap(({ id, by }) => (by === 0 ? [] : [{ setting: id, by }])),
  );

  protected put(id: LeanSetting, by: number): void {
    this.wished.update((wished) => ({ ...wished, [id]: by }));
  }

  protected attempt(): void {
    this.desk.lean(this.of(), { name: 'an own way', moves: this.moves() }, 'now');
  }

  protected readonly save = (name: string): boolean => this.shelf.saveLeaning({ name, moves: this.moves() });
}

import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { leanLabel } from '@fendro/core/lean/words';
import { FURTHEST_MOVE, type LeanMoves, type LeanSetting } from '@fendro/core/song/schema';
import type { SettingChoice } from '@fendro/core/settings/setting';
import { range } from '@fendro/core/theory/units';
import { LeanDesk, type LeanTarget } from '../../desks/lean-desk';
import { Shelf } from '../../store/shelf';
import { SettingField } from '../../ui/fields/setting-field';
import { KeepNamed } from '../../ui/keep-named';

const FAR: readonly SettingChoice[] = range(2 * FURTHEST_MOVE + 1)
  .map((index) => FURTHEST_MOVE - index)
  .map((by) => ({ value: by, text: by === 0 ? 'stays' : by > 0 ? `${by} more` : `${-by} less` }));

/** A word of the writer's own, made of any settings, tried at once and kept on the shelf. */
@Component({
  selector: 'fd-own-leaning',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [KeepNamed, MatButton, SettingField],
  template: `
    <button matButton class="small" [attr.aria-expanded]="making()" (click)="making.set(!making())">
      A word of your own …
    </button>
    @if (making()) {
      <p class="quiet">How far it moves each setting, in notches:</p>
      <div class="settings">
        @for (setting of settings(); track setting.id) {
          <fd-setting-field [setting]="setting" (chosen)="put(setting.id, $event)" />
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
      (removed)="shelf.remove('leanings', $event)"
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
    fd-keep-named {
      align-self: stretch;
    }
  `,
})
export class OwnLeaning {
  private readonly desk = inject(LeanDesk);
  protected readonly shelf = inject(Shelf);
  readonly of = input.required<LeanTarget>();
  protected readonly making = signal(false);
  private readonly wished = signal<Readonly<Partial<Record<LeanSetting, number>>>>({});
  protected readonly settings = computed(() =>
    this.desk
      .settings(this.of())
      .map((id) => ({ id, label: leanLabel(id), choices: FAR, value: this.wished()[id] ?? 0 })),
  );
  protected readonly moves = computed((): LeanMoves =>
    this.settings().flatMap(({ id, value }) => (value === 0 ? [] : [{ setting: id, by: value }])),
  );

  protected put(id: LeanSetting, by: string | number): void {
    this.wished.update((wished) => ({ ...wished, [id]: Number(by) }));
  }

  protected attempt(): void {
    this.desk.lean(this.of(), { name: 'an own way', moves: this.moves() }, 'now');
  }

  protected readonly save = (name: string): boolean => this.shelf.add('leanings', { name, moves: this.moves() });
}

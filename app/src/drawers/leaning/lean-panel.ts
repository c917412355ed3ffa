import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatRadioButton, MatRadioGroup } from '@angular/material/radio';
import { leanSettings } from '@fendro/core/lean/lean-settings';
import { sayLean, type Leaning } from '@fendro/core/lean/words';
import { LeanDesk, type LeanTarget, type LeanWay } from '../../desks/lean-desk';
import { SettingField } from '../../ui/fields/setting-field';
import { OwnLeaning } from './own-leaning';

/** Words that lean a brief or a pattern: at once, slowly or by chance, those at work, and words of one's own. */
@Component({
  selector: 'fd-lean-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatRadioButton, MatRadioGroup, OwnLeaning, SettingField],
  template: `
    <div class="choice">
      @if (of() !== 'chords') {
        <mat-radio-group aria-label="How it leans" [value]="way()" (change)="way.set($event.value)">
          <mat-radio-button value="now">Now</mat-radio-button>
          <mat-radio-button value="slowly">Slowly</mat-radio-button>
          <mat-radio-button value="by chance">By chance</mat-radio-button>
        </mat-radio-group>
      }
      <div class="words" role="group" aria-label="Words that lean">
        @for (word of words(); track word.name) {
          <button matButton class="small" [disabled]="!can(word)" (click)="desk.lean(of(), word, way())">
            {{ word.name }}
          </button>
        }
      </div>
      @if (way() !== 'now' && desk.full(of()); as full) {
        <p class="quiet" role="status">{{ full }}</p>
      }
      @if (way() !== 'now' && of() === 'brief') {
        <p class="quiet">What is drafted from now on leans so, bar by bar.</p>
      }
    </div>
    @for (lean of atWork(); track $index; let place = $index) {
      <div class="lean" role="group" [attr.aria-label]="lean.text">
        <strong [class.off]="lean.off">{{ lean.text }}</strong>
        @for (setting of lean.settings; track setting.id) {
          <fd-setting-field [setting]="setting" (chosen)="set(place, setting.id, $event)" />
        }
        <div class="row">
          <button matButton="outlined" class="small" (click)="desk.strike(of(), place)">
            {{ lean.off ? 'Let it work again' : 'Strike out' }}
          </button>
          <button matButton class="small" (click)="desk.remove(of(), place)">Take away</button>
        </div>
      </div>
    }
    <fd-own-leaning [of]="of()" />
  `,
  styleUrl: './lean-panel.scss',
})
export class LeanPanel {
  protected readonly desk = inject(LeanDesk);
  readonly of = input.required<LeanTarget>();
  protected readonly way = signal<LeanWay>('now');
  protected readonly words = this.desk.words;
  protected readonly atWork = computed(() =>
    this.desk
      .leans(this.of())
      .map((lean) => ({ text: sayLean(lean), off: lean.off === true, settings: leanSettings(lean) })),
  );

  protected can(word: Leaning): boolean {
    const room = this.way() === 'now' || this.desk.full(this.of()) === '';
    return room && this.desk.moves(this.of(), word, this.way());
  }

  protected set(index: number, id: string, value: string | number): void {
    this.desk.set(this.of(), index, id, () => value);
  }
}

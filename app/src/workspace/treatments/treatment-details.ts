import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { treatmentAt, type At } from '@fendro/core/treat/chain-edits';
import { TreatDesk } from '../../desks/treat-desk';
import { SettingField } from '../../ui/fields/setting-field';

/** All that can be set of one treatment, and what can be done with it. */
@Component({
  selector: 'fd-treatment-details',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, SettingField],
  template: `
    @for (setting of settings(); track setting.id) {
      <fd-setting-field [setting]="setting" (chosen)="desk.set(at(), setting.id, $event)" />
    }
    <div class="row">
      <button matButton="outlined" class="small" [attr.aria-pressed]="off()" (click)="desk.strike(at())">
        {{ off() ? 'Let it work again' : 'Strike out' }}
      </button>
      <button matButton class="small" (click)="desk.move(at(), -1)">Earlier</button>
      <button matButton class="small" (click)="desk.move(at(), 1)">Later</button>
      <button matButton class="small" (click)="desk.remove(at())">Take away</button>
    </div>
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 8px 12px;
    }
    .row {
      grid-column: 1 / -1;
      display: flex;
      flex-wrap: wrap;
      gap: 6px;
    }
  `,
})
export class TreatmentDetails {
  protected readonly desk = inject(TreatDesk);
  readonly at = input.required<At>();
  protected readonly settings = computed(() => this.desk.settingsAt(this.at()));
  protected readonly off = computed(() => treatmentAt(this.desk.chain(), this.at())?.off === true);
}

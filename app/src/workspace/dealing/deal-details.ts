import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatCheckbox } from '@angular/material/checkbox';
import { DEAL_WAYS, type Deal } from '@fendro/core/song/schema';
import { wayOf } from '@fendro/core/treat/deal-settings';
import { RunsCommand } from '../../commands/runs-command';
import { DealDesk } from '../../desks/deal-desk';
import { ChoiceField } from '../../ui/fields/choice-field';

/** Dealt to nobody yet: what the choice of ways shows until somebody is. */
const FIRST: Deal = { way: DEAL_WAYS[0], to: [] };

/** Who plays the line of a part in its place, in which order, and how its notes are shared out. */
@Component({
  selector: 'fd-deal-details',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, MatButton, MatCheckbox, RunsCommand],
  template: `
    <p class="quiet">
      Its notes, behind its treatments, are played by the parts that you choose. Each goes through the treatments of
      those too, and moves by octaves where their instrument does not reach it.
    </p>
    <fd-choice-field
      class="small"
      label="How it is dealt"
      [choices]="way().choices"
      [value]="'' + way().value"
      (chosen)="desk.setWay($event)"
    />
    <ol aria-label="Dealt to">
      @for (part of desk.hands(); track part.id) {
        <li>
          <mat-checkbox [checked]="takes(part.id)" (change)="desk.give(part.id, $event.checked)">{{
            desk.nameOf(part.id)
          }}</mat-checkbox>
          @if (takes(part.id)) {
            <button
              matButton
              class="small"
              [attr.aria-label]="desk.nameOf(part.id) + ' earlier'"
              (click)="desk.move(part.id, -1)"
            >
              Earlier
            </button>
            <button
              matButton
              class="small"
              [attr.aria-label]="desk.nameOf(part.id) + ' later'"
              (click)="desk.move(part.id, 1)"
            >
              Later
            </button>
          }
        </li>
      }
    </ol>
    @if (desk.deal(); as deal) {
      <div class="row">
        <button matButton="outlined" class="small" [attr.aria-pressed]="deal.off === true" (click)="desk.strike()">
          {{ deal.off ? 'Let it work again' : 'Strike out' }}
        </button>
        <button matButton="outlined" class="small" fdRuns="treat.write">Write into the notes here</button>
        <button matButton class="small" (click)="desk.remove()">Take away</button>
      </div>
    }
  `,
  styles: `
    p {
      margin: 0 0 8px;
      font-size: 0.8125rem;
    }
    ol {
      margin: 8px 0;
      padding: 0;
      list-style: none;
    }
    li {
      display: flex;
      align-items: center;
      min-height: 32px;
    }
    mat-checkbox {
      flex: 1;
    }
    .row {
      display: flex;
      flex-wrap: wrap;
      gap: 6px;
    }
  `,
})
export class DealDetails {
  protected readonly desk = inject(DealDesk);
  protected readonly way = computed(() => wayOf(this.desk.deal() ?? FIRST));

  protected takes(part: string): boolean {
    return this.desk.deal()?.to.includes(part) === true;
  }
}

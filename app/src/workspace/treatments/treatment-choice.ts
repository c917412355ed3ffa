import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatRadioButton, MatRadioGroup } from '@angular/material/radio';
import { MOST_BRANCHES, MOST_TREATMENTS } from '@fendro/core/song/schema';
import { TREATMENTS } from '@fendro/core/treat/first-treatment';
import { TREATMENT_NAMES } from '@fendro/core/treat/words';
import { RunsCommand } from '../../commands/runs-command';
import { TreatDesk } from '../../desks/treat-desk';
import { TreatmentShelf } from './treatment-shelf';

/** What notes can be treated by: each is added behind what is there, or as a branch of its own, and heard at once. */
@Component({
  selector: 'fd-treatment-choice',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatRadioButton, MatRadioGroup, RunsCommand, TreatmentShelf],
  template: `
    <mat-radio-group aria-label="Where it comes in" [value]="meanwhile()" (change)="meanwhile.set($event.value)">
      <mat-radio-button [value]="false">Then, after the others</mat-radio-button>
      <mat-radio-button [value]="true">Meanwhile</mat-radio-button>
    </mat-radio-group>
    @for (name of names; track name.does) {
      <button matButton class="small" [disabled]="full() !== ''" (click)="desk.add(name.does, meanwhile())">
        {{ name.text }}
      </button>
    }
    @if (full()) {
      <p class="quiet" role="status">{{ full() }}</p>
    }
    @if (desk.any()) {
      <div class="row">
        <button matButton="outlined" class="small" fdRuns="treat.toggle">
          {{ desk.off() ? 'Let all work again' : 'Strike all out' }}
        </button>
        <button matButton="outlined" class="small" fdRuns="treat.write">Write into the notes here</button>
      </div>
    }
    <div class="row">
      <button matButton="outlined" class="small" fdRuns="deal.open">Deal out to parts …</button>
    </div>
    <fd-treatment-shelf />
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 2px 8px;
    }
    mat-radio-group,
    p,
    fd-treatment-shelf,
    .row {
      grid-column: 1 / -1;
      justify-self: start;
      margin: 0;
    }
    mat-radio-button {
      margin-inline-end: 12px;
    }
    fd-treatment-shelf {
      justify-self: stretch;
    }
    .row {
      display: flex;
      gap: 6px;
      padding-top: 6px;
    }
    button {
      justify-content: start;
    }
  `,
})
export class TreatmentChoice {
  protected readonly desk = inject(TreatDesk);
  protected readonly names = TREATMENTS.map((does) => ({ does, text: TREATMENT_NAMES[does] }));
  protected readonly meanwhile = signal(false);
  /** Why nothing more goes in there; empty where there is room. */
  protected readonly full = computed(() => {
    const chain = this.desk.chain();
    if (this.meanwhile()) return chain.length < MOST_BRANCHES ? '' : `At most ${MOST_BRANCHES} sound together.`;
    const there = chain.at(-1)?.length ?? 0;
    return there < MOST_TREATMENTS ? '' : `${MOST_TREATMENTS} in a row are the most: take one away first.`;
  });
}

import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { Store } from '@ngrx/store';
import { MixDesk } from '../../desks/mix-desk';
import { selectScore } from '../../store/selectors';
import { SlideField } from '../../ui/fields/slide-field';

/** The level of the whole mix, how loud it leaves, and by how much the limiter turns it down. */
@Component({
  selector: '[fdMixWhole]',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [SlideField],
  template: `
    <th scope="row"><span class="whole">All together</span></th>
    <td>
      <fd-slide-field
        shown="Level"
        label="Level of all together"
        [usual]="100"
        [value]="master()"
        (moved)="mix.setMaster($event)"
      />
    </td>
    <td colspan="3" class="quiet limited">
      Limited at −1 dB<span class="mono" data-reduced aria-live="off">, not at work</span>
    </td>
    <td>
      <span
        class="meter"
        role="meter"
        aria-label="Sounding level of all together"
        aria-valuemin="0"
        aria-valuemax="100"
        aria-valuenow="0"
        data-meter=""
        ><span class="fill"></span
      ></span>
    </td>
    <td></td>
  `,
  styleUrl: './mix-row.scss',
  styles: `
    .whole {
      padding-inline-start: 36px;
      font-weight: 600;
    }
    .fill {
      background: var(--quiet);
    }
    .limited {
      font-size: 0.8125rem;
    }
  `,
})
export class MixWhole {
  private readonly score = inject(Store).selectSignal(selectScore);
  protected readonly mix = inject(MixDesk);
  protected readonly master = computed(() => this.score()?.master ?? 100);
}

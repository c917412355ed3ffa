import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatButton } from '@angular/material/button';
import type { Part } from '@fendro/core/song/schema';
import { ClashDesk } from '../../desks/clash-desk';
import { MixDesk, octaveWords } from '../../desks/mix-desk';

/** What is in a part's way, and what helps: notes that its instrument cannot play, louder parts, the same register. */
@Component({
  selector: 'fd-mix-way',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton],
  template: `
    @if (beyond(); as reach) {
      <span
        >{{ reach.text }}
        @if (reach.better !== null) {
          <button matButton="outlined" class="small" (click)="mix.setOctave(part(), reach.better)">
            Sound {{ octaveWords(reach.better) }}
          </button>
        }
      </span>
    }
    @for (clash of clashes(); track clash.text) {
      <span
        >{{ clash.text }}
        @if (clash.help; as help) {
          <button
            matButton="outlined"
            class="small"
            [attr.aria-label]="help.words + ': ' + part().name"
            (click)="desk.raise(part(), help.level)"
          >
            {{ help.words }}
          </button>
        }
      </span>
    }
  `,
  styles: `
    :host {
      display: flex;
      flex-wrap: wrap;
      gap: 0 18px;
      padding-inline-start: 36px;
      font-size: 0.8125rem;
      color: var(--quiet);
    }
  `,
})
export class MixWay {
  readonly part = input.required<Part>();
  protected readonly mix = inject(MixDesk);
  protected readonly desk = inject(ClashDesk);
  protected readonly octaveWords = octaveWords;
  protected readonly beyond = computed(() => this.mix.beyond(this.part()));
  protected readonly clashes = computed(() => this.desk.of(this.part()));
}

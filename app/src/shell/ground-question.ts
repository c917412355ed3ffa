import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatRadioButton, MatRadioGroup, type MatRadioChange } from '@angular/material/radio';
import { MatButton } from '@angular/material/button';
import { Store } from '@ngrx/store';
import { groundOf } from '@fendro/core/song/ground';
import type { Following } from '@fendro/core/song/follow-ground';
import type { Ground } from '@fendro/core/song/schema';
import { printedName } from '@fendro/core/theory/pitch';
import { scaleOf } from '@fendro/core/theory/scale';
import { HarmonyDesk } from '../desks/harmony-desk';
import { selectOwnScore, selectScore } from '../store/selectors';
import { SessionActions, sessionFeature } from '../store/session';

const keyName = ({ tonic, scale }: Pick<Ground, 'tonic' | 'scale'>): string =>
  `${printedName(tonic)} ${scaleOf(scale).name.toLowerCase()}`;

/**
 * Asked once when key or scale changes: how the music that is there follows. Each answer is heard before it is given.
 */
@Component({
  selector: 'fd-ground-question',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatRadioGroup, MatRadioButton],
  template: `
    @if (question(); as question) {
      <section class="ask" aria-label="How the music follows the change">
        <p>{{ question }} The music that is there</p>
        <mat-radio-group
          class="ways"
          aria-label="The music that is there"
          [value]="pendingGround()?.how"
          (change)="set($event)"
          (keydown.escape)="cancel()"
          (keydown.enter)="apply($event)"
        >
          @for (way of ways; track way.how) {
            <mat-radio-button [value]="way.how">{{ way.text }}</mat-radio-button>
          }
        </mat-radio-group>
        <span class="quiet">You see and hear it now.</span>
        <span class="gap"></span>
        <button matButton="filled" class="small" (click)="desk.applyGround()">Change</button>
        <button matButton="outlined" class="small" (click)="cancel()">Leave as it was</button>
      </section>
    }
  `,
  styles: `
    .ask {
      display: flex;
      align-items: center;
      gap: 6px 14px;
      flex-wrap: wrap;
      padding: 6px 14px;
      background: var(--accent-faint);
      border-bottom: 1px solid var(--line);
    }
    p {
      margin: 0;
    }
    .ways {
      display: flex;
      gap: 4px 14px;
      flex-wrap: wrap;
    }
    .gap {
      flex: 1;
    }
  `,
})
export class GroundQuestion {
  private readonly store = inject(Store);
  protected readonly desk = inject(HarmonyDesk);
  protected readonly pendingGround = this.store.selectSignal(sessionFeature.selectPendingGround);
  private readonly own = this.store.selectSignal(selectOwnScore);
  private readonly score = this.store.selectSignal(selectScore);
  protected readonly ways: readonly { how: Following; text: string }[] = [
    { how: 'move', text: 'moves by the interval' },
    { how: 'refit', text: 'is re-fitted to the scale' },
    { how: 'stay', text: 'stays as it is' },
  ];

  protected readonly question = computed(() => {
    const pending = this.pendingGround();
    const [own, next] = [this.own(), this.score()];
    if (!pending || !own || !next) return null;
    const ground = (score: typeof own): Ground => {
      const section = score.sections.find(({ id }) => id === pending.section);
      return section ? groundOf(score, section) : score.ground;
    };
    const name = own.sections.find(({ id }) => id === pending.section)?.name;
    return `${name ?? 'The song'} goes from ${keyName(ground(own))} to ${keyName(ground(next))}.`;
  });

  protected set({ value }: MatRadioChange): void {
    const pending = this.pendingGround();
    const how = this.ways.find((way) => way.how === value)?.how;
    if (pending && how) this.store.dispatch(SessionActions.groundTried({ pending: { ...pending, how } }));
  }

  protected apply(event: Event): void {
    if (event.target instanceof HTMLButtonElement) return;
    event.preventDefault();
    this.desk.applyGround();
  }

  protected cancel(): void {
    this.store.dispatch(SessionActions.groundTried({ pending: null }));
  }
}

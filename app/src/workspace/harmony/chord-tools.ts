import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatTooltip } from '@angular/material/tooltip';
import { Store } from '@ngrx/store';
import { HarmonyDesk } from '../../desks/harmony-desk';
import { selectSession } from '../../store/selectors';
import { CHORD_GRIDS, SessionActions, type ChordGrid } from '../../store/session';
import { ChordDesk } from '../../desks/chord-desk';

/** What can be done to the selected bars' chords, or to the chord in focus: one slim row over the sheet. */
@Component({
  selector: 'fd-chord-tools',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatTooltip],
  template: `
    <div class="tools" role="toolbar" aria-label="Chord tools">
      <label
        >Grid
        <select
          class="field"
          aria-label="Grid for chords"
          [value]="session().grid"
          (change)="setGrid($any($event.target).value)"
        >
          @for (grid of grids; track grid) {
            <option [value]="grid" [selected]="grid === session().grid">{{ grid }}</option>
          }
        </select></label
      >
      <span class="what quiet">{{ what() }}</span>
      <button class="button small" (click)="commands.copy()" matTooltip="Ctrl C">Copy</button>
      <button class="button small" [disabled]="!session().clip" (click)="commands.paste()" matTooltip="Ctrl V">
        Paste
      </button>
      <button class="button small" (click)="commands.repeat()" matTooltip="Once more after itself (%)">Repeat</button>
      <span class="pair" role="group" aria-label="Along the scale"
        ><button
          class="button small"
          (click)="commands.degree(-1)"
          aria-label="A degree down"
          matTooltip="A degree down (Alt ↓)"
        >
          ↓</button
        ><span>degree</span
        ><button
          class="button small"
          (click)="commands.degree(1)"
          aria-label="A degree up"
          matTooltip="A degree up (Alt ↑)"
        >
          ↑
        </button></span
      >
      <span class="pair" role="group" aria-label="By semitones"
        ><button
          class="button small"
          (click)="commands.transpose(-1)"
          aria-label="A semitone down"
          matTooltip="A semitone down (Shift Alt ↓)"
        >
          ↓</button
        ><span>semitone</span
        ><button
          class="button small"
          (click)="commands.transpose(1)"
          aria-label="A semitone up"
          matTooltip="A semitone up (Shift Alt ↑)"
        >
          ↑
        </button></span
      >
      <button class="button small" (click)="commands.reverse()">Reverse</button>
      <button class="button small" (click)="commands.split()" matTooltip="S">Split</button>
      <button class="button small" (click)="commands.join()" matTooltip="J">Join</button>
      <button
        class="button small"
        [attr.aria-pressed]="commands.isHeld()"
        (click)="commands.hold()"
        matTooltip="Keep these bars when drafting (H)"
      >
        Hold
      </button>
    </div>
  `,
  styles: `
    .tools {
      display: flex;
      align-items: center;
      gap: 4px 6px;
      padding: 0 12px 4px 12px;
      flex-wrap: wrap;
      font-size: 0.8125rem;
    }
    label {
      display: inline-flex;
      align-items: center;
      gap: 4px;
      color: var(--quiet);
    }
    select {
      min-height: 26px;
    }
    .what {
      min-width: 5.5rem;
      margin-inline-end: 4px;
    }
    .button.small {
      padding: 0 7px;
    }
    .pair {
      display: inline-flex;
      align-items: center;
      gap: 2px;
      color: var(--quiet);
    }
    .pair .button {
      padding: 0 6px;
    }
  `,
})
export class ChordTools {
  private readonly store = inject(Store);
  private readonly desk = inject(HarmonyDesk);
  protected readonly commands = inject(ChordDesk);
  protected readonly session = this.store.selectSignal(selectSession);
  protected readonly grids = Object.keys(CHORD_GRIDS) as ChordGrid[];

  /** What the buttons concern. */
  protected readonly what = computed(() => {
    const { bars } = this.session();
    if (bars) return bars.to - bars.from === 1 ? `bar ${bars.from + 1}` : `bars ${bars.from + 1}–${bars.to}`;
    const span = this.desk.focused();
    const bar = Math.floor(
      ((span?.start ?? this.session().chordAt) / Math.max(1, this.desk.length())) * (this.desk.section()?.bars ?? 1),
    );
    return span ? `chord in bar ${bar + 1}` : `bar ${bar + 1}`;
  });

  protected setGrid(grid: ChordGrid): void {
    this.store.dispatch(SessionActions.gridSet({ grid }));
  }
}

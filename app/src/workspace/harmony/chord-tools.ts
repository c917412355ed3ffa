import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { ChoiceField, choicesOf } from '../../ui/fields/choice-field';
import { MatButton } from '@angular/material/button';
import { Store } from '@ngrx/store';
import { RunsCommand } from '../../commands/runs-command';
import { HarmonyDesk } from '../../desks/harmony-desk';
import { CHORD_GRIDS, SessionActions, type ChordGrid, sessionFeature } from '../../store/session';

/** What can be done to the selected bars' chords, or to the chord in focus: one slim row over the sheet. */
@Component({
  selector: 'fd-chord-tools',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [RunsCommand, MatButton, ChoiceField],
  template: `
    <div class="tools" role="toolbar" aria-label="Chord tools">
      <label
        >Grid
        <fd-choice-field
          class="small"
          label="Grid for chords"
          [choices]="grids"
          [value]="grid()"
          (chosen)="setGrid($event)"
      /></label>
      <span class="what quiet">{{ what() }}</span>
      <button matButton="outlined" class="small" fdRuns="chord.copy">Copy</button>
      <button matButton="outlined" class="small" fdRuns="chord.paste">Paste</button>
      <button matButton="outlined" class="small" fdRuns="chord.repeat">Repeat</button>
      <span class="pair" role="group" aria-label="Along the scale"
        ><button matButton="outlined" class="small" fdRuns="chord.degree-down" aria-label="A degree down">↓</button
        ><span>degree</span
        ><button matButton="outlined" class="small" fdRuns="chord.degree-up" aria-label="A degree up">↑</button></span
      >
      <span class="pair" role="group" aria-label="By semitones"
        ><button matButton="outlined" class="small" fdRuns="chord.semitone-down" aria-label="A semitone down">↓</button
        ><span>semitone</span
        ><button matButton="outlined" class="small" fdRuns="chord.semitone-up" aria-label="A semitone up">
          ↑
        </button></span
      >
      <button matButton="outlined" class="small" fdRuns="chord.reverse">Reverse</button>
      <button matButton="outlined" class="small" fdRuns="chord.split">Split</button>
      <button matButton="outlined" class="small" fdRuns="chord.join">Join</button>
      <button matButton="outlined" class="small" fdRuns="bars.hold">Hold</button>
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
    .what {
      min-width: 5.5rem;
      margin-inline-end: 4px;
    }
    .pair {
      display: inline-flex;
      align-items: center;
      gap: 2px;
      color: var(--quiet);
    }
    .pair button {
      min-width: 28px;
    }
  `,
})
export class ChordTools {
  private readonly store = inject(Store);
  private readonly desk = inject(HarmonyDesk);
  protected readonly bars = this.store.selectSignal(sessionFeature.selectBars);
  protected readonly grid = this.store.selectSignal(sessionFeature.selectGrid);
  protected readonly chordAt = this.store.selectSignal(sessionFeature.selectChordAt);
  protected readonly grids = choicesOf(Object.keys(CHORD_GRIDS) as ChordGrid[]);

  /** What the buttons concern. */
  protected readonly what = computed(() => {
    const bars = this.bars();
    if (bars) return bars.to - bars.from === 1 ? `bar ${bars.from + 1}` : `bars ${bars.from + 1}–${bars.to}`;
    const span = this.desk.focused();
    const bar = Math.floor(
      ((span?.start ?? this.chordAt()) / Math.max(1, this.desk.length())) * (this.desk.section()?.bars ?? 1),
    );
    return span ? `chord in bar ${bar + 1}` : `bar ${bar + 1}`;
  });

  protected setGrid(grid: ChordGrid): void {
    this.store.dispatch(SessionActions.gridSet({ grid }));
  }
}

import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { MatProgressBar } from '@angular/material/progress-bar';
import { Store } from '@ngrx/store';
import { RunsCommand } from '../commands/runs-command';
import { CompareDesk } from '../desks/compare-desk';
import { DraftRuns } from '../desks/draft-runs';
import { Drafting } from '../desks/drafting';
import { RunThrough } from '../desks/run-through';
import { TakeView } from '../desks/take-view';
import { Beside } from '../ui/beside';
import { TakeField } from './take-field';
import { RUN_STEPS, sayStep } from '@fendro/core/sounding/run-steps';
import { selectPart, selectScore } from '../store/selectors';
import { SessionActions, sessionFeature, type SwitchAt } from '../store/session';
import { ScoreActions } from '../store/song.actions';
import { ChoiceField, type Choice } from '../ui/fields/choice-field';
import { nameIn } from '../ui/spoken';
import { TakeList } from './take-list';

/** Takes of the line in focus: drafted, told where they cannot be, and listed. */
@Component({
  selector: 'fd-takes-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, MatButton, MatIcon, MatProgressBar, RunsCommand, Beside, TakeField, TakeList],
  template: `
    <div class="draft">
      @if (run.running()) {
        <button matButton="outlined" fdRuns="take.run"><mat-icon svgIcon="stop" />Run-through</button>
        <fd-choice-field
          class="plain"
          label="How long each take sounds"
          [choices]="steps"
          [value]="stepAt()"
          (chosen)="setStep($event)"
        />
        <button matButton class="small" fdRuns="take.run-band">the band</button>
      } @else if (compare.on()) {
        <button matButton="outlined" class="pair" fdRuns="take.overlay" [attr.aria-label]="pair()">
          <mat-icon svgIcon="close" />{{ shortPair() }}
        </button>
        <span class="quiet level" role="status">{{ compare.matched() }}</span>
        <fd-choice-field
          class="plain moment"
          label="When the two are turned round"
          [choices]="turns"
          [value]="turnAt()"
          (chosen)="setTurn($event)"
        />
      } @else if (runs.busy()) {
        <button matButton="outlined" fdRuns="take.cancel"><mat-icon svgIcon="close" />Cancel</button>
        @defer (on immediate) {
          <mat-progress-bar [value]="100 * runs.share()" [attr.aria-label]="'Drafting ' + runs.now()" />
        }
        <span class="quiet">{{ runs.now() }}</span>
      } @else {
        <button matButton="filled" fdRuns="take.draft">Draft takes</button>
        <button matButton="outlined" fdRuns="take.run">Run through</button>
        <fd-choice-field
          class="plain moment"
          label="When a take that is tried comes in"
          [choices]="moments"
          [value]="switchAt()"
          (chosen)="setMoment($event)"
        />
      }
    </div>
    @if (runs.problemInFocus(); as problem) {
      <p class="problem" role="alert">
        <span>{{ problem.reason }}</span>
        @if (offer(); as offer) {
          <button matButton="outlined" class="small" (click)="meet()">{{ offer }}</button>
        }
      </p>
    }
    <fd-take-list />
    @if (view.asField()) {
      <fd-beside
        class="field"
        label="Takes by likeness: like near like"
        back="Back to the list"
        (closed)="view.asField.set(false)"
      >
        @defer (on immediate) {
          <fd-take-field />
        }
      </fd-beside>
    }
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      gap: 8px;
      min-height: 0;
      flex: 1;
    }
    .problem {
      flex-wrap: wrap;
      margin: 0;
    }
    .draft {
      display: flex;
      align-items: center;
      gap: 8px;
    }
    fd-beside.field {
      width: min(50rem, calc(100vw - 400px));
      height: calc(100% - 60px);
    }
    .pair {
      max-width: 9rem;
    }
    .level {
      font-size: 0.75rem;
      white-space: nowrap;
    }
    .moment {
      margin-inline-start: auto;
      color: var(--quiet);
      font-size: 0.8125rem;
    }
    mat-progress-bar {
      flex: 1;
      width: auto;
    }
    fd-take-list {
      flex: 1;
      min-height: 0;
    }
  `,
})
export class TakesPanel {
  private readonly store = inject(Store);
  private readonly drafting = inject(Drafting);
  protected readonly runs = inject(DraftRuns);
  protected readonly run = inject(RunThrough);
  protected readonly compare = inject(CompareDesk);
  protected readonly view = inject(TakeView);
  protected readonly steps: readonly Choice<number>[] = RUN_STEPS.map((step, value) => ({
    value,
    text: `every ${sayStep(step)}`,
  }));
  protected readonly stepAt = computed(() => RUN_STEPS.indexOf(this.run.every()));
  private readonly part = this.store.selectSignal(selectPart);
  private readonly score = this.store.selectSignal(selectScore);
  protected readonly switchAt = this.store.selectSignal(sessionFeature.selectSwitchAt);
  protected readonly moments: readonly Choice<SwitchAt>[] = [
    { value: 'bar', text: 'in at the bar' },
    { value: 'beat', text: 'in at the beat' },
    { value: 'top', text: 'in from the top' },
  ];

  /** The nearest brief that can be met, in words. */
  protected readonly offer = computed(() => {
    const nearest = this.runs.problemInFocus()?.nearest;
    const score = this.score();
    if (!nearest || !score) return null;
    if (nearest.voices !== undefined) return `Draft with ${nearest.voices} voices`;
    if (nearest.anchoring !== undefined) return `Draft with anchoring at ${nearest.anchoring} %`;
    const name = (pitch: number): string => nameIn(score.ground, pitch);
    return nearest.low === undefined || nearest.high === undefined
      ? null
      : `Draft from ${name(nearest.low)} to ${name(nearest.high)}`;
  });

  protected readonly pair = computed(() => {
    const pair = this.compare.pair();
    return pair ? `Comparing ${pair.heard} with ${pair.other}` : 'Comparing';
  });
  protected readonly shortPair = computed(() => {
    const pair = this.compare.pair();
    const short = (name: string): string => name.replace(/^take /, '');
    return pair ? `${short(pair.heard)} over ${short(pair.other)}` : '';
  });
  protected readonly turns: readonly Choice<number>[] = [
    { value: -1, text: 'turn with C' },
    ...this.steps.map(({ value, text }) => ({ value, text: `turn ${text}` })),
  ];
  protected readonly turnAt = computed(() => {
    const every = this.compare.every();
    return every ? RUN_STEPS.indexOf(every) : -1;
  });

  protected setTurn(at: number): void {
    this.compare.setEvery(RUN_STEPS[at] ?? null);
  }

  protected setStep(at: number): void {
    const step = RUN_STEPS[at];
    if (step) this.run.setEvery(step);
  }

  protected setMoment(switchAt: SwitchAt): void {
    this.store.dispatch(SessionActions.switchMomentSet({ switchAt }));
  }

  /** Takes the nearest brief that can be met, and drafts. */
  protected meet(): void {
    const change = this.runs.problemInFocus()?.nearest;
    const part = this.part();
    if (!change || !part) return;
    this.store.dispatch(ScoreActions.briefChanged({ part: part.id, change }));
    this.drafting.draftInFocus();
  }
}

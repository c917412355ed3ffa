import { ChangeDetectionStrategy, Component, computed, inject, signal, untracked } from '@angular/core';
import { MatButton } from '@angular/material/button';
import {
  MatDialogActions,
  MatDialogClose,
  MatDialogContent,
  MatDialogRef,
  MatDialogTitle,
} from '@angular/material/dialog';
import { Store } from '@ngrx/store';
import { LIMITS } from '@fendro/core/song/limits';
import { CarryDesk } from '../desks/carry-desk';
import { selectLine, selectScore, selectSection } from '../store/selectors';
import { ChoiceField, type Choice } from '../ui/fields/choice-field';
import { NumberField } from '../ui/fields/number-field';

/** Where the heard take, or the selected bars of it, are carried to. */
@Component({
  selector: 'fd-carry-sheet',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, MatButton, MatDialogActions, MatDialogClose, MatDialogContent, MatDialogTitle, NumberField],
  template: `
    <h2 matDialogTitle id="carry-title">Carry elsewhere</h2>
    <mat-dialog-content>
      <p class="what">{{ desk.what() }}, fitted to the chords, key and length of where it comes.</p>
      <div class="to">
        <label
          >To
          <fd-choice-field label="Section" [choices]="sections()" [value]="section()" (chosen)="section.set($event)"
        /></label>
        <label
          >for <fd-choice-field label="Part" [choices]="lines()" [value]="line()" (chosen)="line.set($event)"
        /></label>
        @if (desk.bars()) {
          <label
            >from
            <fd-number-field
              class="small"
              label="From bar"
              unit="bar"
              [bounds]="bounds()"
              [told]="told()"
              [value]="bar()"
              (changed)="wished.set($event)"
          /></label>
        }
      </div>
      <p class="problem" role="alert">{{ desk.problem() }}</p>
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button matButton matDialogClose>Leave it</button>
      <button matButton="filled" (click)="carry()">Carry and hear it</button>
    </mat-dialog-actions>
  `,
  styles: `
    .to {
      display: flex;
      flex-wrap: wrap;
      gap: 8px 12px;
    }
    label {
      display: flex;
      align-items: center;
      gap: 8px;
    }
    .what {
      margin: 0 0 12px;
    }
    .problem {
      min-height: 1.2em;
      margin: 8px 0 0;
      color: var(--alert);
    }
  `,
})
export class CarrySheet {
  private readonly dialog = inject(MatDialogRef);
  private readonly store = inject(Store);
  protected readonly desk = inject(CarryDesk);
  private readonly score = this.store.selectSignal(selectScore);
  private readonly here = this.store.selectSignal(selectSection);
  private readonly inFocus = this.store.selectSignal(selectLine);
  protected readonly sections = computed((): readonly Choice<string>[] =>
    this.desk.sections().map(({ id, name }) => ({ value: id, text: name })),
  );
  protected readonly lines = computed((): readonly Choice<string>[] =>
    this.desk.lines().map(({ id, name }) => ({ value: id, text: name })),
  );
  /** Another section first: what is here is here. What was picked stays, whatever is drafted meanwhile. */
  protected readonly section = signal(this.elsewhere());
  protected readonly line = signal<string>(untracked(this.inFocus));
  private readonly room = computed(
    () => this.score()?.sections.find(({ id }) => id === this.section())?.bars ?? LIMITS.bars,
  );
  /** Counted from 1, as it is read. */
  protected readonly wished = signal((untracked(this.desk.bars)?.from ?? 0) + 1);
  protected readonly bar = computed(() => Math.min(this.wished(), this.room()));
  protected readonly bounds = computed(() => ({ least: 1, most: this.room() }));
  protected readonly told = computed(() => `That section has bars 1 to ${this.room()}; it stays as it was.`);

  constructor() {
    this.desk.problem.set(null);
  }

  private elsewhere(): string {
    const here = untracked(this.here)?.id;
    const sections = untracked(this.desk.sections);
    return (sections.find(({ id }) => id !== here) ?? sections[0])?.id ?? '';
  }

  protected async carry(): Promise<void> {
    if (await this.desk.carry(this.section(), this.line(), this.bar() - 1)) this.dialog.close();
  }
}

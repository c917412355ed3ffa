import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatCheckbox } from '@angular/material/checkbox';
import { soundingIn } from '@fendro/core/files/incoming/stretches';
import { pitchedNotes } from '@fendro/core/files/incoming/midi-import';
import { CERTAINTIES, certaintiesOf } from '@fendro/core/listen/certainty';
import { HEARD_METRES } from '@fendro/core/listen/written-time';
import type { ChordSpan } from '@fendro/core/song/schema';
import { barTicks, metreName } from '@fendro/core/theory/metre';
import { ChordSymbol } from '../../ui/chord-symbol';
import { ChoiceField, type Choice } from '../../ui/fields/choice-field';
import { NumberField } from '../../ui/fields/number-field';
import { TEMPO_BOUNDS } from '../../ui/ground-choices';
import type { WrittenSound } from '../../work/listening/listening-messages';
import { RecordingDesk } from './recording-desk';

/** What was heard in a recording, bar by bar, how sure it is, and how it is set right where it was heard wrong. */
@Component({
  selector: 'fd-recording-corrections',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, ChordSymbol, MatButton, MatCheckbox, NumberField],
  template: `
    <section class="card" aria-label="What was heard">
      <div class="choices first">
        <span class="field">
          <fd-number-field
            label="Tempo of the recording"
            unit="beats a minute"
            [bounds]="bounds"
            [told]="told"
            [value]="tempo()"
            (changed)="desk.correct({ tempo: $event })"
          />
        </span>
        <button matButton="outlined" class="small" [disabled]="!can(0.5)" (click)="times(0.5)">Half as fast</button>
        <button matButton="outlined" class="small" [disabled]="!can(2)" (click)="times(2)">Twice as fast</button>
        <label
          >in
          <fd-choice-field
            label="Metre of the recording"
            [choices]="metres"
            [value]="metre()"
            (chosen)="setMetre($event)"
        /></label>
        <span role="group" aria-label="Bar lines" class="lines">
          Bar lines
          <button matButton="outlined" class="small" (click)="desk.shift(-1)">A beat earlier</button>
          <button matButton="outlined" class="small" (click)="desk.shift(1)">A beat later</button>
        </span>
      </div>
      <p class="quiet" role="status">{{ says() }}</p>
      @if (bars().length > 0) {
        <ol class="bars" aria-label="Chords that were heard" tabindex="0">
          @for (bar of bars(); track $index) {
            <li>
              @for (span of bar; track span.start) {
                <span
                  [class.likely]="span.certainty === 'likely'"
                  [class.guess]="span.certainty === 'a guess'"
                  [attr.title]="span.certainty"
                >
                  <fd-chord-symbol [chord]="span.chord" />
                  @if (span.certainty !== 'sure' && span.certainty !== null) {
                    <span class="spoken-only">, {{ span.certainty }}</span>
                  }
                </span>
              }
            </li>
          }
        </ol>
        <p class="quiet legend" role="status">
          <span>{{ counts()[0] }} sure</span>
          <span class="likely">{{ counts()[1] }} likely</span>
          <span class="guess">{{ counts()[2] }} guessed</span>
        </p>
      }
      <mat-checkbox [checked]="desk.lies()" (change)="desk.lies.set($event.checked)"
        >Lay the recording under the song as a guide</mat-checkbox
      >
    </section>
  `,
  styleUrls: ['../pages.scss', './bring-in.scss', './recording-corrections.scss'],
})
export class RecordingCorrections {
  protected readonly desk = inject(RecordingDesk);
  readonly written = input.required<WrittenSound>();
  /** The chords of each section; null while they are being found. */
  readonly chords = input.required<readonly (readonly ChordSpan[])[] | null>();
  readonly picked = input.required<readonly string[]>();
  protected readonly bounds = TEMPO_BOUNDS;
  protected readonly told = `A tempo is ${TEMPO_BOUNDS.least} to ${TEMPO_BOUNDS.most} beats a minute; it stays as it was.`;
  protected readonly metres: readonly Choice<string>[] = HEARD_METRES.map((metre) => ({
    value: metreName(metre),
    text: metreName(metre),
  }));
  protected readonly tempo = computed(() => Math.round(10 * this.written().tempo) / 10);
  protected readonly metre = computed(() => metreName(this.written().metre));

  protected readonly says = computed(() => {
    const { first, even } = this.written();
    const at = Math.abs(first).toFixed(2);
    const where = first < -0.005 ? `${at} s before the recording begins` : `at ${at} s`;
    return `The first bar begins ${where}. ${even ? 'The beats come evenly.' : 'The tempo moves: each bar has its own.'}`;
  });

  /** The chords that begin in each bar, with how sure they are. */
  protected readonly bars = computed(() => {
    const [chords, { file }] = [this.chords(), this.written()];
    const notes = pitchedNotes(file.lines.filter(({ id }) => this.picked().includes(id)));
    return file.sections.flatMap((section, index) => {
      const spans = chords?.[index] ?? [];
      const sounding = soundingIn(section, notes).sort((a, b) => a.start - b.start);
      const certain = certaintiesOf(spans, sounding);
      const shown = spans.map((span, place) => ({ ...span, certainty: certain[place] ?? null }));
      const bar = barTicks(section.metre);
      return Array.from({ length: section.bars }, (_, at) =>
        shown.filter(({ start }) => start >= at * bar && start < (at + 1) * bar),
      );
    });
  });
  protected readonly counts = computed(() =>
    CERTAINTIES.map(
      (word) =>
        this.bars()
          .flat()
          .filter(({ certainty }) => certainty === word).length,
    ),
  );

  protected can(times: number): boolean {
    const tempo = times * this.tempo();
    return tempo >= TEMPO_BOUNDS.least && tempo <= TEMPO_BOUNDS.most;
  }

  protected times(times: number): void {
    void this.desk.correct({ tempo: times * this.tempo() });
  }

  protected setMetre(name: string): void {
    const metre = HEARD_METRES.find((known) => metreName(known) === name);
    if (metre) void this.desk.correct({ metre });
  }
}

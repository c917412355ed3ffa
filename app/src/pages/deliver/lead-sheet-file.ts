import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, resource } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { MatProgressBar } from '@angular/material/progress-bar';
import { Store } from '@ngrx/store';
import { fileNameOf } from '@fendro/core/files/outgoing/file-names';
import { chosenMusic } from '@fendro/core/files/outgoing/hand-over';
import type { PrintedSheet } from '@fendro/core/files/outgoing/printed-sheet';
import { usualLead, type LeadSheet } from '@fendro/core/notation/lead-sheet';
import { isDrumRole } from '@fendro/core/song/roles';
import { Guide } from '../../desks/guide';
import { selectScore, selectTakes } from '../../store/selectors';
import { download } from '../../ui/download';
import { ChoiceField, type Choice } from '../../ui/fields/choice-field';
import { inWords } from '../../ui/in-words';
import { FilesClient } from '../../work/files-client';
import { EngravedSheet } from './engraved-sheet';

/** “3 bars”, “a bar”. */
const count = (number: number, one: string, many: string): string => (number === 1 ? one : `${number} ${many}`);

/** One line with the chords over it, for any program that engraves music. */
@Component({
  selector: 'fd-lead-sheet-file',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, EngravedSheet, MatButton, MatIcon, MatProgressBar],
  template: `
    <p class="lead unprinted">
      A line as it is written, with the chords over it: keys, metres, tempos, sections as rehearsal marks, repeats and
      endings where sections come back, spelled in the key. As MusicXML it opens in any notation program.
    </p>
    @if (lines().length > 0) {
      <p class="choices unprinted">
        <fd-choice-field
          label="Line of the lead sheet"
          [choices]="lines()"
          [value]="part() ?? ''"
          (chosen)="part.set($event)"
        />
        <button matButton="filled" [disabled]="!written.hasValue() || !written.value()" (click)="save()">
          <mat-icon svgIcon="download" />Save as MusicXML
        </button>
        <button matButton="outlined" [disabled]="!written.hasValue() || !written.value()" (click)="print()">
          Print
        </button>
      </p>
    }
    @if (written.isLoading()) {
      <mat-progress-bar mode="indeterminate" aria-label="Writing the lead sheet" />
    }
    <p role="status" class="unprinted">{{ said() ?? facts() }}</p>
    @if (problem(); as reason) {
      <p class="problem" role="alert">The lead sheet could not be written: {{ reason }}.</p>
    }
    @if (sheet(); as sheet) {
      <fd-engraved-sheet [sheet]="sheet" />
    }
  `,
  styleUrl: '../pages.scss',
})
export class LeadSheetFile {
  private readonly store = inject(Store);
  private readonly files = inject(FilesClient);
  private readonly guide = inject(Guide);
  private readonly score = this.store.selectSignal(selectScore);
  private readonly takes = this.store.selectSignal(selectTakes);
  protected readonly lines = computed(() =>
    (this.score()?.parts ?? [])
      .filter(({ role }) => !isDrumRole(role))
      .map(({ id, name }): Choice<string> => ({ value: id, text: name })),
  );
  protected readonly part = linkedSignal<string | null>(() => {
    const score = this.score();
    return score ? (usualLead(score)?.id ?? this.lines()[0]?.value ?? null) : null;
  });
  private readonly wish = computed(() => {
    const [score, part] = [this.score(), this.part()];
    return score && part !== null ? { music: chosenMusic(score, this.takes()), part } : undefined;
  });
  protected readonly written = resource({
    params: () => this.wish(),
    loader: ({ params: { music, part }, abortSignal }) => this.files.leadSheet(music, part, abortSignal),
  });
  /** What is shown; the one before while another is written. */
  protected readonly sheet = linkedSignal<LeadSheet | null | undefined, LeadSheet | null>({
    source: () => (this.written.hasValue() ? (this.written.value()?.sheet ?? null) : undefined),
    computation: (now, before) => (now === undefined ? (before?.value ?? null) : now),
  });
  protected readonly problem = computed(() => {
    const problem = this.written.error();
    return problem ? inWords(problem) : null;
  });
  /** What was done last, until something else is written. */
  protected readonly said = linkedSignal<unknown, string | null>({
    source: () => this.wish(),
    computation: () => null,
  });
  protected readonly facts = computed(() => {
    if (this.lines().length === 0) return 'There is no line yet that a sheet could show: add a part first.';
    if (!this.written.hasValue()) return '';
    const sheet = this.written.value();
    return sheet ? this.inFacts(sheet) : 'This line plays nothing in the running order.';
  });

  private inFacts({ bars, repeats, pickUp }: PrintedSheet): string {
    const found = [
      count(bars, 'One bar on paper', 'bars on paper'),
      ...(repeats > 0 ? [count(repeats, 'a repeat', 'repeats')] : []),
      ...(pickUp ? ['a pick-up'] : []),
    ];
    return `${found.join(', ')}.`;
  }

  protected print(): void {
    globalThis.print();
    this.said.set('The lead sheet was handed to the printer.');
    this.guide.finish();
  }

  protected save(): void {
    const [sheet, score] = [this.written.value(), this.score()];
    if (!sheet || !score) return;
    const line = this.lines().find(({ value }) => value === this.part())?.text ?? '';
    const name = fileNameOf([score.title, line, 'Lead sheet'], '.musicxml');
    download(name, sheet.xml, 'application/vnd.recordare.musicxml+xml');
    this.said.set(`${name} was handed over.`);
    this.guide.finish();
  }
}

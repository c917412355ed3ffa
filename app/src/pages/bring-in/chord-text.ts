import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { Router } from '@angular/router';
import type { ChartSection } from '@fendro/core/files/incoming/chart';
import type { ChordSpan } from '@fendro/core/song/schema';
import { tonicsFor } from '@fendro/core/theory/key';
import { barTicks, metreText } from '@fendro/core/theory/metre';
import { pitchClassOf } from '@fendro/core/theory/pitch';
import { ChordSymbol } from '../../ui/chord-symbol';
import { ChoiceField, type Choice } from '../../ui/fields/choice-field';
import { FileButton } from '../../ui/fields/file-button';
import { FindField } from '../../ui/fields/find-field';
import { SCALE_CHOICES, tonicChoices } from '../../ui/ground-choices';
import { ChordTextDesk } from './chord-text-desk';

const EXAMPLE = `Mast in the Fog
Key: G   Tempo: 92   4/4

[Verse]
G / / D/F# | Em | C | D / D7 /

[Chorus] x2
|: C | G/B | Am7 D :|`;

/** A chord chart that is typed, pasted or opened, and beside it what was read of it. */
@Component({
  selector: 'fd-chord-text',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChordSymbol, ChoiceField, FileButton, FindField, MatButton, MatCheckbox, MatFormField, MatInput],
  providers: [ChordTextDesk],
  templateUrl: './chord-text.html',
  styleUrls: ['../pages.scss', './bring-in.scss', './chord-text.scss'],
})
export class ChordText {
  protected readonly desk = inject(ChordTextDesk);
  private readonly router = inject(Router);
  protected readonly example = EXAMPLE;
  protected readonly scales = SCALE_CHOICES;
  protected readonly tonics = computed(() => tonicChoices(this.desk.key().scale));
  protected readonly tonicClass = computed(() => pitchClassOf(this.desk.key().tonic));
  protected readonly styles = computed((): readonly Choice<string>[] =>
    this.desk.styles().map(({ id, name, family }) => ({ value: id, text: name, group: family })),
  );

  protected readonly summary = computed(() => {
    const chart = this.desk.chart();
    if (!chart) return '';
    const bars = chart.order.reduce((total, index) => total + (chart.sections[index]?.bars ?? 0), 0);
    const sections = `${chart.sections.length} ${chart.sections.length === 1 ? 'section' : 'sections'}`;
    const key = chart.keyStated ? '' : ' Its key is judged by its chords.';
    const tempo = chart.tempo === null ? '' : `, ${chart.tempo} beats a minute`;
    return `${sections}, ${bars} bars of ${metreText(chart.metre)} as they are played${tempo}.${key}`;
  });

  /** Each section with its chords bar by bar. */
  protected readonly sections = computed(() => {
    const chart = this.desk.chart();
    const bar = chart ? barTicks(chart.metre) : 1;
    return (chart?.sections ?? []).map((section, index) => ({
      name: section.name || 'Verse',
      times: chart?.order.filter((place) => place === index).length ?? 1,
      bars: barsOf(section, bar),
    }));
  });

  protected setTonic(pitchClass: number): void {
    const { scale } = this.desk.key();
    this.desk.setKey({ scale, tonic: tonicsFor(scale)[pitchClass] ?? 0 });
  }

  protected setScale(scale: string): void {
    this.desk.setKey({ scale, tonic: tonicsFor(scale)[this.tonicClass()] ?? 0 });
  }

  protected openFile(files: readonly File[]): void {
    const [file] = files;
    if (file) void this.desk.open(file);
  }

  protected async asSong(): Promise<void> {
    if (await this.desk.asSong()) await this.router.navigateByUrl('/');
  }

  protected async intoSong(): Promise<void> {
    if (this.desk.intoSong()) await this.router.navigateByUrl('/');
  }
}

/** The chords that begin in each bar; none where the one before goes on. */
const barsOf = ({ bars, chords }: ChartSection, bar: number): readonly (readonly ChordSpan[])[] =>
  Array.from({ length: bars }, (_, index) => chords.filter(({ start }) => Math.floor(start / bar) === index));

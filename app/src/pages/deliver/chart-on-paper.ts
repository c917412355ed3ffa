import { Clipboard } from '@angular/cdk/clipboard';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { Store } from '@ngrx/store';
import { fileNameOf } from '@fendro/core/files/outgoing/file-names';
import { chartText } from '@fendro/core/files/outgoing/chart-text';
import { chosenMusic } from '@fendro/core/files/outgoing/hand-over';
import { chordChart, type ChartBlock } from '@fendro/core/notation/chord-chart';
import { selectScore, selectTakes } from '../../store/selectors';
import { Guide } from '../../desks/guide';
import { ChordSymbol } from '../../ui/chord-symbol';
import { download } from '../../ui/download';

/** The song's chords as a chart: read here, printed, taken as text. */
@Component({
  selector: 'fd-chart-on-paper',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChordSymbol, MatButton, MatIcon],
  templateUrl: './chart-on-paper.html',
  styleUrls: ['../pages.scss', './paper.scss'],
})
export class ChartOnPaper {
  private readonly store = inject(Store);
  private readonly clipboard = inject(Clipboard);
  private readonly guide = inject(Guide);
  private readonly score = this.store.selectSignal(selectScore);
  private readonly takes = this.store.selectSignal(selectTakes);
  protected readonly chart = computed(() => {
    const score = this.score();
    return score && score.order.length > 0 ? chordChart(chosenMusic(score, this.takes())) : null;
  });
  private readonly text = computed(() => {
    const chart = this.chart();
    return chart ? chartText(chart) : '';
  });
  protected readonly said = signal('');

  /** How a section is played, in words. */
  protected about({ times, own, bars }: ChartBlock): string {
    const facts = [times > 1 ? `${times} times` : '', own, bars.length === 0 ? 'as before' : ''];
    return facts.filter((fact) => fact !== '').join(', ');
  }

  protected save(): void {
    const name = fileNameOf([this.chart()?.title ?? '', 'Chords'], '.txt');
    download(name, this.text(), 'text/plain');
    this.tell(`${name} was handed over.`);
  }

  protected copy(): void {
    const copied = this.clipboard.copy(this.text());
    this.tell(copied ? 'The chart was copied as text.' : 'The browser did not let it be copied: save it as text.');
  }

  protected print(): void {
    globalThis.print();
    this.tell('The chart was handed to the printer.');
  }

  private tell(text: string): void {
    this.said.set(text);
    this.guide.finish();
  }
}

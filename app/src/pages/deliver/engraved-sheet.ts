import {
  afterRenderEffect,
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  input,
  signal,
  viewChild,
} from '@angular/core';
import type { LeadSheet } from '@fendro/core/notation/lead-sheet';
import { inWords } from '../../ui/in-words';

/** How wide a system is drawn, in px; on the page and on paper it is as wide as there is room for. */
const WIDTH = 900;

/** A lead sheet as it is printed. What engraves is fetched when a sheet is shown. */
@Component({
  selector: 'fd-engraved-sheet',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <article class="paper" aria-label="Lead sheet">
      <header>
        <h2>{{ sheet().title }}</h2>
        <p>{{ sheet().part }}</p>
      </header>
      <div #systems class="systems" role="img" [attr.aria-label]="'Notes of ' + sheet().part"></div>
      @if (problem(); as reason) {
        <p class="problem" role="alert">The sheet could not be drawn: {{ reason }}. As MusicXML it is whole.</p>
      }
    </article>
  `,
  styleUrls: ['../pages.scss', './paper.scss', './engraved-sheet.scss'],
})
export class EngravedSheet {
  readonly sheet = input.required<LeadSheet>();
  protected readonly problem = signal<string | null>(null);
  private readonly systems = viewChild.required<ElementRef<HTMLElement>>('systems');
  private drawn = 0;

  constructor() {
    afterRenderEffect(() => {
      const [sheet, { nativeElement: place }] = [this.sheet(), this.systems()];
      void this.draw(sheet, place);
    });
  }

  private async draw(sheet: LeadSheet, place: HTMLElement): Promise<void> {
    const own = ++this.drawn;
    try {
      const { engrave } = await import('../../ui/engraving');
      // Another sheet was asked for meanwhile.
      if (own !== this.drawn) return;
      place.replaceChildren();
      engrave(sheet, place, WIDTH, getComputedStyle(place).fontFamily);
      this.problem.set(null);
    } catch (problem) {
      this.problem.set(inWords(problem));
    }
  }
}

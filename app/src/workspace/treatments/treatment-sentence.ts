import { ChangeDetectionStrategy, Component, computed, ElementRef, inject, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { Store } from '@ngrx/store';
import { placesIn, treatmentAt, type At } from '@fendro/core/treat/chain-edits';
import { DealDesk } from '../../desks/deal-desk';
import { TreatDesk } from '../../desks/treat-desk';
import { selectPart } from '../../store/selectors';
import { Beside } from '../../ui/beside';
import { Sortable } from '../../ui/sortable';
import { DealDetails } from '../dealing/deal-details';
import { DealWord } from '../dealing/deal-word';
import { TreatmentChoice } from './treatment-choice';
import { TreatmentDetails } from './treatment-details';

/** A word of the sentence: what one treatment makes of the notes. */
interface TreatmentWord {
  readonly at: At;
  readonly index: number;
  readonly text: string;
  readonly off: boolean;
  /** What joins it to the words before: “, then”, “; meanwhile”. */
  readonly joint: string;
}

/** What a part's notes go through, as a sentence: its words step, move to other places, and are struck out. */
@Component({
  selector: 'fd-treatment-sentence',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Beside, DealDetails, DealWord, MatButton, Sortable, TreatmentChoice, TreatmentDetails],
  templateUrl: './treatment-sentence.html',
  styleUrl: './treatment-sentence.scss',
})
export class TreatmentSentence {
  protected readonly desk = inject(TreatDesk);
  protected readonly deals = inject(DealDesk);
  private readonly part = inject(Store).selectSignal(selectPart);
  protected readonly name = computed(() => this.part()?.name ?? '');
  /** True while treatments are offered. */
  protected readonly adding = signal(false);
  /** Goes back to the sentence. */
  protected closeDealing(): void {
    this.deals.close();
    this.adding.set(false);
  }

  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);

  protected readonly words = computed((): readonly TreatmentWord[] => {
    const chain = this.desk.chain();
    let branch = 0;
    return placesIn(chain).map((at, index) => {
      const skipped = chain.slice(branch + (index === 0 ? 0 : 1), at.branch);
      const fresh = at.branch > branch || index === 0;
      branch = at.branch;
      const plain = skipped.filter((own) => own.length === 0).map(() => '; meanwhile as written');
      const joint =
        index === 0 && at.branch === 0 ? ', ' : fresh ? `${index === 0 ? '' : plain.join('')}; meanwhile ` : ', then ';
      return { at, index, text: this.desk.said(at), off: treatmentAt(chain, at)?.off === true, joint };
    });
  });
  /** Branches behind the last word that leave notes as they are. */
  protected readonly rest = computed(() => {
    const chain = this.desk.chain();
    const last = this.words().at(-1)?.at.branch ?? 0;
    return chain
      .slice(last + 1)
      .map(() => '; meanwhile as written')
      .join('');
  });
  protected readonly title = computed(() => {
    const at = this.desk.at();
    return at ? `Exactly: ${this.desk.said(at)}` : '';
  });

  protected openChoice(): void {
    const shown = this.adding() && !this.deals.open();
    this.desk.open(null);
    this.deals.close();
    this.adding.set(!shown);
  }

  protected isOpen({ at }: TreatmentWord): boolean {
    const open = this.desk.at();
    return open?.branch === at.branch && open.step === at.step;
  }

  protected toggle(word: TreatmentWord): void {
    this.adding.set(false);
    this.deals.close();
    this.desk.open(this.isOpen(word) ? null : word.at);
  }

  protected key(event: KeyboardEvent, word: TreatmentWord): void {
    const { key } = event;
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const arrow = key.startsWith('Arrow');
    if (event.shiftKey && arrow) this.move(word, key === 'ArrowRight' || key === 'ArrowDown' ? 1 : -1);
    else if (key === 'ArrowUp' || key === 'ArrowDown') this.desk.step(word.at, key === 'ArrowUp' ? 1 : -1);
    else if (key === 'ArrowLeft' || key === 'ArrowRight') this.focus(word.index + (key === 'ArrowRight' ? 1 : -1));
    else if (key === 'Enter') this.toggle(word);
    else if (key === 'Backspace' || key === 'Delete')
      if (event.shiftKey) this.remove(word);
      else this.desk.strike(word.at);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  protected wheel(event: WheelEvent, { at }: TreatmentWord): void {
    event.preventDefault();
    this.desk.step(at, event.deltaY < 0 ? 1 : -1);
  }

  private move({ at }: TreatmentWord, by: 1 | -1): void {
    const to = this.desk.move(at, by);
    this.focus(placesIn(this.desk.chain()).findIndex(({ branch, step }) => branch === to.branch && step === to.step));
  }

  private remove({ at, index }: TreatmentWord): void {
    this.desk.remove(at);
    this.focus(Math.max(0, index - 1));
  }

  /** Goes to a word as soon as it is there; to what adds one where there is none. */
  private focus(index: number): void {
    setTimeout(() => {
      const words = this.host.nativeElement.querySelectorAll<HTMLElement>('.word');
      const wanted = words[Math.min(index, words.length - 1)] ?? this.host.nativeElement.querySelector('button');
      if (index >= 0) wanted?.focus();
    });
  }
}

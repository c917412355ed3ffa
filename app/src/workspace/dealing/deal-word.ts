import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { DealDesk } from '../../desks/deal-desk';

/** How a part's line is dealt out, as the last word of what it goes through. */
@Component({
  selector: 'fd-deal-word',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (desk.given(); as given) {
      <span>, with {{ given }}</span>
    }
    @if (desk.deal(); as deal) {
      <span
        >;
        <span
          class="word"
          role="spinbutton"
          tabindex="0"
          aria-valuenow="0"
          aria-label="Dealing"
          [class.off]="deal.off"
          [class.open]="desk.open()"
          [attr.aria-valuetext]="deal.off ? desk.said() + ', struck out' : desk.said()"
          title="Up and down change how, Delete strikes it out; press to choose who"
          (keydown)="key($event)"
          (click)="desk.toggle()"
          (wheel)="wheel($event)"
          >{{ desk.said() }}</span
        ></span
      >
    }
  `,
  styleUrl: '../treatments/treatment-sentence.scss',
  styles: `
    /* Many names go on in the next line. */
    .word {
      display: inline;
    }
  `,
})
export class DealWord {
  protected readonly desk = inject(DealDesk);

  protected key(event: KeyboardEvent): void {
    const { key } = event;
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (key === 'ArrowUp' || key === 'ArrowDown') this.desk.step(key === 'ArrowUp' ? 1 : -1);
    else if (key === 'Enter') this.desk.toggle();
    else if (key === 'Backspace' || key === 'Delete')
      if (event.shiftKey) this.desk.remove();
      else this.desk.strike();
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  protected wheel(event: WheelEvent): void {
    event.preventDefault();
    this.desk.step(event.deltaY < 0 ? 1 : -1);
  }
}

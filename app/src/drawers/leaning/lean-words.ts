import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { sayLean } from '@fendro/core/lean/words';
import { LeanDesk, type LeanTarget } from '../../desks/lean-desk';

/** How a brief or a pattern leans by itself, as words that step and are struck out. */
@Component({
  selector: 'fd-lean-words',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (word of words(); track $index) {
      <span
        >{{ $first ? 'leans ' : ', ' }}
        <span
          class="word"
          role="spinbutton"
          tabindex="0"
          aria-valuenow="0"
          [class.off]="word.off"
          [attr.aria-label]="'Leaning ' + ($index + 1) + ' of ' + words().length"
          [attr.aria-valuetext]="word.off ? word.text + ', struck out' : word.text"
          title="Up and down change it, Delete strikes it out; press for all its settings"
          (keydown)="key($event, $index)"
          (click)="opened.emit()"
          (wheel)="wheel($event, $index)"
          >{{ word.text }}</span
        ></span
      >
    }
  `,
  styles: `
    .word {
      padding: 0 2px;
      cursor: ns-resize;
      color: var(--accent);
      font-weight: 700;
      text-decoration: underline;
      text-underline-offset: 4px;
      border-radius: 4px;
      user-select: none;
    }
    .word:hover {
      background: var(--accent-faint);
    }
    .off {
      color: var(--quiet);
      font-weight: 400;
      text-decoration: line-through;
    }
  `,
})
export class LeanWords {
  private readonly desk = inject(LeanDesk);
  readonly of = input.required<LeanTarget>();
  /** All settings are asked for. */
  readonly opened = output();
  protected readonly words = computed(() =>
    this.desk.leans(this.of()).map((lean) => ({ text: sayLean(lean), off: lean.off === true })),
  );

  protected key(event: KeyboardEvent, index: number): void {
    const { key } = event;
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (key === 'ArrowUp' || key === 'ArrowDown') this.desk.step(this.of(), index, key === 'ArrowUp' ? 1 : -1);
    else if (key === 'Enter') this.opened.emit();
    else if (key === 'Backspace' || key === 'Delete')
      if (event.shiftKey) this.desk.remove(this.of(), index);
      else this.desk.strike(this.of(), index);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  protected wheel(event: WheelEvent, index: number): void {
    event.preventDefault();
    this.desk.step(this.of(), index, event.deltaY < 0 ? 1 : -1);
  }
}

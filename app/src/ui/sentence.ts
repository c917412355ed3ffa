import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';

/** One adjustable word of a brief. */
export interface SentenceWord {
  readonly id: string;
  /** What the word sets, for those who cannot see the sentence: “Busyness”. */
  readonly label: string;
  readonly text: string;
  readonly usual: boolean;
  /** True where this word asks for what cannot be met. */
  readonly blamed?: boolean;
}

const NOTHING: ReadonlySet<string> = new Set();

/** A brief as a sentence: up and down on a word step it, Backspace returns it to its usual. */
@Component({
  selector: 'fd-sentence',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p>
      {{ opening() }}
      @for (word of words(); track word.id; let last = $last) {
        <span class="clause"
          ><span
            class="word"
            [class.unusual]="!word.usual"
            [class.blamed]="word.blamed"
            [class.moved]="moved().has(word.id)"
            [attr.aria-invalid]="word.blamed ? true : null"
            role="spinbutton"
            tabindex="0"
            aria-valuenow="0"
            [attr.aria-valuetext]="word.text"
            [attr.aria-label]="word.label"
            [title]="word.label + ': up and down change it, Backspace returns it'"
            (keydown)="key($event, word)"
            (click)="opened.emit(word.id)"
            (wheel)="wheel($event, word)"
            >{{ word.text }}</span
          >{{ last ? '.' : ',' }}</span
        >{{ ' ' }}
      }
    </p>
  `,
  styles: `
    p {
      margin: 0;
      line-height: 1.75;
    }
    /* A word and its comma stay on one line. */
    .clause {
      white-space: nowrap;
    }
    .word {
      display: inline-block;
      padding: 0 2px;
      cursor: ns-resize;
      color: var(--accent);
      text-decoration: underline dotted;
      text-underline-offset: 4px;
      border-radius: 4px;
      min-height: 24px;
      line-height: 1.5;
      user-select: none;
    }
    .word:hover {
      background: var(--accent-faint);
    }
    .word.blamed {
      color: var(--alert-text);
      text-decoration-style: wavy;
    }
    .word.unusual {
      font-weight: 700;
      text-decoration-style: solid;
    }
    .word.moved {
      background: var(--accent-faint);
      animation: moved 0.9s ease-out;
    }
    @keyframes moved {
      from {
        background: var(--accent);
        color: var(--surface);
      }
    }
    @media (prefers-reduced-motion) {
      .word.moved {
        animation: none;
      }
    }
    @media (pointer: coarse) {
      .word {
        padding-block: 12px;
      }
    }
  `,
})
export class Sentence {
  readonly opening = input('');
  readonly words = input.required<readonly SentenceWord[]>();
  /** Words that something else has just moved: they blink once. */
  readonly moved = input<ReadonlySet<string>>(NOTHING);
  readonly stepped = output<{ readonly id: string; readonly by: 1 | -1 }>();
  readonly returned = output<string>();
  readonly opened = output<string>();

  protected key(event: KeyboardEvent, word: SentenceWord): void {
    if (event.key === 'ArrowUp' || event.key === 'ArrowDown')
      this.stepped.emit({ id: word.id, by: event.key === 'ArrowUp' ? 1 : -1 });
    else if (event.key === 'Enter') this.opened.emit(word.id);
    else if (event.key === 'Backspace' || event.key === 'Delete') this.returned.emit(word.id);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  protected wheel(event: WheelEvent, word: SentenceWord): void {
    event.preventDefault();
    this.stepped.emit({ id: word.id, by: event.deltaY < 0 ? 1 : -1 });
  }
}

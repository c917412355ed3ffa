import { ChangeDetectionStrategy, Component, ElementRef, inject, input, linkedSignal, output } from '@angular/core';
import type { Chord } from '@fendro/core/theory/chord';
import { ChordSymbol } from './chord-symbol';

/** One idea of a list: a chord, or words, with its reason. */
export interface Idea {
  readonly id: string;
  readonly chord?: Chord;
  readonly text?: string;
  readonly detail: string;
  /** A word that sets it apart: “kept”, “in use”. */
  readonly marked?: string;
}

/** Ideas that are heard on focus and taken with Enter: up and down go through them. */
@Component({
  selector: 'fd-idea-list',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChordSymbol],
  template: `
    <div
      class="list"
      role="listbox"
      [attr.aria-label]="label()"
      tabindex="0"
      [attr.aria-activedescendant]="at() === null ? null : 'idea-' + at()"
      (keydown)="key($event)"
    >
      @for (idea of ideas(); track idea.id) {
        <!-- Options are reached by the arrow keys of the list box. -->
        <!-- eslint-disable-next-line @angular-eslint/template/click-events-have-key-events,
          @angular-eslint/template/interactive-supports-focus -->
        <div
          class="idea"
          [class.stacked]="!idea.chord"
          role="option"
          [id]="'idea-' + idea.id"
          [class.current]="idea.id === at()"
          [attr.aria-selected]="idea.id === at()"
          (click)="choose(idea.id)"
          (dblclick)="taken.emit(idea.id)"
        >
          @if (idea.chord) {
            <fd-chord-symbol [chord]="idea.chord" />
          } @else {
            <span class="text">{{ idea.text }}</span>
          }
          <span class="detail">{{ idea.detail }}</span>
          @if (idea.marked) {
            <span class="marked">{{ idea.marked }}</span>
          }
        </div>
      } @empty {
        <p class="quiet none">{{ nothing() }}</p>
      }
    </div>
  `,
  styles: `
    :host {
      display: block;
      min-height: 0;
    }
    .list {
      max-height: 100%;
      overflow: auto;
      border: 1px solid var(--line);
      border-radius: 8px;
    }
    .idea {
      display: flex;
      align-items: baseline;
      gap: 8px;
      padding: 5px 8px;
      min-height: 30px;
      cursor: pointer;
      border-bottom: 1px solid var(--line);
    }
    .idea.stacked {
      display: block;
      position: relative;
    }
    .stacked .text,
    .stacked .detail {
      display: block;
    }
    .stacked .marked {
      position: absolute;
      top: 6px;
      right: 8px;
    }
    .idea:last-child {
      border-bottom: 0;
    }
    .idea:hover {
      background: var(--sunk);
    }
    .idea.current {
      background: var(--accent-faint);
      box-shadow: inset 3px 0 0 var(--accent);
    }
    fd-chord-symbol {
      min-width: 3.6rem;
      flex: none;
    }
    .text {
      min-width: 0;
    }
    .detail {
      color: var(--quiet);
      font-size: 0.8125rem;
      flex: 1;
      min-width: 0;
    }
    .marked {
      color: var(--accent);
      font-size: 0.75rem;
    }
    .none {
      margin: 8px;
    }
  `,
})
export class IdeaList {
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  readonly label = input.required<string>();
  readonly ideas = input.required<readonly Idea[]>();
  readonly current = input<string | null>(null);
  readonly nothing = input('Nothing here.');
  /** An idea came into focus: it is heard. */
  readonly heard = output<string>();
  readonly taken = output<string>();
  readonly left = output();
  readonly kept = output<string>();
  /** Where the keys stand, at once: several may be pressed before `current` comes back from whoever hears. */
  protected readonly at = linkedSignal(() => this.current());

  protected choose(id: string): void {
    this.host.nativeElement.querySelector<HTMLElement>('.list')?.focus();
    this.hear(id);
  }

  private hear(id: string): void {
    this.at.set(id);
    this.heard.emit(id);
  }

  private leave(): void {
    this.at.set(null);
    this.left.emit();
  }

  protected key(event: KeyboardEvent): void {
    const ideas = this.ideas();
    const at = ideas.findIndex(({ id }) => id === this.at());
    const here = ideas[at];
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      const next =
        ideas[at < 0 ? 0 : Math.max(0, Math.min(ideas.length - 1, at + (event.key === 'ArrowDown' ? 1 : -1)))];
      if (next) {
        this.hear(next.id);
        this.host.nativeElement.querySelector(`[id="idea-${next.id}"]`)?.scrollIntoView({ block: 'nearest' });
      }
    } else if (event.key === 'Enter' && here) this.taken.emit(here.id);
    else if (event.key === 'y' && here) this.kept.emit(here.id);
    else if (event.key === 'Escape') this.leave();
    else return;
    event.preventDefault();
    event.stopPropagation();
  }
}

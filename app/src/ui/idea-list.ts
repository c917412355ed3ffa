import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import type { Chord } from '@fendro/core/theory/chord';
import { ChordSymbol } from './chord-symbol';
import { HeardList, HeardOption } from './heard-list';

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
  imports: [ChordSymbol, HeardList, HeardOption],
  template: `
    <div
      class="list"
      fdHeardList
      [attr.aria-label]="label()"
      [at]="current()"
      (heard)="heard.emit($event)"
      (taken)="taken.emit($event)"
      (kept)="kept.emit($event)"
      (left)="left.emit()"
    >
      @for (idea of ideas(); track idea.id) {
        <div class="idea" [class.stacked]="!idea.chord" [fdHeardOption]="idea.id">
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
      min-height: max(30px, var(--control-small));
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
  readonly label = input.required<string>();
  readonly ideas = input.required<readonly Idea[]>();
  readonly current = input<string | null>(null);
  readonly nothing = input('Nothing here.');
  /** An idea came into focus: it is heard. */
  readonly heard = output<string>();
  readonly taken = output<string>();
  readonly left = output();
  readonly kept = output<string>();
}

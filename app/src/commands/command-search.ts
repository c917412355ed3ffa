import { ActiveDescendantKeyManager, type Highlightable } from '@angular/cdk/a11y';
import {
  afterRenderEffect,
  ChangeDetectionStrategy,
  Component,
  computed,
  Directive,
  ElementRef,
  inject,
  Injector,
  input,
  signal,
  untracked,
  viewChildren,
} from '@angular/core';
import { MatDialogContent, MatDialogRef } from '@angular/material/dialog';
import { MatFormField, MatLabel } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import type { Command } from './command';
import { Commands } from './commands';
import { sayChord } from './key-chord';
import { wordsIn } from '../ui/words';

/** Commands whose words, heading and keys hold every word that was asked for; what begins with the first stands first. */
export function findCommands(all: readonly Command[], query: string): readonly Command[] {
  const asked = wordsIn(query);
  const [first] = asked;
  const found = all.filter(({ words, group }) => {
    const text = `${words} ${group}`.toLowerCase();
    return asked.every((word) => text.includes(word));
  });
  const begins = ({ words }: Command): boolean => first !== undefined && words.toLowerCase().startsWith(first);
  return [...found.filter(begins), ...found.filter((command) => !begins(command))];
}

/** One line of the list, as the arrow keys go over it. */
@Directive({
  selector: '[fdFound]',
  host: { role: 'option', '[id]': 'id()', '[class.current]': 'current()', '[attr.aria-selected]': 'current()' },
})
export class Found implements Highlightable {
  private readonly element = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  readonly fdFound = input.required<Command>();
  readonly current = signal(false);
  readonly id = computed(() => `command-${this.fdFound().id}`);

  setActiveStyles(): void {
    this.current.set(true);
    this.element.scrollIntoView({ block: 'nearest' });
  }

  setInactiveStyles(): void {
    this.current.set(false);
  }
}

/** Every command that can be done now, found by words and done with Enter. */
@Component({
  selector: 'fd-command-search',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Found, MatDialogContent, MatFormField, MatInput, MatLabel],
  template: `
    <mat-dialog-content>
      <mat-form-field>
        <mat-label>What would you like to do?</mat-label>
        <input
          matInput
          #words
          cdkFocusInitial
          role="combobox"
          autocomplete="off"
          spellcheck="false"
          aria-expanded="true"
          aria-controls="commands-found"
          aria-autocomplete="list"
          [attr.aria-activedescendant]="active()"
          [value]="query()"
          (input)="query.set(words.value)"
          (keydown)="key($event)"
        />
      </mat-form-field>
      <div class="found" id="commands-found" role="listbox" aria-label="Commands">
        @for (command of found(); track command.id) {
          <!-- Reached from the field, whose arrow keys go over them. -->
          <!-- eslint-disable-next-line @angular-eslint/template/click-events-have-key-events,
            @angular-eslint/template/interactive-supports-focus -->
          <div class="command" [fdFound]="command" (click)="run(command)">
            <span class="words">{{ command.now?.() ?? command.words }}</span>
            <span class="quiet group">{{ command.group }}</span>
            @for (key of keysOf(command); track key) {
              <kbd>{{ key }}</kbd>
            }
          </div>
        }
      </div>
      @if (found().length === 0) {
        <p class="quiet" role="status">Nothing by these words. Try one of them alone.</p>
      }
    </mat-dialog-content>
  `,
  styles: `
    mat-form-field {
      width: 100%;
    }
    .found {
      height: min(50vh, 22rem);
      overflow: auto;
    }
    .command {
      display: flex;
      align-items: baseline;
      gap: 10px;
      padding: 6px 10px;
      min-height: 32px;
      border-radius: 6px;
      color: var(--ink);
      cursor: pointer;
    }
    .command:hover {
      background: var(--sunk);
    }
    .command.current {
      background: var(--accent-faint);
      box-shadow: inset 3px 0 0 var(--accent);
    }
    .words {
      flex: 1;
      min-width: 0;
    }
    .group {
      font-size: 0.8125rem;
    }
  `,
})
export class CommandSearch {
  private readonly commands = inject(Commands);
  private readonly dialog = inject<MatDialogRef<CommandSearch>>(MatDialogRef);
  protected readonly query = signal('');
  protected readonly found = computed(() =>
    findCommands(this.commands.all, this.query()).filter(
      (command) => command.id !== 'page.commands' && !command.release && (command.enabled?.() ?? true),
    ),
  );
  private readonly lines = viewChildren(Found);
  private readonly over = new ActiveDescendantKeyManager(this.lines, inject(Injector)).withWrap().withPageUpDown();
  protected readonly active = computed(
    () =>
      this.lines()
        .find((line) => line.current())
        ?.id() ?? null,
  );

  constructor() {
    // The best match stands ready for Enter.
    afterRenderEffect(() => {
      this.lines();
      untracked(() => {
        this.over.setActiveItem(0);
      });
    });
  }

  protected keysOf(command: Command): readonly string[] {
    return this.commands.keysOf(command).map(sayChord);
  }

  protected key(event: KeyboardEvent): void {
    const command = this.over.activeItem?.fdFound();
    if (event.key === 'Enter' && command) {
      event.preventDefault();
      this.run(command);
    } else this.over.onKeydown(event);
  }

  /** Closes first: what the command does may need the page's focus. */
  protected run(command: Command): void {
    this.dialog.afterClosed().subscribe(() => {
      this.commands.run(command);
    });
    this.dialog.close();
  }
}

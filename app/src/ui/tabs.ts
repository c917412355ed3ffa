import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';

/** One of several views in the same place. */
export interface Tab<Id extends string = string> {
  readonly id: Id;
  readonly name: string;
}

/** A row of tabs: arrows go round, the one in view takes Tab. */
@Component({
  selector: 'fd-tabs',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="tabs" role="tablist" [attr.aria-label]="label()">
      @for (tab of tabs(); track tab.id) {
        <button
          role="tab"
          [id]="tabId(tab.id)"
          [attr.aria-selected]="tab.id === current()"
          [tabindex]="tab.id === current() ? 0 : -1"
          [attr.aria-controls]="prefix() + '-panel'"
          (click)="opened.emit(tab.id)"
          (keydown)="key($event)"
        >
          {{ tab.name }}
        </button>
      }
    </div>
  `,
  styles: `
    .tabs {
      display: flex;
      border-bottom: 1px solid var(--line);
    }
    button {
      flex: 1;
      min-height: 28px;
      padding: 0 2px;
      border: 0;
      border-bottom: 2px solid transparent;
      background: transparent;
      color: var(--quiet);
      cursor: pointer;
      font-size: 0.8125rem;
    }
    button:hover {
      color: var(--ink);
    }
    button[aria-selected='true'] {
      color: var(--accent);
      border-bottom-color: var(--accent);
      font-weight: 600;
    }
  `,
})
export class Tabs<Id extends string = string> {
  readonly label = input.required<string>();
  /** Begins the ids of the tabs (`…-tab-name`) and of the panel that they fill (`…-panel`). */
  readonly prefix = input.required<string>();
  readonly tabs = input.required<readonly Tab<Id>[]>();
  readonly current = input.required<Id>();
  readonly opened = output<Id>();

  protected tabId(id: string): string {
    return `${this.prefix()}-tab-${id}`;
  }

  protected key(event: KeyboardEvent): void {
    const by = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
    if (by === 0) return;
    event.preventDefault();
    event.stopPropagation();
    const tabs = this.tabs();
    const at = tabs.findIndex(({ id }) => this.tabId(id) === (event.target as HTMLElement).id);
    const next = tabs[(at + by + tabs.length) % tabs.length];
    if (!next) return;
    this.opened.emit(next.id);
    // At once: the tabs are always there, and a Tab pressed right after must leave from the new one.
    document.getElementById(this.tabId(next.id))?.focus();
  }
}

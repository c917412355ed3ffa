import { afterNextRender, ChangeDetectionStrategy, Component, ElementRef, output, viewChild } from '@angular/core';
import { KEY_LIST } from './key-list';

/** All keys on one sheet. */
@Component({
  selector: 'fd-key-sheet',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <dialog #dialog aria-labelledby="keys-title" (close)="closed.emit()">
      <header>
        <h2 id="keys-title">Keys</h2>
        <button class="button small" (click)="dialog.close()">Close</button>
      </header>
      <div class="groups">
        @for (group of groups; track group.where) {
          <section>
            <h3>{{ group.where }}</h3>
            <dl>
              @for (entry of group.keys; track entry[0]) {
                <div>
                  <dt>
                    <kbd>{{ entry[0] }}</kbd>
                  </dt>
                  <dd>{{ entry[1] }}</dd>
                </div>
              }
            </dl>
          </section>
        }
      </div>
    </dialog>
  `,
  styles: `
    dialog {
      border: 1px solid var(--line);
      border-radius: 8px;
      background: var(--surface);
      color: var(--ink);
      padding: 20px 24px;
      max-width: 56rem;
      width: calc(100vw - 64px);
      box-shadow: var(--shadow);
    }
    dialog::backdrop {
      background: rgb(10 20 18 / 35%);
    }
    header {
      display: flex;
      justify-content: space-between;
      align-items: center;
      margin-bottom: 12px;
    }
    .groups {
      columns: 2;
      column-gap: 32px;
    }
    section {
      break-inside: avoid;
      margin-bottom: 16px;
    }
    h3 {
      font-size: 0.8125rem;
      color: var(--quiet);
      margin-bottom: 4px;
    }
    dl {
      margin: 0;
    }
    dl div {
      display: flex;
      gap: 12px;
      padding: 3px 0;
    }
    dt {
      width: 10rem;
    }
    dd {
      margin: 0;
    }
  `,
})
export class KeySheet {
  readonly closed = output();
  protected readonly groups = KEY_LIST;
  private readonly dialog = viewChild.required<ElementRef<HTMLDialogElement>>('dialog');

  constructor() {
    afterNextRender(() => {
      this.dialog().nativeElement.showModal();
    });
  }
}

import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  ElementRef,
  inject,
  input,
  output,
  viewChild,
} from '@angular/core';
import { MatIconButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';

/** A sheet that lies over the left neighbour of what opened it, so that nothing there has to make room. */
@Component({
  selector: 'fd-beside',
  host: { '(keydown.escape)': 'leave($event)' },
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatIcon, MatIconButton],
  template: `
    <section #sheet tabindex="-1" [attr.aria-label]="label()">
      <header>
        <h3>{{ label() }}</h3>
        <button matIconButton class="small" [attr.aria-label]="back()" (click)="closed.emit()">
          <mat-icon svgIcon="close" />
        </button>
      </header>
      <div class="content"><ng-content /></div>
    </section>
  `,
  styles: `
    :host {
      position: absolute;
      top: 52px;
      right: calc(100% + 8px);
      z-index: 6;
      width: 22rem;
      max-height: calc(100% - 60px);
      display: flex;
      background: var(--surface);
      border: 1px solid var(--edge);
      border-radius: var(--corner);
      box-shadow: var(--shadow);
    }
    section:focus-visible {
      outline: none;
    }
    section {
      flex: 1;
      min-width: 0;
      display: flex;
      flex-direction: column;
      padding: 8px 12px 12px;
    }
    header {
      display: flex;
      align-items: center;
      justify-content: space-between;
      flex: none;
    }
    h3 {
      font-size: 0.9375rem;
    }
    .content {
      overflow: auto;
      min-height: 0;
    }
    /* Where there is no room beside it, it lies over it. */
    @media (max-width: 900px) {
      :host {
        position: fixed;
        inset: auto 8px 8px;
        width: auto;
        max-height: 80vh;
      }
    }
  `,
})
export class Beside {
  readonly label = input.required<string>();
  /** What its way out is called. */
  readonly back = input('Close');
  readonly closed = output();
  private readonly sheet = viewChild.required<ElementRef<HTMLElement>>('sheet');

  /** The sheet that is shown: another one that is opened takes its place. */
  private static shown: Beside | null = null;

  constructor() {
    inject(DestroyRef).onDestroy(() => {
      if (Beside.shown === this) Beside.shown = null;
    });
    afterNextRender(() => {
      if (Beside.shown !== this) Beside.shown?.closed.emit();
      Beside.shown = this;
    });
    // Opened by keys, it takes the focus along; a hand on the mouse stays where it listens.
    afterNextRender(() => {
      if (document.activeElement?.matches(':focus-visible')) this.sheet().nativeElement.focus();
    });
  }

  protected leave(event: Event): void {
    event.preventDefault();
    event.stopPropagation();
    this.closed.emit();
  }
}

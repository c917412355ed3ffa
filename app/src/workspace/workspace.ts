import { afterNextRender, afterRenderEffect, ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { Mishaps } from '../store/mishaps';
import { selectScore, selectSong } from '../store/selectors';
import { sessionFeature } from '../store/session';
import { DragOut } from '../desks/drag-out';
import { Dialogs } from '../commands/dialogs';
import { warmUpDrawers } from '../drawers/registry';
import { fetchWhenIdle } from '../ui/fetch-ahead';
import { DrawerFrame } from '../drawers/drawer-frame';
import { Bench } from './bench';
import { FirstMinute } from './first-minute';
import { RunningOrder } from './running-order';
import { Sheet } from './sheet';

/** Where songs are made: the running order above, the sheet, the bench beside it, a drawer below when asked for. */
@Component({
  selector: 'fd-workspace',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [RunningOrder, Sheet, Bench, DrawerFrame, FirstMinute],
  template: `
    <h1 class="spoken-only">{{ score()?.title }}</h1>
    <fd-running-order />
    <div class="middle">
      <div class="left">
        <fd-sheet />
        @if (drawer(); as drawer) {
          <fd-drawer-frame [drawer]="drawer" />
        }
      </div>
      <div class="bench">
        @if (benchThere()) {
          <fd-bench />
        }
      </div>
    </div>
    <fd-first-minute />
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      flex: 1;
      min-height: 0;
    }
    .middle {
      display: flex;
      flex: 1;
      min-height: 0;
    }
    .left {
      flex: 1;
      min-width: 0;
      display: flex;
      flex-direction: column;
      min-height: 0;
    }
    fd-sheet {
      flex: 1;
      min-height: 0;
    }
    .bench {
      width: 340px;
      flex: none;
      display: flex;
      background: var(--surface);
    }
    fd-bench {
      flex: 1;
      min-width: 0;
    }
    @media (max-width: 1100px) {
      .bench {
        width: 300px;
      }
    }
    /* A tablet held upright, or a page that is zoomed: sheet and bench stand one below the other, and the page scrolls. */
    @media (max-width: 900px), (max-height: 560px) {
      :host {
        flex: none;
      }
      .middle {
        flex-direction: column;
      }
      .left,
      fd-sheet {
        flex: none;
      }
      fd-sheet {
        height: min(60vh, 30rem);
        min-height: 16rem;
      }
      .bench {
        width: auto;
        height: 34rem;
        border-top: 1px solid var(--line);
      }
    }
  `,
})
export class Workspace {
  private readonly store = inject(Store);
  protected readonly score = this.store.selectSignal(selectScore);
  protected readonly drawer = this.store.selectSignal(sessionFeature.selectDrawer);

  /** A picture after the sheet: both at once would hold the page up. */
  protected readonly benchThere = signal(false);

  constructor() {
    afterNextRender(() => {
      requestAnimationFrame(() => {
        this.benchThere.set(true);
      });
    });
    inject(DragOut).warmUp();
    const dialogs = inject(Dialogs);
    afterNextRender(() => {
      fetchWhenIdle(() => {
        warmUpDrawers();
        dialogs.warmUp();
      });
    });
    const [mishaps, song] = [inject(Mishaps), this.store.selectSignal(selectSong)];
    afterRenderEffect(() => {
      const id = song().open?.id;
      if (id !== undefined) mishaps.wasShown(id);
    });
  }
}

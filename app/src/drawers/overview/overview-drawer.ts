import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  linkedSignal,
  untracked,
  viewChild,
} from '@angular/core';
import { MatIconButton, MatButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { MatTooltip } from '@angular/material/tooltip';
import { Store } from '@ngrx/store';
import { songTicks } from '@fendro/core/song/resolve';
import { glanceOf } from '@fendro/core/sounding/glance';
import { selectMusic, selectPart, selectPlaced, selectView } from '../../store/selectors';
import { SessionActions } from '../../store/session';
import { HEAD, moved, tellCell, type Cell, type OverviewRow } from './overview-layout';
import { OverviewMap } from './overview-map';

/** Keys that go about on the song: bars and rows. */
const STEPS: Readonly<Record<string, readonly [bars: number, rows: number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
  PageUp: [-8, 0],
  PageDown: [8, 0],
};

/** The whole song at a glance: which part plays where, how full and how loud, and the way there. */
@Component({
  selector: 'fd-overview-drawer',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatIcon, MatIconButton, MatTooltip, OverviewMap],
  template: `
    <header>
      <h2>Whole song</h2>
      <span class="quiet" role="status">{{ told() }}</span>
      <span class="gap"></span>
      <span class="quiet">as high as full, as strong as loud</span>
      <button
        matIconButton
        class="small"
        aria-label="Spread the bars"
        matTooltip="Spread the bars (+)"
        (click)="map()?.zoomBy(1)"
      >
        <mat-icon svgIcon="add" />
      </button>
      <button
        matIconButton
        class="small"
        aria-label="More bars in view"
        matTooltip="More bars in view (-)"
        (click)="map()?.zoomBy(-1)"
      >
        <mat-icon svgIcon="remove" />
      </button>
      <button matButton class="small" matTooltip="The whole song in view (0)" (click)="map()?.whole()">All</button>
    </header>
    <div
      class="body"
      role="application"
      tabindex="0"
      aria-label="The whole song: arrows go over bars and parts, Enter goes there, plus and minus zoom"
      [attr.aria-description]="told()"
      (keydown)="key($event)"
    >
      <ul class="names" aria-hidden="true" [style.padding-top.px]="head">
        @for (row of rows(); track row.part.id) {
          <li [style.height.px]="map()?.rowHeight() ?? 20">
            <span class="mark" [style.background]="'var(--part-' + row.part.colour + ')'"></span>{{ row.part.name }}
          </li>
        }
      </ul>
      <fd-overview-map [rows]="rows()" [length]="length()" [viewed]="viewed()" [cell]="cell()" (picked)="go($event)" />
    </div>
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      flex: 1;
      min-height: 0;
      padding: 8px 14px 10px;
    }
    header {
      display: flex;
      align-items: center;
      gap: 14px;
      padding-inline-end: 36px;
      font-size: 0.8125rem;
    }
    h2 {
      font-size: 0.9375rem;
    }
    .gap {
      flex: 1;
    }
    .body {
      display: flex;
      flex: 1;
      min-height: 0;
      margin-top: 6px;
      overflow: hidden auto;
    }
    .names {
      flex: none;
      width: 108px;
      margin: 0;
      padding: 0;
      list-style: none;
      font-size: 0.8125rem;
    }
    .names li {
      display: flex;
      align-items: center;
      gap: 7px;
      overflow: hidden;
      white-space: nowrap;
    }
    .mark {
      flex: none;
      width: 4px;
      height: 70%;
      border-radius: 2px;
    }
    fd-overview-map {
      flex: 1;
      min-width: 0;
    }
  `,
})
export class OverviewDrawer {
  private readonly store = inject(Store);
  private readonly music = this.store.selectSignal(selectMusic);
  private readonly placed = this.store.selectSignal(selectPlaced);
  private readonly view = this.store.selectSignal(selectView);
  private readonly part = this.store.selectSignal(selectPart);
  protected readonly map = viewChild(OverviewMap);
  protected readonly head = HEAD;
  protected readonly rows = computed((): readonly OverviewRow[] => {
    const [music, placed] = [this.music(), this.placed()];
    return music ? music.score.parts.map((part) => ({ part, places: glanceOf(music, placed, part) })) : [];
  });
  protected readonly length = computed(() => {
    const music = this.music();
    return music ? songTicks(music.score) : 0;
  });
  protected readonly viewed = computed(() =>
    this.placed().findIndex(({ occurrence }) => occurrence.id === this.view()?.occurrence.id),
  );
  /** The cell that the keys are on: at first the beginning of what is in view. */
  protected readonly cell = linkedSignal<string, Cell | null>({
    source: () => `${this.view()?.occurrence.id} ${this.part()?.id}`,
    computation: () =>
      untracked(() => {
        const row = this.rows().findIndex(({ part }) => part.id === this.part()?.id);
        return this.viewed() < 0 ? null : { row: Math.max(0, row), place: this.viewed(), bar: 0 };
      }),
  });
  protected readonly told = computed(() => {
    const cell = this.cell();
    return cell ? tellCell(this.rows(), cell) : '';
  });

  /** Looks at a place, with the part in focus and the cursor on the bar. */
  protected go(cell: Cell): void {
    const row = this.rows()[cell.row];
    const place = row?.places[cell.place]?.place;
    if (!row || !place) return;
    const occurrence = place.occurrence.id;
    this.store.dispatch(SessionActions.occurrenceViewed({ occurrence, line: row.part.id, bar: cell.bar }));
    this.cell.set(cell);
  }

  protected key(event: KeyboardEvent): void {
    const cell = this.cell();
    if (!cell || event.ctrlKey || event.metaKey || event.altKey) return;
    const step = STEPS[event.key];
    if (step) this.come(moved(this.rows(), cell, ...step));
    else if (event.key === 'Home') this.come({ row: cell.row, place: 0, bar: 0 });
    else if (event.key === 'Enter') this.go(cell);
    else if (event.key === '+') this.map()?.zoomBy(1);
    else if (event.key === '-') this.map()?.zoomBy(-1);
    else if (event.key === '0') this.map()?.whole();
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  private come(cell: Cell): void {
    this.cell.set(cell);
    this.map()?.reveal(cell);
  }
}

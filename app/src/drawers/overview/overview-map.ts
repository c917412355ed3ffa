import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { select, zoom, zoomIdentity, type D3ZoomEvent, type ZoomTransform } from 'd3';
import type { Ticks } from '@fendro/core/theory/units';
import { Playback } from '../../sound/playback';
import type { Position } from '../../sound/position-watch';
import { hostSize, penOf } from '../../ui/canvas';
import { inPictures } from '../../ui/in-pictures';
import { MovingMark } from '../../ui/moving-mark';
import { Theme, tokensAt } from '../../ui/theme';
import { timeScale } from '../../ui/time-scale';
import { cellAt, HEAD, rowHeight, startOf, type Cell, type OverviewRow } from './overview-layout';
import { paintOverview } from './overview-paint';

/** How far bars may be spread, in px. */
const WIDEST_BAR = 160;
const ZOOM_A_PRESS = 1.6;

/** All parts over all bars of the song, drawn on a canvas: zoomed by wheel and keys, dragged, gone to by a click. */
@Component({
  selector: 'fd-overview-map',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <canvas #canvas aria-hidden="true" [style.height.px]="height()" (click)="pick($event)"></canvas>
    <div #head class="head" hidden></div>
  `,
  styleUrl: '../../ui/moving-mark.scss',
  styles: `
    :host {
      display: block;
      position: relative;
      overflow: hidden;
    }
    canvas {
      display: block;
      width: 100%;
      cursor: pointer;
    }
  `,
})
export class OverviewMap {
  private readonly playback = inject(Playback);
  private readonly theme = inject(Theme);
  readonly rows = input.required<readonly OverviewRow[]>();
  readonly length = input.required<Ticks>();
  readonly viewed = input.required<number>();
  readonly cell = input.required<Cell | null>();
  readonly picked = output<Cell>();
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly head = viewChild.required<ElementRef<HTMLElement>>('head');
  private readonly mark = computed(() => new MovingMark(this.head().nativeElement));
  private readonly size = hostSize();
  private readonly transform = signal<ZoomTransform>(zoomIdentity);
  readonly rowHeight = computed(() => rowHeight(this.size().height, this.rows().length));
  protected readonly height = computed(() => HEAD + this.rows().length * this.rowHeight());
  private readonly plain = computed(() => timeScale(0, Math.max(1, this.length()), Math.max(1, this.size().width)));
  private readonly x = computed(() => this.transform().rescaleX(this.plain()));
  private readonly zoomed = zoom<HTMLCanvasElement, unknown>().on(
    'zoom',
    ({ transform }: D3ZoomEvent<HTMLCanvasElement, unknown>) => {
      this.transform.set(transform);
    },
  );

  constructor() {
    const destroyed = inject(DestroyRef);
    const drawing = inPictures(() => {
      this.draw();
    });
    effect(() => {
      this.picture();
      this.theme.name();
      drawing.ask();
    });
    effect(() => {
      const width = Math.max(1, this.size().width);
      const bars = this.rows()[0]?.places.reduce((sum, { bars: own }) => sum + own.length, 0) ?? 1;
      this.zoomed
        .scaleExtent([1, Math.max(1, (WIDEST_BAR * bars) / width)])
        .extent([
          [0, 0],
          [width, 1],
        ])
        .translateExtent([
          [0, 0],
          [width, 1],
        ]);
    });
    afterNextRender(() => {
      select(this.canvas().nativeElement).call(this.zoomed).on('dblclick.zoom', null);
      destroyed.onDestroy(
        this.playback.watch((position) => {
          this.follow(position);
        }),
      );
    });
    destroyed.onDestroy(() => {
      drawing.forget();
    });
  }

  private readonly picture = computed(() => ({
    rows: this.rows(),
    rowHeight: this.rowHeight(),
    x: this.x(),
    width: this.size().width,
    viewed: this.viewed(),
    cell: this.cell(),
  }));

  private draw(): void {
    const canvas = this.canvas().nativeElement;
    const pen = penOf(canvas, { width: this.size().width, height: this.height() });
    if (pen) paintOverview(pen, this.picture(), tokensAt(canvas));
  }

  /** The mark goes along the place that sounds: the next one may go at another tempo. */
  private follow(position: Position | null): void {
    const places = this.rows()[0]?.places ?? [];
    const at = position?.tick ?? -1;
    const place = places.find(({ place: { start, length } }) => at >= start && at < start + length)?.place;
    if (!position || !place) {
      this.mark().hide();
      return;
    }
    const [from, to] = [this.x()(place.start), this.x()(place.start + place.length)];
    const way = { from, to, top: 0, height: this.height() };
    this.mark().show(way, (at - place.start) / place.length, place.length / position.speed);
  }

  protected pick({ offsetX, offsetY }: MouseEvent): void {
    const row = Math.max(0, Math.min(this.rows().length - 1, Math.floor((offsetY - HEAD) / this.rowHeight())));
    const cell = cellAt(this.rows()[row]?.places ?? [], this.x().invert(offsetX), row);
    if (cell) this.picked.emit(cell);
  }

  /** Spreads the bars around the cell that the keys are on, or brings more of them into view. */
  zoomBy(presses: number): void {
    const around = this.cell();
    const at = around ? this.x()(startOf(this.rows()[around.row]?.places ?? [], around)) : this.size().width / 2;
    select(this.canvas().nativeElement).call((canvas) => {
      this.zoomed.scaleBy(canvas, ZOOM_A_PRESS ** presses, [at, 0]);
    });
  }

  whole(): void {
    select(this.canvas().nativeElement).call((canvas) => {
      this.zoomed.transform(canvas, zoomIdentity);
    });
  }

  /** Brings a cell into view. */
  reveal(cell: Cell): void {
    const { width } = this.size();
    const at = startOf(this.rows()[cell.row]?.places ?? [], cell);
    const x = this.x()(at);
    if (x >= 0 && x < width - 20) return;
    select(this.canvas().nativeElement).call((canvas) => {
      this.zoomed.translateTo(canvas, this.plain()(at), 0);
    });
  }
}

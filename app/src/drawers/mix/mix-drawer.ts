import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  ElementRef,
  inject,
  signal,
} from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatMenu, MatMenuItem, MatMenuTrigger } from '@angular/material/menu';
import { MatTooltip } from '@angular/material/tooltip';
import { Store } from '@ngrx/store';
import { MOVE_KINDS } from '@fendro/core/song/moves';
import type { PartId } from '@fendro/core/song/schema';
import { RunsCommand } from '../../commands/runs-command';
import { ClashDesk } from '../../desks/clash-desk';
import { nameOfLine } from '../../desks/moves-desk';
import { SlideField } from '../../ui/fields/slide-field';
import { growing } from '../../ui/growing';
import { Mixer } from '../../sound/mixer';
import { Playback } from '../../sound/playback';
import { selectPart, selectScore } from '../../store/selectors';
import { ScoreActions } from '../../store/song.actions';
import { MixMore } from './mix-more';
import { MixRow } from './mix-row';
import { MixWay } from './mix-way';
import { MixWhole } from './mix-whole';

/**
 * What is left of a meter's level after a second in which nothing sounds: it falls alike however often the page is
 * drawn.
 */
const LEFT_AFTER_A_SECOND = 0.012;

/** How long the most that the limiter took away is shown. */
const HELD_MS = 1000;

/** How each part and the whole stand in the mix, with what they sound now and what is in their way. */
@Component({
  selector: 'fd-mix-drawer',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    MatButton,
    MatMenu,
    MatMenuItem,
    MatMenuTrigger,
    MatTooltip,
    MixMore,
    MixRow,
    MixWay,
    MixWhole,
    RunsCommand,
    SlideField,
  ],
  template: `
    <header>
      <h2>Mix</h2>
      @if (score()?.ground; as ground) {
        <fd-slide-field
          label="Swing"
          shown="Swing"
          unit="%"
          [step]="5"
          [value]="ground.swing"
          (moved)="setGround({ swing: $event })"
        />
        <fd-slide-field
          label="Feel of the style"
          shown="Feel of the style"
          unit="%"
          [most]="150"
          [step]="10"
          [value]="ground.feel ?? 100"
          matTooltip="How far players sit behind or ahead of the beat, as the style has it"
          (moved)="setGround({ feel: $event })"
        />
      }
      <span class="gap"></span>
      <button matButton="outlined" class="small record" fdRuns="moves.record">Record moves</button>
      <button matButton class="small" [matMenuTriggerFor]="menu">Moves</button>
      <mat-menu #menu="matMenu">
        @if (part(); as own) {
          <button mat-menu-item fdRuns="moves.fade">Fade {{ own.name }} out</button>
          <button mat-menu-item [matMenuTriggerFor]="lines">Draw how {{ own.name }} moves</button>
          <button mat-menu-item fdRuns="moves.clear">{{ own.name }} as in the mix</button>
        }
        <button mat-menu-item fdRuns="moves.fade-song">Fade the song out</button>
      </mat-menu>
      <mat-menu #lines="matMenu">
        @for (kind of kinds; track kind) {
          <button mat-menu-item [fdRuns]="'moves.show-' + kind">{{ nameOfLine(kind) }}</button>
        }
      </mat-menu>
    </header>
    <table>
      <thead class="spoken-only">
        <tr>
          <th>Part</th>
          <th>Level</th>
          <th>Pan</th>
          <th>Quiet</th>
          <th>Alone</th>
          <th>Sounding</th>
          <th>Remove</th>
        </tr>
      </thead>
      <tbody>
        @for (part of parts(); track part.id) {
          <tr [fdMixRow]="part" [open]="open() === part.id" (openChange)="open.set($event ? part.id : null)"></tr>
          <tr>
            <td colspan="7">
              <fd-mix-way [part]="part" />
              @if (open() === part.id) {
                <fd-mix-more [part]="part" />
              }
            </td>
          </tr>
        }
        <tr fdMixWhole></tr>
        <tr>
          <td colspan="7" class="quiet told" role="status">{{ told() }}</td>
        </tr>
      </tbody>
    </table>
  `,
  styles: `
    :host {
      display: block;
      flex: 1;
      min-height: 0;
      padding: 8px 14px 10px;
      overflow: auto;
    }
    header {
      display: flex;
      align-items: center;
      gap: 18px;
    }
    h2 {
      font-size: 0.9375rem;
    }
    .gap {
      flex: 1;
    }
    .record[aria-pressed='true'] {
      color: var(--alert-text);
      border-color: var(--alert);
    }
    header {
      padding-inline-end: 36px;
      flex-wrap: wrap;
    }
    table {
      border-collapse: collapse;
      width: 100%;
    }
    .told {
      padding-inline-start: 36px;
      font-size: 0.8125rem;
    }
    td {
      padding: 0;
    }
  `,
})
export class MixDrawer {
  private readonly store = inject(Store);
  private readonly playback = inject(Playback);
  private readonly mixer = inject(Mixer);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  protected readonly score = this.store.selectSignal(selectScore);
  protected readonly part = this.store.selectSignal(selectPart);
  private readonly clashes = inject(ClashDesk);
  private readonly all = computed(() => this.score()?.parts ?? []);
  /** A row is slow to make: sliders measure themselves. */
  protected readonly parts = growing(this.all, 1, ({ id }) => id);
  /** The part whose tone and instruments are shown. */
  protected readonly open = signal<PartId | null>(null);
  protected readonly kinds = MOVE_KINDS;
  protected readonly nameOfLine = nameOfLine;
  protected readonly told = computed(() => {
    if (this.clashes.listening()) return 'Listening to every part …';
    return this.clashes.clear() ? 'Nothing is buried, nothing sits on another' : '';
  });
  private readonly shown = new Map<string, number>();
  private drawn = 0;
  private most = { reduced: 0, at: 0 };

  protected setGround(change: { swing: number } | { feel: number }): void {
    this.store.dispatch(ScoreActions.groundSet({ change, gesture: `ground ${Object.keys(change).join()}` }));
  }

  constructor() {
    const destroyed = inject(DestroyRef);
    this.clashes.watched.set(true);
    destroyed.onDestroy(() => {
      this.clashes.watched.set(false);
    });
    afterNextRender(() => {
      destroyed.onDestroy(
        this.playback.watch((position) => {
          this.showLevels(position !== null);
        }),
      );
    });
  }

  private showLevels(playing: boolean): void {
    const now = performance.now();
    const fall = LEFT_AFTER_A_SECOND ** ((now - this.drawn) / 1000);
    this.drawn = now;
    for (const meter of this.host.nativeElement.querySelectorAll<HTMLElement>('[data-meter]')) {
      const part = meter.dataset['meter'] ?? '';
      const sounding = part === '' ? this.mixer.whole.level : this.mixer.levelOf(part);
      const level = playing ? Math.max(sounding, (this.shown.get(part) ?? 0) * fall) : 0;
      this.shown.set(part, level);
      // Square root: closer to how loud it feels.
      const share = Math.min(1, Math.sqrt(level));
      meter.setAttribute('aria-valuenow', String(Math.round(share * 100)));
      (meter.firstElementChild as HTMLElement).style.transform = `scaleX(${share})`;
    }
    this.showReduction(playing ? this.mixer.whole.reduced : 0, now);
  }

  /** The most that was taken away in the last second: what flickers cannot be read. */
  private showReduction(reduced: number, now: number): void {
    if (reduced >= this.most.reduced || now - this.most.at > HELD_MS) this.most = { reduced, at: now };
    const place = this.host.nativeElement.querySelector('[data-reduced]');
    const text = this.most.reduced < 0.05 ? ', not at work' : `, ${this.most.reduced.toFixed(1)} dB taken away`;
    if (place && place.textContent !== text) place.textContent = text;
  }
}

import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  ElementRef,
  inject,
} from '@angular/core';
import { SlideField } from '../../ui/fields/slide-field';
import { TextField } from '../../ui/fields/text-field';
import { MatButton, MatIconButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { MatMenu, MatMenuItem, MatMenuTrigger } from '@angular/material/menu';
import { MatTooltip } from '@angular/material/tooltip';
import { Store } from '@ngrx/store';
import { instrumentOf } from '@fendro/core/sounding/instruments';
import type { Part } from '@fendro/core/song/schema';
import { RunsCommand } from '../../commands/runs-command';
import { BandDesk } from '../../desks/band-desk';
import { MovesDesk } from '../../desks/moves-desk';
import { growing } from '../../ui/growing';
import { Mixer } from '../../sound/mixer';
import { Playback } from '../../sound/playback';
import { selectPart, selectScore } from '../../store/selectors';
import { ScoreActions } from '../../store/song.actions';

/**
 * What is left of a meter's level after a second in which nothing sounds: it falls alike however often the page is
 * drawn.
 */
const LEFT_AFTER_A_SECOND = 0.012;

/** Level, pan, quiet and hearing alone for each part, with what it sounds now. */
@Component({
  selector: 'fd-mix-drawer',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    MatTooltip,
    MatButton,
    MatIconButton,
    MatIcon,
    MatMenu,
    MatMenuItem,
    MatMenuTrigger,
    RunsCommand,
    TextField,
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
          <button mat-menu-item fdRuns="moves.show-level">Draw the level of {{ own.name }}</button>
          <button mat-menu-item fdRuns="moves.show-pan">Draw the pan of {{ own.name }}</button>
          <button mat-menu-item fdRuns="moves.clear">{{ own.name }} as in the mix</button>
        }
        <button mat-menu-item fdRuns="moves.fade-song">Fade the song out</button>
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
          <tr>
            <th scope="row">
              <fd-text-field
                class="plain part"
                [label]="'Name of ' + part.name"
                [value]="part.name"
                (changed)="rename(part, $event)"
              /><span class="quiet">{{ instrument(part) }}</span>
            </th>
            <td>
              <fd-slide-field
                shown="Level"
                [label]="'Level of ' + part.name"
                [value]="moves.live(part, 'level')"
                (moved)="setLevel(part, $event)"
              />
            </td>
            <td>
              <fd-slide-field
                shown="Pan"
                [label]="'Pan of ' + part.name"
                [least]="-100"
                [usual]="0"
                [inWords]="panText"
                [value]="moves.live(part, 'pan')"
                (moved)="setPan(part, $event)"
              />
            </td>
            <td>
              <button
                matButton="outlined"
                class="small"
                [attr.aria-pressed]="part.muted"
                (click)="band.toggleQuiet(part)"
                [attr.aria-label]="'Quiet: ' + part.name"
              >
                <mat-icon [svgIcon]="part.muted ? 'volume_off' : 'volume_up'" />Quiet
              </button>
            </td>
            <td>
              <button
                matButton="outlined"
                class="small"
                [attr.aria-pressed]="band.isAlone(part.id)"
                (click)="band.toggleAlone(part.id)"
                [attr.aria-label]="'Hear alone: ' + part.name"
              >
                <mat-icon svgIcon="headphones" />Alone
              </button>
            </td>
            <td>
              <span
                class="meter"
                role="meter"
                [attr.aria-label]="'Sounding level of ' + part.name"
                aria-valuemin="0"
                aria-valuemax="100"
                aria-valuenow="0"
                [attr.data-meter]="part.id"
                ><span class="fill" [style.background]="'var(--part-' + part.colour + ')'"></span
              ></span>
            </td>
            <td>
              <button
                matIconButton
                class="small"
                (click)="band.remove(part.id)"
                [attr.aria-label]="'Remove ' + part.name"
                matTooltip="Remove this part"
              >
                <mat-icon svgIcon="delete" />
              </button>
            </td>
          </tr>
        }
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
    th {
      text-align: left;
      font-weight: 400;
      width: 13rem;
    }
    td,
    th {
      padding: 2px 8px 2px 0;
      white-space: nowrap;
    }
    .part {
      width: 7.5rem;
      font-weight: 600;
    }
    .meter {
      display: block;
      width: 88px;
      height: 8px;
      border-radius: 4px;
      background: var(--sunk);
      overflow: hidden;
    }
    .fill {
      display: block;
      height: 100%;
      width: 100%;
      transform: scaleX(0);
      transform-origin: left;
      transition: transform 50ms linear;
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
  protected readonly band = inject(BandDesk);
  protected readonly moves = inject(MovesDesk);
  private readonly all = computed(() => this.score()?.parts ?? []);
  /** A row is slow to make: sliders measure themselves. */
  protected readonly parts = growing(this.all, 1, ({ id }) => id);
  private readonly shown = new Map<string, number>();
  private drawn = 0;

  protected setLevel(part: Part, level: number): void {
    if (!this.moves.moved(part, 'level', level)) this.band.change(part, { level }, 'level');
  }

  protected setPan(part: Part, pan: number): void {
    if (!this.moves.moved(part, 'pan', pan)) this.band.change(part, { pan }, 'pan');
  }

  protected setGround(change: { swing: number } | { feel: number }): void {
    this.store.dispatch(ScoreActions.groundSet({ change, gesture: `ground ${Object.keys(change).join()}` }));
  }

  constructor() {
    const destroyed = inject(DestroyRef);
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
      const level = playing ? Math.max(this.mixer.levelOf(part), (this.shown.get(part) ?? 0) * fall) : 0;
      this.shown.set(part, level);
      // Square root: closer to how loud it feels.
      const share = Math.min(1, Math.sqrt(level));
      meter.setAttribute('aria-valuenow', String(Math.round(share * 100)));
      (meter.firstElementChild as HTMLElement).style.transform = `scaleX(${share})`;
    }
  }

  protected instrument(part: Part): string {
    return instrumentOf(part.instrument).name;
  }

  protected readonly panText = (pan: number): string => (pan === 0 ? 'mid' : pan < 0 ? `L ${-pan}` : `R ${pan}`);

  protected rename(part: Part, name: string): void {
    this.store.dispatch(ScoreActions.partChanged({ part: part.id, change: { name } }));
  }
}

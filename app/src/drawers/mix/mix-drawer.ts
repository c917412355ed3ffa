import { afterNextRender, ChangeDetectionStrategy, Component, DestroyRef, ElementRef, inject } from '@angular/core';
import { MatTooltip } from '@angular/material/tooltip';
import { Store } from '@ngrx/store';
import { instrumentOf } from '@fendro/core/sounding/instruments';
import type { Part } from '@fendro/core/song/schema';
import { Playback } from '../../sound/playback';
import { selectScore, selectSession } from '../../store/selectors';
import { SessionActions } from '../../store/session';
import { ScoreActions } from '../../store/song.actions';
import { Icon } from '../../ui/icon';

/**
 * What is left of a meter's level after a second in which nothing sounds: it falls alike however often the page is
 * drawn.
 */
const LEFT_AFTER_A_SECOND = 0.012;

/** Level, pan, quiet and hearing alone for each part, with what it sounds now. */
@Component({
  selector: 'fd-mix-drawer',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatTooltip, Icon],
  template: `
    <header>
      <h2>Mix</h2>
      @if (score()?.ground; as ground) {
        <label
          >Swing
          <input
            type="range"
            min="0"
            max="100"
            step="5"
            [value]="ground.swing"
            (input)="setGround({ swing: +$any($event.target).value })"
          /><output class="mono">{{ ground.swing }} %</output></label
        >
        <label matTooltip="How far players sit behind or ahead of the beat, as the style has it"
          >Feel of the style
          <input
            type="range"
            min="0"
            max="150"
            step="10"
            [value]="ground.feel ?? 100"
            (input)="setGround({ feel: +$any($event.target).value })"
          /><output class="mono">{{ ground.feel ?? 100 }} %</output></label
        >
      }
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
        @for (part of score()?.parts ?? []; track part.id) {
          <tr>
            <th scope="row">
              <input
                #name
                class="part"
                [attr.aria-label]="'Name of ' + part.name"
                [value]="part.name"
                maxlength="60"
                (change)="rename(part, name)"
              /><span class="quiet">{{ instrument(part) }}</span>
            </th>
            <td>
              <label
                >Level
                <input
                  type="range"
                  min="0"
                  max="100"
                  [value]="part.level"
                  [attr.aria-label]="'Level of ' + part.name"
                  (input)="change(part, { level: +$any($event.target).value }, 'level')"
                /><output class="mono">{{ part.level }}</output></label
              >
            </td>
            <td>
              <label
                >Pan
                <input
                  type="range"
                  min="-100"
                  max="100"
                  [value]="part.pan"
                  [attr.aria-label]="'Pan of ' + part.name"
                  (input)="change(part, { pan: +$any($event.target).value }, 'pan')"
                  (dblclick)="change(part, { pan: 0 }, 'pan')"
                /><output class="mono">{{ panText(part.pan) }}</output></label
              >
            </td>
            <td>
              <button
                class="button small"
                [attr.aria-pressed]="part.muted"
                (click)="change(part, { muted: !part.muted })"
                matTooltip="Q"
                [attr.aria-label]="'Quiet: ' + part.name"
              >
                <fd-icon [name]="part.muted ? 'volume_off' : 'volume_up'" />Quiet
              </button>
            </td>
            <td>
              <button
                class="button small"
                [attr.aria-pressed]="session().alone.includes(part.id)"
                (click)="alone(part)"
                matTooltip="I"
                [attr.aria-label]="'Hear alone: ' + part.name"
              >
                <fd-icon name="headphones" />Alone
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
                class="button bare small"
                (click)="remove(part)"
                [attr.aria-label]="'Remove ' + part.name"
                matTooltip="Remove this part"
              >
                <fd-icon name="delete" />
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
      width: 6rem;
      border: 1px solid transparent;
      border-radius: 6px;
      background: transparent;
      padding: 2px 4px;
      font-weight: 600;
    }
    .part:hover {
      border-color: var(--line);
    }
    label {
      display: inline-flex;
      align-items: center;
      gap: 6px;
      font-size: 0.8125rem;
      color: var(--quiet);
    }
    input[type='range'] {
      width: 5.5rem;
      accent-color: var(--accent);
    }
    output {
      width: 2.4rem;
      color: var(--ink);
      font-size: 0.75rem;
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
    }
  `,
})
export class MixDrawer {
  private readonly store = inject(Store);
  private readonly playback = inject(Playback);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  protected readonly score = this.store.selectSignal(selectScore);
  protected readonly session = this.store.selectSignal(selectSession);
  private readonly shown = new Map<string, number>();
  private drawn = 0;

  protected setGround(change: { swing: number } | { feel: number }): void {
    this.store.dispatch(ScoreActions.groundSet({ change, gesture: `ground ${Object.keys(change).join()}` }));
  }

  constructor() {
    const destroyed = inject(DestroyRef);
    afterNextRender(() => {
      destroyed.onDestroy(
        this.playback.watch((tick) => {
          this.showLevels(tick !== null);
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
      const level = playing ? Math.max(this.playback.levelOf(part), (this.shown.get(part) ?? 0) * fall) : 0;
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

  protected panText(pan: number): string {
    return pan === 0 ? 'mid' : pan < 0 ? `L ${-pan}` : `R ${pan}`;
  }

  protected change(part: Part, change: Partial<Pick<Part, 'level' | 'pan' | 'muted'>>, gesture?: string): void {
    this.store.dispatch(
      ScoreActions.partChanged({ part: part.id, change, ...(gesture ? { gesture: `${gesture} ${part.id}` } : {}) }),
    );
  }

  protected rename(part: Part, input: HTMLInputElement): void {
    const name = input.value.trim();
    if (name !== '') this.store.dispatch(ScoreActions.partChanged({ part: part.id, change: { name } }));
    input.value = this.score()?.parts.find(({ id }) => id === part.id)?.name ?? part.name;
  }

  protected alone(part: Part): void {
    this.store.dispatch(SessionActions.aloneToggled({ part: part.id }));
  }

  protected remove(part: Part): void {
    this.store.dispatch(ScoreActions.partRemoved({ part: part.id }));
  }
}

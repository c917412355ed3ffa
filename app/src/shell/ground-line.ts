import { ChangeDetectionStrategy, Component, computed, inject, output, signal } from '@angular/core';
import { MatTooltip } from '@angular/material/tooltip';
import { Store } from '@ngrx/store';
import { STYLES } from '@fendro/core/styles/styles';
import { tonicsFor } from '@fendro/core/theory/key';
import { METRES, metreName } from '@fendro/core/theory/metre';
import { pitchClassOf, printedName } from '@fendro/core/theory/pitch';
import { scaleOf } from '@fendro/core/theory/scale';
import { HarmonyDesk } from '../desks/harmony-desk';
import { selectScore } from '../store/selectors';
import { Shelf } from '../store/shelf';
import { ScoreActions } from '../store/song.actions';
import { Icon } from '../ui/icon';
import { readTempo, SCALE_GROUPS } from '../ui/scale-groups';

/** Key, scale, metre, tempo and style, each edited where it stands. */
@Component({
  selector: 'fd-ground-line',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatTooltip, Icon],
  template: `
    @if (ground(); as ground) {
      <select class="fact" aria-label="Key" [value]="tonicClass()" (change)="setTonic($any($event.target).value)">
        @for (tonic of tonics(); track tonic.value) {
          <option [value]="tonic.value" [selected]="tonic.value === tonicClass()">{{ tonic.name }}</option>
        }
      </select>
      <select
        class="fact scale"
        aria-label="Scale"
        [value]="ground.scale"
        (change)="set({ scale: $any($event.target).value })"
      >
        @if (ownScales().length > 0) {
          <optgroup label="Own">
            @for (scale of ownScales(); track scale.id) {
              <option [value]="scale.id" [selected]="scale.id === ground.scale">{{ scale.name }}</option>
            }
          </optgroup>
        }
        @for (group of groups; track group.family) {
          <optgroup [label]="group.family">
            @for (scale of group.scales; track scale.id) {
              <option [value]="scale.id" [selected]="scale.id === ground.scale">{{ scale.name }}</option>
            }
          </optgroup>
        }
      </select>
      <button
        class="button bare small"
        data-opens="scale"
        aria-label="Weights and own scales"
        matTooltip="How likely each degree is; scales of your own"
        (click)="scaleAsked.emit()"
      >
        <fd-icon name="tune" />
      </button>
      <select class="fact" aria-label="Metre" [value]="metre()" (change)="setMetre($any($event.target).value)">
        @for (option of metres; track option) {
          <option [value]="option" [selected]="option === metre()">{{ option }}</option>
        }
      </select>
      <label class="tempo" [matTooltip]="'Beats a minute; T taps it'">
        <span class="note" aria-hidden="true">♩ =</span>
        <input
          #tempo
          class="fact mono"
          inputmode="decimal"
          aria-label="Tempo"
          [value]="ground.tempo"
          [attr.aria-invalid]="problem() !== null"
          [attr.aria-describedby]="problem() ? 'tempo-problem' : null"
          (change)="setTempo(tempo)"
          (keydown.enter)="tempo.blur()"
          (keydown.escape)="problem.set(null); tempo.value = '' + ground.tempo"
        />
        @if (problem(); as text) {
          <span id="tempo-problem" class="hint" role="alert">{{ text }}</span>
        }
      </label>
      <select
        class="fact style"
        aria-label="Style"
        [value]="ground.style"
        (change)="setStyle($any($event.target).value)"
      >
        @for (style of styles(); track style.id) {
          <option [value]="style.id" [selected]="style.id === ground.style">{{ style.name }}</option>
        }
      </select>
    }
  `,
  styles: `
    :host {
      display: flex;
      gap: 2px;
      align-items: center;
    }
    .fact {
      height: 30px;
      border: 1px solid transparent;
      border-radius: 6px;
      background: transparent;
      padding: 0 4px;
      cursor: pointer;
      color: var(--ink);
    }
    .fact:hover {
      border-color: var(--line);
      background: var(--paper);
    }
    option,
    optgroup {
      background: var(--surface);
      color: var(--ink);
    }
    .scale,
    .style {
      max-width: 9rem;
      text-overflow: ellipsis;
    }
    @media (max-width: 1180px) {
      .scale,
      .style {
        max-width: 6rem;
      }
    }
    input.fact {
      width: 3.2rem;
      text-align: left;
      cursor: text;
    }
    input[aria-invalid='true'] {
      border-color: var(--alert);
    }
    .tempo {
      position: relative;
      display: inline-flex;
      align-items: center;
      margin-inline-start: 6px;
    }
    .note {
      color: var(--quiet);
      font-family: var(--serif);
      white-space: nowrap;
    }
    .hint {
      position: absolute;
      z-index: 10;
      top: 36px;
      left: 0;
      width: 15rem;
      padding: 8px 10px;
      background: var(--surface);
      color: var(--alert-text);
      border: 1px solid var(--alert);
      border-radius: 8px;
      box-shadow: var(--shadow);
    }
  `,
})
export class GroundLine {
  private readonly store = inject(Store);
  private readonly desk = inject(HarmonyDesk);
  private readonly shelf = inject(Shelf);
  readonly scaleAsked = output();
  private readonly score = this.store.selectSignal(selectScore);
  protected readonly ground = computed(() => this.score()?.ground);
  protected readonly groups = SCALE_GROUPS;
  /** Scales of one's own: those on the shelf, and the song's where it came from elsewhere. */
  protected readonly ownScales = computed(() => {
    const now = this.ground()?.scale ?? 'major';
    const ids = new Set([...this.shelf.contents().scales, ...(now.startsWith('own:') ? [now] : [])]);
    return [...ids].map((id) => ({ id, name: scaleOf(id).name }));
  });
  /** The styles that ship, and the writer's own that the song carries. */
  protected readonly styles = computed(() => [...(this.score()?.styles ?? []), ...STYLES]);
  protected readonly metres = METRES.map(metreName);
  protected readonly metre = computed(() => {
    const ground = this.ground();
    return ground ? metreName(ground.metre) : '';
  });
  protected readonly tonicClass = computed(() => pitchClassOf(this.ground()?.tonic ?? 0));
  protected readonly tonics = computed(() =>
    tonicsFor(this.ground()?.scale ?? 'major').map((tonic) => ({
      value: pitchClassOf(tonic),
      name: printedName(tonic),
    })),
  );
  protected readonly problem = signal<string | null>(null);

  protected set(change: { scale: string }): void {
    const tonic = tonicsFor(change.scale)[this.tonicClass()] ?? 0;
    this.desk.changeGround({ section: null, change: { ...change, tonic } });
  }

  protected setTonic(pitchClass: string): void {
    const tonic = tonicsFor(this.ground()?.scale ?? 'major')[Number(pitchClass)];
    if (tonic !== undefined) this.desk.changeGround({ section: null, change: { tonic } });
  }

  protected setMetre(name: string): void {
    const metre = METRES.find((candidate) => metreName(candidate) === name);
    if (metre) this.store.dispatch(ScoreActions.groundSet({ change: { metre } }));
  }

  protected setTempo(input: HTMLInputElement): void {
    const { tempo, problem } = readTempo(input.value);
    this.problem.set(problem);
    if (tempo !== null) this.store.dispatch(ScoreActions.groundSet({ change: { tempo } }));
  }

  protected setStyle(id: string): void {
    const style = this.styles().find((candidate) => candidate.id === id);
    if (style) this.store.dispatch(ScoreActions.groundSet({ change: { style: id, swing: style.swing } }));
  }
}

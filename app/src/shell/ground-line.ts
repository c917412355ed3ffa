import { ChangeDetectionStrategy, Component, computed, inject, output } from '@angular/core';
import { SCALE_CHOICES, TEMPO_BOUNDS, TEMPO_TOLD, tonicChoices } from '../ui/ground-choices';
import { FindField } from '../ui/fields/find-field';
import { MetreField } from '../ui/fields/metre-field';
import { NumberField } from '../ui/fields/number-field';
import { ChoiceField, type Choice } from '../ui/fields/choice-field';
import { MatIconButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { MatTooltip } from '@angular/material/tooltip';
import { Store } from '@ngrx/store';
import { STYLES } from '@fendro/core/styles/styles';
import { tonicsFor } from '@fendro/core/theory/key';
import type { Metre } from '@fendro/core/theory/metre';
import { pitchClassOf } from '@fendro/core/theory/pitch';
import { scaleOf } from '@fendro/core/theory/scale';
import { StyleDesk } from '../desks/style-desk';
import { HarmonyDesk } from '../desks/harmony-desk';
import { selectScore } from '../store/selectors';
import { Shelf } from '../store/shelf';
import { ScoreActions } from '../store/song.actions';

/** Key, scale, metre, tempo and style, each edited where it stands. */
@Component({
  selector: 'fd-ground-line',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, FindField, MatIcon, MatIconButton, MatTooltip, MetreField, NumberField],
  template: `
    @if (ground(); as ground) {
      <fd-choice-field
        class="plain"
        label="Key"
        [choices]="tonics()"
        [value]="tonicClass()"
        (chosen)="setTonic($event)"
      />
      <fd-find-field
        class="plain scale"
        label="Scale"
        [choices]="scales()"
        [value]="ground.scale"
        (chosen)="setScale($event)"
      />
      <button
        matIconButton
        class="small"
        data-opens="scale"
        aria-label="Weights and own scales"
        matTooltip="How likely each degree is; scales of your own"
        (click)="scaleAsked.emit()"
      >
        <mat-icon svgIcon="tune" />
      </button>
      <fd-metre-field class="plain" label="Metre" [value]="ground.metre" (chosen)="setMetre($event)" />
      <span class="tempo" matTooltip="Beats a minute; T taps it">
        <span class="note" aria-hidden="true">♩ =</span>
        <fd-number-field
          class="plain"
          label="Tempo"
          [bounds]="tempoBounds"
          [told]="tempoTold"
          [value]="ground.tempo"
          (changed)="setTempo($event)"
        />
      </span>
      <fd-find-field
        class="plain style"
        label="Style"
        [choices]="styles()"
        [value]="ground.style"
        (tried)="styleDesk.hear($event)"
        (left)="styleDesk.silence()"
        (chosen)="setStyle($event)"
      />
    }
  `,
  styles: `
    :host {
      display: flex;
      gap: 2px;
      align-items: center;
      min-width: 0;
    }
    /* Short facts are never cut; long names give way. */
    fd-choice-field,
    fd-number-field {
      flex: none;
    }
    .scale {
      width: 8.5rem;
    }
    .style {
      width: 9.5rem;
    }
    .tempo {
      display: inline-flex;
      align-items: center;
      margin-inline-start: 6px;
    }
    .note {
      color: var(--quiet);
      font-family: var(--serif);
      white-space: nowrap;
    }
    @media (max-width: 600px) {
      :host {
        flex-wrap: wrap;
      }
    }
    @media (max-width: 1180px) {
      .scale,
      .style {
        width: 6.5rem;
      }
    }
  `,
})
export class GroundLine {
  private readonly store = inject(Store);
  private readonly desk = inject(HarmonyDesk);
  private readonly shelf = inject(Shelf);
  protected readonly styleDesk = inject(StyleDesk);
  readonly scaleAsked = output();
  private readonly score = this.store.selectSignal(selectScore);
  protected readonly ground = computed(() => this.score()?.ground);
  /** Scales of one's own first: those on the shelf, and the song's where it came from elsewhere. */
  protected readonly scales = computed((): readonly Choice<string>[] => {
    const now = this.ground()?.scale ?? 'major';
    const own = new Set([...this.shelf.contents().scales, ...(now.startsWith('own:') ? [now] : [])]);
    return [...[...own].map((id) => ({ value: id, text: scaleOf(id).name, group: 'Own' })), ...SCALE_CHOICES];
  });
  /** The styles that ship, and the writer's own that the song carries. */
  private readonly all = computed(() => [...(this.score()?.styles ?? []), ...STYLES]);
  protected readonly styles = computed((): readonly Choice<string>[] =>
    this.all().map(({ id, name, family }) => ({ value: id, text: name, group: family })),
  );
  protected readonly tempoBounds = TEMPO_BOUNDS;
  protected readonly tempoTold = TEMPO_TOLD;
  protected readonly tonicClass = computed(() => pitchClassOf(this.ground()?.tonic ?? 0));
  protected readonly tonics = computed(() => tonicChoices(this.ground()?.scale ?? 'major'));

  protected setScale(scale: string): void {
    const tonic = tonicsFor(scale)[this.tonicClass()] ?? 0;
    this.desk.changeGround({ section: null, change: { scale, tonic } });
  }

  protected setTonic(pitchClass: number): void {
    const tonic = tonicsFor(this.ground()?.scale ?? 'major')[pitchClass];
    if (tonic !== undefined) this.desk.changeGround({ section: null, change: { tonic } });
  }

  protected setMetre(metre: Metre): void {
    this.store.dispatch(ScoreActions.groundSet({ change: { metre } }));
  }

  protected setTempo(tempo: number): void {
    this.store.dispatch(ScoreActions.groundSet({ change: { tempo } }));
  }

  protected setStyle(id: string): void {
    const style = this.all().find((candidate) => candidate.id === id);
    if (style) this.store.dispatch(ScoreActions.groundSet({ change: { style: id, swing: style.swing } }));
  }
}

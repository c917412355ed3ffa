import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { SCALE_CHOICES, TEMPO_BOUNDS, TEMPO_TOLD, tonicChoices } from '../ui/ground-choices';
import { FindField } from '../ui/fields/find-field';
import { MetreField } from '../ui/fields/metre-field';
import { NumberField } from '../ui/fields/number-field';
import { ChoiceField, type Choice } from '../ui/fields/choice-field';
import { Store } from '@ngrx/store';
import type { OwnGround } from '@fendro/core/song/schema';
import { tonicsFor } from '@fendro/core/theory/key';
import { pitchClassOf } from '@fendro/core/theory/pitch';
import { endTempoOf } from '@fendro/core/song/tempos';
import { ArrangementDesk } from '../desks/arrangement-desk';
import { HarmonyDesk } from '../desks/harmony-desk';
import { selectGround, selectOwnScore, selectSection } from '../store/selectors';

/** Where a section may stand on another key, metre or tempo than the song. */
@Component({
  selector: 'fd-section-ground',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, FindField, MetreField, NumberField],
  template: `
    @if (ground(); as ground) {
      <div class="own" role="group" aria-label="This section’s own ground">
        <label
          >Key
          <fd-choice-field label="Section key" [choices]="tonics()" [value]="tonicNow()" (chosen)="setTonic($event)"
        /></label>
        <label
          >Scale
          <fd-find-field
            class="scale"
            label="Section scale"
            [choices]="scales"
            [value]="own().scale ?? 'song'"
            (chosen)="setScale($event)"
        /></label>
        <span class="tempo"
          >Metre
          <fd-metre-field
            label="Section metre"
            blank="as the song"
            [value]="own().metre ?? null"
            (chosen)="change({ metre: $event })"
            (cleared)="setMetreBack()"
        /></span>
        <span class="tempo"
          >Tempo
          <fd-number-field
            [of]="section()?.id"
            label="Section tempo"
            blank="as the song"
            [bounds]="tempoBounds"
            [told]="tempoTold"
            [value]="own().tempo ?? null"
            (changed)="change({ tempo: $event })"
            (cleared)="setTempoBack()"
          />
        </span>
        <span class="tempo"
          >goes to
          <fd-number-field
            [of]="section()?.id"
            label="Tempo at the section’s end"
            blank="no other"
            [bounds]="tempoBounds"
            [told]="tempoTold"
            [value]="endTempo()"
            (changed)="setEnd($event, lastBars())"
            (cleared)="setEnd(null, 1)"
          />
          @if (endTempo() !== null) {
            over the last
            <fd-number-field
              [of]="section()?.id"
              label="Bars over which the tempo changes"
              unit="bars"
              [bounds]="{ least: 1, most: section()?.bars ?? 1 }"
              told="A tempo changes over at least a bar, and no more than the section has."
              [value]="lastBars()"
              (changed)="setEnd(endTempo(), $event)"
            />
          }
        </span>
      </div>
    }
  `,
  styles: `
    .own {
      display: flex;
      flex-wrap: wrap;
      gap: 4px 12px;
      padding: 2px 12px 6px 122px;
      font-size: 0.8125rem;
    }
    label,
    .tempo {
      display: inline-flex;
      align-items: center;
      gap: 5px;
      color: var(--quiet);
    }
    .scale {
      width: 9rem;
    }
  `,
})
export class SectionGround {
  private readonly store = inject(Store);
  private readonly desk = inject(HarmonyDesk);
  private readonly arrangement = inject(ArrangementDesk);
  private readonly score = this.store.selectSignal(selectOwnScore);
  protected readonly section = this.store.selectSignal(selectSection);
  protected readonly ground = this.store.selectSignal(selectGround);
  protected readonly scales = [{ value: 'song', text: 'as the song' }, ...SCALE_CHOICES];
  protected readonly tempoBounds = TEMPO_BOUNDS;
  protected readonly tempoTold = TEMPO_TOLD;
  protected readonly own = computed((): OwnGround => this.section()?.ground ?? {});
  private readonly tonicClass = computed(() => pitchClassOf(this.ground()?.tonic ?? 0));
  protected readonly tonics = computed((): readonly Choice<number | 'song'>[] => [
    { value: 'song', text: 'as the song' },
    ...tonicChoices(this.ground()?.scale ?? 'major'),
  ]);
  protected readonly tonicNow = computed(() => (this.own().tonic === undefined ? 'song' : this.tonicClass()));
  /** Setting what the song has lets the section follow the song again. */
  protected change(change: Partial<OwnGround>): void {
    const section = this.section();
    if (section) this.desk.changeGround({ section: section.id, change });
  }

  protected setTonic(value: number | 'song'): void {
    const song = this.score()?.ground;
    const tonic = value === 'song' ? song?.tonic : tonicsFor(this.ground()?.scale ?? 'major')[value];
    if (tonic !== undefined) this.change({ tonic });
  }

  protected setScale(value: string): void {
    const song = this.score()?.ground;
    const scale = value === 'song' ? song?.scale : value;
    if (scale === undefined) return;
    const tonic = this.own().tonic === undefined ? undefined : tonicsFor(scale)[this.tonicClass()];
    this.change({ scale, ...(tonic === undefined ? {} : { tonic }) });
  }

  protected setMetreBack(): void {
    const song = this.score()?.ground.metre;
    if (song) this.change({ metre: song });
  }

  /** The tempo that the section goes to on its last bars; null where it stays. */
  private readonly end = computed(() => {
    const [score, section] = [this.score(), this.section()];
    return score && section ? endTempoOf(score, section) : null;
  });
  protected readonly endTempo = computed(() => this.end()?.tempo ?? null);
  /** Over how many bars it goes there. */
  protected readonly lastBars = computed(() => this.end()?.bars ?? Math.min(2, this.section()?.bars ?? 1));

  protected setEnd(tempo: number | null, bars: number): void {
    const section = this.section();
    if (section) this.arrangement.setEndTempo(section, tempo, bars);
  }

  protected setTempoBack(): void {
    const song = this.score()?.ground.tempo;
    if (song !== undefined) this.change({ tempo: song });
  }
}

import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal } from '@angular/core';
import { Store } from '@ngrx/store';
import type { OwnGround } from '@fendro/core/song/schema';
import { tonicsFor } from '@fendro/core/theory/key';
import { METRES, metreName } from '@fendro/core/theory/metre';
import { pitchClassOf, printedName } from '@fendro/core/theory/pitch';
import { readTempo, SCALE_GROUPS } from '../ui/scale-groups';
import { HarmonyDesk } from '../desks/harmony-desk';
import { selectGround, selectOwnScore, selectSection } from '../store/selectors';

/** Where a section may stand on another key, metre or tempo than the song. */
@Component({
  selector: 'fd-section-ground',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (ground(); as ground) {
      <div class="own" role="group" aria-label="This section’s own ground">
        <label
          >Key
          <select class="field" aria-label="Section key" (change)="setTonic($any($event.target).value)">
            <option value="song" [selected]="own().tonic === undefined">as the song</option>
            @for (tonic of tonics(); track tonic.value) {
              <option [value]="tonic.value" [selected]="own().tonic !== undefined && tonic.value === tonicClass()">
                {{ tonic.name }}
              </option>
            }
          </select></label
        >
        <label
          >Scale
          <select class="field scale" aria-label="Section scale" (change)="setScale($any($event.target).value)">
            <option value="song" [selected]="own().scale === undefined">as the song</option>
            @for (group of groups; track group.family) {
              <optgroup [label]="group.family">
                @for (scale of group.scales; track scale.id) {
                  <option [value]="scale.id" [selected]="own().scale === scale.id">{{ scale.name }}</option>
                }
              </optgroup>
            }
          </select></label
        >
        <label
          >Metre
          <select class="field" aria-label="Section metre" (change)="setMetre($any($event.target).value)">
            <option value="song" [selected]="own().metre === undefined">as the song</option>
            @for (name of metres; track name) {
              <option [value]="name" [selected]="own().metre !== undefined && name === metreOf()">{{ name }}</option>
            }
          </select></label
        >
        <label
          >Tempo
          <input
            #tempo
            class="field mono"
            inputmode="decimal"
            aria-label="Section tempo"
            placeholder="as the song"
            [value]="own().tempo ?? ''"
            [attr.aria-invalid]="problem() !== null"
            (change)="setTempo(tempo.value)"
        /></label>
        @if (problem(); as text) {
          <span class="problem" role="alert">{{ text }}</span>
        }
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
    label {
      display: inline-flex;
      align-items: center;
      gap: 5px;
      color: var(--quiet);
    }
    .field {
      min-height: 26px;
    }
    .scale {
      max-width: 9rem;
    }
    input {
      width: 6rem;
    }
  `,
})
export class SectionGround {
  private readonly store = inject(Store);
  private readonly desk = inject(HarmonyDesk);
  private readonly score = this.store.selectSignal(selectOwnScore);
  protected readonly section = this.store.selectSignal(selectSection);
  protected readonly ground = this.store.selectSignal(selectGround);
  protected readonly groups = SCALE_GROUPS;
  protected readonly metres = METRES.map(metreName);
  protected readonly own = computed((): OwnGround => this.section()?.ground ?? {});
  protected readonly tonicClass = computed(() => pitchClassOf(this.ground()?.tonic ?? 0));
  protected readonly metreOf = computed(() => {
    const ground = this.ground();
    return ground ? metreName(ground.metre) : '';
  });
  protected readonly tonics = computed(() =>
    tonicsFor(this.ground()?.scale ?? 'major').map((tonic) => ({
      value: pitchClassOf(tonic),
      name: printedName(tonic),
    })),
  );
  /** Of the section in view: another one has nothing to do with it. */
  protected readonly problem = linkedSignal<string | undefined, string | null>({
    source: () => this.section()?.id,
    computation: () => null,
  });

  /** Setting what the song has lets the section follow the song again. */
  private change(change: Partial<OwnGround>): void {
    const section = this.section();
    if (section) this.desk.changeGround({ section: section.id, change });
  }

  protected setTonic(value: string): void {
    const song = this.score()?.ground;
    const tonic = value === 'song' ? song?.tonic : tonicsFor(this.ground()?.scale ?? 'major')[Number(value)];
    if (tonic !== undefined) this.change({ tonic });
  }

  protected setScale(value: string): void {
    const song = this.score()?.ground;
    const scale = value === 'song' ? song?.scale : value;
    if (scale === undefined) return;
    const tonic = this.own().tonic === undefined ? undefined : tonicsFor(scale)[this.tonicClass()];
    this.change({ scale, ...(tonic === undefined ? {} : { tonic }) });
  }

  protected setMetre(value: string): void {
    const metre =
      value === 'song' ? this.score()?.ground.metre : METRES.find((candidate) => metreName(candidate) === value);
    if (metre) this.change({ metre });
  }

  protected setTempo(text: string): void {
    const song = this.score()?.ground.tempo;
    if (text.trim() === '') {
      this.problem.set(null);
      if (song !== undefined) this.change({ tempo: song });
      return;
    }
    const { tempo, problem } = readTempo(text);
    this.problem.set(problem);
    if (tempo !== null) this.change({ tempo });
  }
}

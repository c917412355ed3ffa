import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { ChoiceField } from '../../ui/fields/choice-field';
import { MatButton } from '@angular/material/button';
import { Store } from '@ngrx/store';
import { drumName, KIT_KEYS } from '@fendro/core/sounding/drum-names';
import { writtenNotes } from '@fendro/core/sounding/written';
import { selectMusic, selectPart, selectScore, selectSection } from '../../store/selectors';
import { ScoreActions } from '../../store/song.actions';

/** The drums that a part strikes, each of which may be swapped for another drum of the kit. */
@Component({
  selector: 'fd-kit-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, ChoiceField],
  template: `
    @for (drum of drums(); track drum.key) {
      <label class="drum"
        ><span>{{ drum.name }}</span>
        <fd-choice-field
          [label]="'Sound of the ' + drum.name"
          [choices]="options"
          [value]="drum.sound"
          (chosen)="swap(drum.key, $event)"
        />
      </label>
    } @empty {
      <p class="quiet">Draft or choose drums first: every drum that they strike is listed here.</p>
    }
    @if (anySwapped()) {
      <button matButton="outlined" class="small" (click)="reset()">All drums as they were</button>
    }
    <p class="quiet">What is swapped here sounds and is delivered so in all sections.</p>
  `,
  styleUrl: '../harmony/panels.scss',
  styles: `
    .drum {
      display: grid;
      grid-template-columns: 8rem 1fr;
      align-items: center;
      gap: 8px;
      color: var(--ink);
    }
    button {
      align-self: start;
    }
  `,
})
export class KitPanel {
  private readonly store = inject(Store);
  private readonly score = this.store.selectSignal(selectScore);
  private readonly section = this.store.selectSignal(selectSection);
  private readonly part = this.store.selectSignal(selectPart);
  private readonly music = this.store.selectSignal(selectMusic);
  protected readonly options = KIT_KEYS.map((key) => ({ value: key, text: drumName(key) }));

  /** Drums of the take that sounds, and those that were swapped before. */
  protected readonly drums = computed(() => {
    const [music, section, part] = [this.music(), this.section(), this.part()];
    if (!music || !section || !part) return [];
    const struck = writtenNotes(music, section, part.id).map(({ pitch }) => pitch);
    const keys = [...new Set([...struck, ...Object.keys(part.swaps).map(Number)])].sort((a, b) => a - b);
    return keys.map((key) => ({ key, name: drumName(key), sound: part.swaps[key] ?? key }));
  });
  protected readonly anySwapped = computed(() => Object.keys(this.part()?.swaps ?? {}).length > 0);

  protected swap(key: number, sound: number): void {
    const { [String(key)]: _before, ...others } = this.part()?.swaps ?? {};
    this.change(sound === key ? others : { ...others, [key]: sound });
  }

  protected reset(): void {
    this.change({});
  }

  private change(swaps: Readonly<Record<string, number>>): void {
    const part = this.part();
    if (part) this.store.dispatch(ScoreActions.partChanged({ part: part.id, change: { swaps } }));
  }
}

import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { isUsual, resetWord, stepWord, WORD_LABELS, wordFor, type BriefWord } from '@fendro/core/song/brief-words';
import { isDrumRole, roleOf } from '@fendro/core/song/roles';
import { BASS_WAYS, DRUM_TIMES, GRIDS, type Brief, type Part } from '@fendro/core/song/schema';
import { instrumentOf } from '@fendro/core/sounding/instruments';
import { styleIn } from '@fendro/core/styles/styles';
import { Drafting } from '../desks/drafting';
import { selectScore } from '../store/selectors';
import { BriefShelf } from './brief-shelf';
import { ScoreActions } from '../store/song.actions';
import { Sentence, type SentenceWord } from '../ui/sentence';
import { nameIn } from '../ui/spoken';

/** A part's brief as a sentence, and as exact controls when opened. */
@Component({
  selector: 'fd-part-brief',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [BriefShelf, Sentence],
  template: `
    <fd-sentence [words]="words()" (stepped)="step($event)" (returned)="reset($event)" (opened)="exact.set(!exact())" />
    @if (exact()) {
      <div class="exact">
        @for (row of rows(); track row.word) {
          <label
            >{{ row.label }}
            <input
              type="range"
              [min]="row.low"
              [max]="row.high"
              [step]="row.step"
              [value]="row.value"
              (input)="set(row.word, $any($event.target).value)"
            />
            <output class="mono">{{ row.value }} {{ row.unit }}</output>
          </label>
        }
        @if (!drums()) {
          <label
            >Lowest<input
              type="range"
              [min]="limits().low"
              [max]="limits().high"
              [value]="part().brief.low"
              (input)="setRange('low', $any($event.target).value)"
            /><output class="mono">{{ name(part().brief.low) }}</output></label
          >
          <label
            >Highest<input
              type="range"
              [min]="limits().low"
              [max]="limits().high"
              [value]="part().brief.high"
              (input)="setRange('high', $any($event.target).value)"
            /><output class="mono">{{ name(part().brief.high) }}</output></label
          >
        }
        @if (hasGrid()) {
          <label
            >Grid<select class="field" aria-label="Grid of the part" (change)="setGrid($any($event.target).value)">
              <option value="" [selected]="part().brief.grid === null">as it needs</option>
              @for (grid of grids; track grid) {
                <option [value]="grid" [selected]="part().brief.grid === grid">{{ grid }}</option>
              }</select
            ><span></span
          ></label>
        }
        @if (part().role === 'bass') {
          <label
            >Way<select class="field" aria-label="Way of the bass" (change)="setWay($any($event.target).value)">
              <option value="" [selected]="part().brief.way === null">as the style has it</option>
              @for (way of ways; track way) {
                <option [value]="way" [selected]="part().brief.way === way">{{ way }}</option>
              }</select
            ><span></span
          ></label>
        }
        @if (part().role === 'drums') {
          <label
            >Time<select class="field" aria-label="Half or double time" (change)="setTime($any($event.target).value)">
              <option value="" [selected]="part().brief.time === null">as the groove is</option>
              @for (time of times; track time) {
                <option [value]="time" [selected]="part().brief.time === time">{{ time }} time</option>
              }</select
            ><span></span
          ></label>
        }
        <label class="follow"
          ><input type="checkbox" [checked]="part().brief.follows" (change)="toggleFollows()" /> follows the energy
          line</label
        >
        <fd-brief-shelf [part]="part()" />
        <button class="button small" (click)="exact.set(false)">Back to the sentence</button>
      </div>
    }
  `,
  styles: `
    .exact {
      display: grid;
      gap: 2px;
      padding: 6px 0;
      max-height: 40vh;
      overflow: auto;
    }
    label {
      display: grid;
      grid-template-columns: 5.2rem 1fr 6.6rem;
      align-items: center;
      gap: 8px;
      font-size: 0.8125rem;
    }
    input {
      accent-color: var(--accent);
      min-width: 0;
    }
    output {
      font-size: 0.75rem;
      text-align: right;
      white-space: nowrap;
    }
    .follow {
      display: flex;
    }
    .button {
      justify-self: start;
      margin-top: 4px;
    }
  `,
})
export class PartBriefControl {
  private readonly store = inject(Store);
  private readonly drafting = inject(Drafting);
  readonly part = input.required<Part>();
  /** The setting that asks for what cannot be met. */
  readonly blamed = input<BriefWord>();
  private readonly score = this.store.selectSignal(selectScore);
  protected readonly exact = signal(false);
  protected readonly drums = computed(() => isDrumRole(this.part().role));
  protected readonly limits = computed(() => instrumentOf(this.part().instrument));

  /** The style's own brief for this role. */
  private readonly usual = computed((): Brief => {
    const { role, name } = this.part();
    const score = this.score();
    const band = styleIn(score, this.part().style ?? score?.ground.style ?? '').band;
    const own =
      band.find((other) => other.role === role && other.name === name) ?? band.find((other) => other.role === role);
    return { ...roleOf(role).brief, ...own?.brief };
  });

  /** What is off its usual comes first. */
  protected readonly words = computed((): SentenceWord[] => {
    const { brief, role } = this.part();
    const blamed = this.blamed();
    const named = blamed && !roleOf(role).words.includes(blamed) ? [blamed, ...roleOf(role).words] : roleOf(role).words;
    const words = named.map((word) => ({
      id: word,
      label: WORD_LABELS[word].label,
      text: wordFor(brief, word),
      usual: isUsual(brief, word, this.usual()),
      blamed: word === blamed,
    }));
    return [...words.filter(({ usual }) => !usual), ...words.filter(({ usual }) => usual)];
  });

  protected readonly rows = computed(() => {
    const { brief, role } = this.part();
    return [...new Set([...roleOf(role).words, ...roleOf(role).further])]
      .filter((word): word is Exclude<BriefWord, 'register'> => word !== 'register')
      .map((word) => ({ word, ...WORD_LABELS[word], value: brief[word] }));
  });

  protected name(pitch: number): string {
    const ground = this.score()?.ground;
    return ground ? nameIn({ tonic: ground.tonic, scale: ground.scale }, pitch) : '';
  }

  protected step({ id, by }: { id: string; by: 1 | -1 }): void {
    this.change(stepWord(this.part().brief, id as BriefWord, by, this.limits()), id);
  }

  protected reset(id: string): void {
    this.change(resetWord(id as BriefWord, this.usual()), id);
  }

  protected set(word: BriefWord, value: string): void {
    this.change({ [word]: Number(value) }, word);
  }

  protected readonly grids = GRIDS;
  protected readonly hasGrid = computed(() => roleOf(this.part().role).hasGrid);

  protected setGrid(grid: string): void {
    this.change({ grid: grid === '' ? null : (grid as Brief['grid']) }, 'grid');
  }

  protected readonly ways = BASS_WAYS;

  protected setWay(way: string): void {
    this.change({ way: way === '' ? null : (way as Brief['way']) }, 'way');
  }

  protected readonly times = DRUM_TIMES;

  protected setTime(time: string): void {
    this.change({ time: time === '' ? null : (time as Brief['time']) }, 'time');
  }

  protected toggleFollows(): void {
    this.change({ follows: !this.part().brief.follows }, 'follows');
  }

  /** The two ends of a range never cross; whether it is wide enough, drafting tells. */
  protected setRange(end: 'low' | 'high', value: string): void {
    const { low, high } = this.part().brief;
    const pitch = Number(value);
    this.change(end === 'low' ? { low: Math.min(pitch, high) } : { high: Math.max(pitch, low) }, 'register');
  }

  private change(change: Partial<Brief>, word: string): void {
    const part = this.part().id;
    if (Object.keys(change).length === 0) return;
    // What could not be met was another brief.
    this.drafting.problem.set(null);
    this.store.dispatch(ScoreActions.briefChanged({ part, change, gesture: `brief ${part} ${word}` }));
  }
}

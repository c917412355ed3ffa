import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatCheckbox } from '@angular/material/checkbox';
import { RangeField } from '../ui/fields/range-field';
import { SlideField } from '../ui/fields/slide-field';
import { ChoiceField, type Choice, choicesOf } from '../ui/fields/choice-field';
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
import { Beside } from '../ui/beside';
import { Sentence, type SentenceWord } from '../ui/sentence';
import { nameIn } from '../ui/spoken';

/** A part's brief as a sentence, and as exact controls when opened. */
@Component({
  selector: 'fd-part-brief',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Beside, BriefShelf, Sentence, ChoiceField, SlideField, RangeField, MatCheckbox],
  template: `
    <fd-sentence [words]="words()" (stepped)="step($event)" (returned)="reset($event)" (opened)="exact.set(!exact())" />
    @if (exact()) {
      <fd-beside
        data-opened-by="[data-region=bench] .word"
        back="Back to the sentence"
        [label]="'Exactly: ' + part().name"
        (closed)="exact.set(false)"
      >
        <div class="exact">
          @for (row of rows(); track row.word) {
            <fd-slide-field
              [label]="row.label"
              [shown]="row.label"
              [least]="row.low"
              [most]="row.high"
              [step]="row.step"
              [unit]="row.unit"
              [value]="row.value"
              (moved)="set(row.word, $event)"
            />
          }
          @if (!drums()) {
            <fd-range-field
              shown="Register"
              [labels]="['Lowest', 'Highest']"
              [least]="limits().low"
              [most]="limits().high"
              [low]="part().brief.low"
              [high]="part().brief.high"
              [inWords]="name"
              (moved)="change($event, 'register')"
            />
          }
          @if (hasGrid()) {
            <label
              >Grid
              <fd-choice-field
                label="Grid of the part"
                [choices]="grids"
                [value]="part().brief.grid"
                (chosen)="change({ grid: $event }, 'grid')"
            /></label>
          }
          @if (part().role === 'bass') {
            <label
              >Way
              <fd-choice-field
                label="Way of the bass"
                [choices]="ways"
                [value]="part().brief.way"
                (chosen)="change({ way: $event }, 'way')"
            /></label>
          }
          @if (part().role === 'drums') {
            <label
              >Time
              <fd-choice-field
                label="Half or double time"
                [choices]="times"
                [value]="part().brief.time"
                (chosen)="change({ time: $event }, 'time')"
            /></label>
          }
          <mat-checkbox [checked]="part().brief.follows" (change)="toggleFollows()"
            >follows the energy line</mat-checkbox
          >
          <fd-brief-shelf [part]="part()" />
        </div>
      </fd-beside>
    }
  `,
  styles: `
    .exact {
      --slide-name: 5.4rem;
      --slide-figure: 6.2rem;
      display: grid;
      gap: 2px;
    }
    label {
      display: grid;
      grid-template-columns: 5.4rem 1fr;
      align-items: center;
      gap: 8px;
      font-size: 0.8125rem;
      color: var(--quiet);
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

  protected readonly name = (pitch: number): string => {
    const ground = this.score()?.ground;
    return ground ? nameIn({ tonic: ground.tonic, scale: ground.scale }, pitch) : '';
  };

  protected step({ id, by }: { id: string; by: 1 | -1 }): void {
    this.change(stepWord(this.part().brief, id as BriefWord, by, this.limits()), id);
  }

  protected reset(id: string): void {
    this.change(resetWord(id as BriefWord, this.usual()), id);
  }

  protected set(word: BriefWord, value: number): void {
    this.change({ [word]: value }, word);
  }

  protected readonly hasGrid = computed(() => roleOf(this.part().role).hasGrid);
  protected readonly grids: readonly Choice<Brief['grid']>[] = [
    { value: null, text: 'as it needs' },
    ...choicesOf(GRIDS),
  ];
  protected readonly ways: readonly Choice<Brief['way']>[] = [
    { value: null, text: 'as the style has it' },
    ...choicesOf(BASS_WAYS),
  ];
  protected readonly times: readonly Choice<Brief['time']>[] = [
    { value: null, text: 'as the groove is' },
    ...DRUM_TIMES.map((time) => ({ value: time, text: `${time} time` })),
  ];

  protected toggleFollows(): void {
    this.change({ follows: !this.part().brief.follows }, 'follows');
  }

  protected change(change: Partial<Brief>, word: string): void {
    const part = this.part().id;
    if (Object.keys(change).length === 0) return;
    // What could not be met was another brief.
    this.drafting.problem.set(null);
    this.store.dispatch(ScoreActions.briefChanged({ part, change, gesture: `brief ${part} ${word}` }));
  }
}

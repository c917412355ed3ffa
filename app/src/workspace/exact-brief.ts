import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatCheckbox } from '@angular/material/checkbox';
import { Store } from '@ngrx/store';
import { WORD_LABELS, type BriefWord } from '@fendro/core/song/brief-words';
import { isDrumRole, roleOf } from '@fendro/core/song/roles';
import { BASS_WAYS, DRUM_TIMES, GRIDS, type Brief, type Part } from '@fendro/core/song/schema';
import { instrumentOf } from '@fendro/core/sounding/instruments';
import { selectScore } from '../store/selectors';
import { ChoiceField, choicesOf, type Choice } from '../ui/fields/choice-field';
import { RangeField } from '../ui/fields/range-field';
import { SlideField } from '../ui/fields/slide-field';
import { nameIn } from '../ui/spoken';
import { BriefShelf } from './brief-shelf';

/** One setting of a brief that was changed. */
export interface BriefChange {
  readonly change: Partial<Brief>;
  /** What it belongs to: changes of one kind that follow each other are one step of undo. */
  readonly word: string;
}

/** A part's brief in exact numbers, with what has no word in the sentence. */
@Component({
  selector: 'fd-exact-brief',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [BriefShelf, ChoiceField, MatCheckbox, RangeField, SlideField],
  template: `
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
    <mat-checkbox [checked]="part().brief.follows" (change)="toggleFollows()">follows the energy line</mat-checkbox>
    <fd-brief-shelf [part]="part()" />
  `,
  styles: `
    :host {
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
export class ExactBrief {
  readonly part = input.required<Part>();
  readonly changed = output<BriefChange>();
  private readonly score = inject(Store).selectSignal(selectScore);
  protected readonly drums = computed(() => isDrumRole(this.part().role));
  protected readonly limits = computed(() => instrumentOf(this.part().instrument));

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
    this.changed.emit({ change, word });
  }
}

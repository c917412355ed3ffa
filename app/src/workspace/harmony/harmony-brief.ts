import { ChangeDetectionStrategy, Component, computed, inject, input, signal, effect } from '@angular/core';
import { ReactiveFormsModule, type AbstractControl, FormControl, type ValidationErrors } from '@angular/forms';
import { MatInput } from '@angular/material/input';
import { MatError, MatFormField } from '@angular/material/form-field';
import { SlideField } from '../../ui/fields/slide-field';
import { ChoiceField, type Choice } from '../../ui/fields/choice-field';
import { Store } from '@ngrx/store';
import {
  CADENCES,
  COLOURINGS,
  HARMONY,
  PACES,
  type HarmonyBrief,
  type HarmonyForm,
  type Section,
  type PartId,
} from '@fendro/core/song/schema';
import { heldBars, holdsOf } from '@fendro/core/song/holds';
import { sectionOf, soundingId } from '@fendro/core/song/resolve';
import { harmonyBriefFor } from '@fendro/core/song/briefs';
import { styleIn } from '@fendro/core/styles/styles';
import { readChord } from '@fendro/core/theory/read-chord';
import { LeanDesk } from '../../desks/lean-desk';
import { LeanPanel } from '../../drawers/leaning/lean-panel';
import { selectHeard, selectScore } from '../../store/selectors';
import { ScoreActions } from '../../store/song.actions';
import { Beside } from '../../ui/beside';
import { Sentence, type SentenceWord } from '../../ui/sentence';

const PACE_WORDS: Readonly<Record<number, string>> = {
  0.5: 'a chord for two bars',
  1: 'a chord a bar',
  2: 'two chords a bar',
};
const CADENCE_WORDS: Readonly<Record<HarmonyBrief['cadence'], string>> = {
  authentic: 'coming home',
  half: 'stopping on the dominant',
  plagal: 'coming home by the fourth',
  deceptive: 'turning away at the end',
  open: 'ending open',
};
const ADVENTURES = [
  [0, 'plain'],
  [15, 'safe'],
  [30, 'curious'],
  [55, 'bold'],
  [80, 'wild'],
] as const;

const place = (adventure: number): number =>
  ADVENTURES.reduce(
    (best, [value], index) =>
      Math.abs(value - adventure) < Math.abs((ADVENTURES[best]?.[0] ?? 0) - adventure) ? index : best,
    0,
  );

const stepIn = <T>(options: readonly T[], value: T, by: number): T =>
  options[Math.max(0, Math.min(options.length - 1, options.indexOf(value) + by))] ?? value;

const FORM_WORDS: readonly Choice<HarmonyForm | null>[] = [
  { value: null, text: 'in its style' },
  { value: 'free', text: 'no return' },
  { value: 'loop of four', text: 'loop of four' },
  { value: 'loop of two', text: 'loop of two' },
  { value: 'twelve bars', text: 'twelve bars' },
  { value: 'a a b a', text: 'a a b a' },
];

/** A chord that sounds, or nothing; the error says why it is none. */
function endChord({ value }: AbstractControl<string>): ValidationErrors | null {
  if (value.trim() === '') return null;
  const reading = readChord(value.trim());
  if (!reading.ok) return { told: reading.reason };
  return reading.chord === null ? { told: 'A progression begins and ends with a chord that sounds.' } : null;
}

/** What a section's chords are asked for. */
@Component({
  selector: 'fd-harmony-brief',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    Beside,
    LeanPanel,
    Sentence,
    ChoiceField,
    SlideField,
    MatFormField,
    MatError,
    MatInput,
    ReactiveFormsModule,
  ],
  template: `
    <fd-sentence
      [words]="words()"
      (stepped)="step($event)"
      (returned)="reset($event)"
      (opened)="toggle()"
      [moved]="leans.moved()"
    />
    <div class="ends">
      <label
        >First chord
        <mat-form-field class="told-below end">
          <input
            matInput
            #first
            aria-label="First chord"
            autocomplete="off"
            placeholder="any"
            maxlength="24"
            [formControl]="ends.first"
            (change)="setEnd('first', first.value)"
          />
          <mat-error role="alert">{{ ends.first.errors?.['told'] }}</mat-error>
        </mat-form-field></label
      >
      <label
        >Last chord
        <mat-form-field class="told-below end">
          <input
            matInput
            #last
            aria-label="Last chord"
            autocomplete="off"
            placeholder="any"
            maxlength="24"
            [formControl]="ends.last"
            (change)="setEnd('last', last.value)"
          />
          <mat-error role="alert">{{ ends.last.errors?.['told'] }}</mat-error>
        </mat-form-field></label
      >
    </div>
    <div class="ends">
      <label
        >Form
        <fd-choice-field
          class="form"
          label="Form of the chords"
          [choices]="forms"
          [value]="brief().form"
          (chosen)="change({ form: $event }, 'form')"
      /></label>
      <label
        >Under
        <fd-choice-field
          label="Chords under a melody"
          [choices]="melodies()"
          [value]="brief().under"
          (chosen)="change({ under: $event }, 'under')"
      /></label>
      @if (heldCount() > 0) {
        <span class="quiet">{{ heldText() }} held</span>
      }
    </div>
    @if (exact() || leans.open()) {
      <fd-beside
        data-opened-by="[data-region=bench] .word"
        label="Exactly: chords"
        back="Back to the sentence"
        (closed)="close()"
      >
        @defer (on immediate) {
          <fd-slide-field
            label="Adventure"
            shown="Adventure"
            unit="%"
            [step]="5"
            [value]="brief().adventure"
            (moved)="change({ adventure: $event }, 'adventure')"
          />
          <fd-lean-panel of="chords" />
        }
      </fd-beside>
    }
  `,
  styles: `
    .ends {
      display: flex;
      gap: 12px;
      margin-top: 4px;
      font-size: 0.8125rem;
    }
    .ends label {
      display: flex;
      align-items: center;
      gap: 6px;
    }
    .end {
      width: 5rem;
    }
    .form {
      display: block;
      width: 7rem;
    }
  `,
})
export class HarmonyBriefControl {
  private readonly store = inject(Store);
  readonly section = input.required<Section>();
  private readonly score = this.store.selectSignal(selectScore);
  private readonly heard = this.store.selectSignal(selectHeard);
  protected readonly leans = inject(LeanDesk);
  protected readonly exact = signal(false);
  protected readonly forms = FORM_WORDS;
  /** How the progression begins and ends, as it is typed. */
  protected readonly ends = {
    first: new FormControl('', { nonNullable: true, validators: [endChord] }),
    last: new FormControl('', { nonNullable: true, validators: [endChord] }),
  };

  constructor() {
    effect(() => {
      // Of this section's brief: what was typed for another one has nothing to do with it.
      this.section();
      const { first, last } = this.brief();
      this.ends.first.reset(first ?? '');
      this.ends.last.reset(last ?? '');
    });
  }

  protected readonly brief = computed(() => this.section().harmonyBrief);
  private readonly usual = computed(() =>
    harmonyBriefFor(this.section().kind, styleIn(this.score(), this.score()?.ground.style ?? '').harmony),
  );

  protected readonly words = computed((): SentenceWord[] => {
    const { pace, colouring, cadence, adventure } = this.brief();
    const usual = this.usual();
    const words = [
      { id: 'pace', label: 'Harmonic rhythm', text: PACE_WORDS[pace] ?? '', usual: pace === usual.pace },
      {
        id: 'colouring',
        label: 'Colouring',
        text: colouring === 'extended' ? 'extended chords' : colouring,
        usual: colouring === usual.colouring,
      },
      { id: 'cadence', label: 'Cadence', text: CADENCE_WORDS[cadence], usual: cadence === usual.cadence },
      {
        id: 'adventure',
        label: 'Adventure',
        text: ADVENTURES[place(adventure)]?.[1] ?? '',
        usual: adventure === usual.adventure,
      },
    ];
    return [...words.filter((word) => !word.usual), ...words.filter((word) => word.usual)];
  });

  /** Parts with one line here, which chords can go under. */
  protected readonly melodies = computed((): readonly Choice<PartId | null>[] => [
    { value: null, text: 'no melody' },
    ...(this.score()?.parts ?? [])
      .filter((part) => part.role === 'melody' && soundingId(this.section(), part.id, this.heard()) !== null)
      .map(({ id, name }) => ({ value: id, text: name })),
  ]);
  protected readonly heldCount = computed(() => heldBars(holdsOf(this.section(), HARMONY)).size);
  protected readonly heldText = computed(() => (this.heldCount() === 1 ? '1 bar' : `${this.heldCount()} bars`));

  protected toggle(): void {
    const shown = this.exact() || this.leans.open();
    this.leans.open.set(false);
    this.exact.set(!shown);
  }

  protected close(): void {
    this.leans.open.set(false);
    this.exact.set(false);
  }

  /** The section as the song has it now. */
  private now(): Section {
    const score = this.score();
    return (score && sectionOf(score, this.section().id)) ?? this.section();
  }

  protected step({ id, by }: { id: string; by: 1 | -1 }): void {
    // Keys come quicker than the page is drawn: each goes on from what the song says now.
    const brief = this.now().harmonyBrief;
    if (id === 'pace') this.change({ pace: stepIn(PACES, brief.pace, by) }, id);
    if (id === 'colouring') this.change({ colouring: stepIn(COLOURINGS, brief.colouring, by) }, id);
    if (id === 'cadence') this.change({ cadence: stepIn(CADENCES, brief.cadence, by) }, id);
    if (id === 'adventure')
      this.change(
        {
          adventure:
            ADVENTURES[Math.max(0, Math.min(ADVENTURES.length - 1, place(brief.adventure) + by))]?.[0] ??
            brief.adventure,
        },
        id,
      );
  }

  protected reset(id: string): void {
    this.change({ [id]: this.usual()[id as 'pace'] }, id);
  }

  protected setEnd(which: 'first' | 'last', text: string): void {
    const control = this.ends[which];
    control.setValue(text);
    control.markAsTouched();
    if (control.valid) this.change({ [which]: text.trim() === '' ? null : text.trim() }, which);
  }

  protected change(change: Partial<HarmonyBrief>, word: string): void {
    const section = this.section().id;
    this.store.dispatch(ScoreActions.harmonyBriefChanged({ section, change, gesture: `harmony ${section} ${word}` }));
  }
}

import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { CADENCES, COLOURINGS, type HarmonyBrief, type Section, type PartId } from '@fendro/core/song/schema';
import { soundingId } from '@fendro/core/song/resolve';
import { harmonyBriefFor } from '@fendro/core/song/briefs';
import { styleIn } from '@fendro/core/styles/styles';
import { readChord } from '@fendro/core/theory/read-chord';
import { selectHeard, selectScore } from '../../store/selectors';
import { ScoreActions } from '../../store/song.actions';
import { Sentence, type SentenceWord } from '../../ui/sentence';

const PACES = [0.5, 1, 2] as const;
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

/** What a section's chords are asked for. */
@Component({
  selector: 'fd-harmony-brief',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Sentence],
  template: `
    <fd-sentence [words]="words()" (stepped)="step($event)" (returned)="reset($event)" (opened)="exact.set(!exact())" />
    <div class="ends">
      <label
        >First chord
        <input
          #first
          class="field"
          autocomplete="off"
          placeholder="any"
          maxlength="24"
          [value]="brief().first ?? ''"
          [attr.aria-invalid]="problem()?.which === 'first'"
          (change)="setEnd('first', first.value)"
      /></label>
      <label
        >Last chord
        <input
          #last
          class="field"
          autocomplete="off"
          placeholder="any"
          maxlength="24"
          [value]="brief().last ?? ''"
          [attr.aria-invalid]="problem()?.which === 'last'"
          (change)="setEnd('last', last.value)"
      /></label>
    </div>
    <div class="ends">
      <label
        >Under
        <select class="field" aria-label="Chords under a melody" (change)="setUnder($any($event.target).value)">
          <option value="" [selected]="brief().under === null">no melody: chords first</option>
          @for (part of melodies(); track part.id) {
            <option [value]="part.id" [selected]="brief().under === part.id">{{ part.name }}</option>
          }
        </select></label
      >
      @if (section().heldBars.length > 0) {
        <span class="quiet">{{ heldText() }} held</span>
      }
    </div>
    @if (problem(); as problem) {
      <p class="problem" role="alert">{{ problem.text }}</p>
    }
    @if (exact()) {
      <div class="exact">
        <label
          >Adventure
          <input
            type="range"
            min="0"
            max="100"
            step="5"
            [value]="brief().adventure"
            (input)="change({ adventure: +$any($event.target).value }, 'adventure')"
          /><output class="mono">{{ brief().adventure }} %</output></label
        >
        <button class="button small" (click)="exact.set(false)">Back to the sentence</button>
      </div>
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
    .ends input {
      width: 4.6rem;
      min-height: 28px;
    }
    .ends select {
      max-width: 12rem;
      min-height: 28px;
    }
    .ends input[aria-invalid='true'] {
      border-color: var(--alert);
    }
    .exact {
      display: grid;
      gap: 4px;
      padding: 6px 0;
    }
    .exact label {
      display: grid;
      grid-template-columns: 5.2rem 1fr 4rem;
      align-items: center;
      gap: 8px;
      font-size: 0.8125rem;
    }
    .exact input {
      accent-color: var(--accent);
      min-width: 0;
    }
    .button {
      justify-self: start;
    }
  `,
})
export class HarmonyBriefControl {
  private readonly store = inject(Store);
  readonly section = input.required<Section>();
  private readonly score = this.store.selectSignal(selectScore);
  private readonly heard = this.store.selectSignal(selectHeard);
  protected readonly exact = signal(false);
  /** Of this section's brief: another one has nothing to do with it. */
  protected readonly problem = linkedSignal<string, { which: 'first' | 'last'; text: string } | null>({
    source: () => this.section().id,
    computation: () => null,
  });
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
  protected readonly melodies = computed(() =>
    (this.score()?.parts ?? []).filter(
      (part) => part.role === 'melody' && soundingId(this.section(), part.id, this.heard()) !== null,
    ),
  );
  protected readonly heldText = computed(() => {
    const bars = this.section().heldBars;
    return `${bars.length} ${bars.length === 1 ? 'bar' : 'bars'}`;
  });

  protected setUnder(part: PartId): void {
    this.change({ under: part === '' ? null : part }, 'under');
  }

  protected step({ id, by }: { id: string; by: 1 | -1 }): void {
    const brief = this.brief();
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
    const typed = text.trim();
    const reading = typed === '' ? null : readChord(typed);
    if (reading && (!reading.ok || reading.chord === null)) {
      this.problem.set({
        which,
        text: reading.ok ? 'A progression begins and ends with a chord that sounds.' : reading.reason,
      });
      return;
    }
    this.problem.set(null);
    this.change({ [which]: typed === '' ? null : typed }, which);
  }

  protected change(change: Partial<HarmonyBrief>, word: string): void {
    const section = this.section().id;
    this.store.dispatch(ScoreActions.harmonyBriefChanged({ section, change, gesture: `harmony ${section} ${word}` }));
  }
}

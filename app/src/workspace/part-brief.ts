import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { Store } from '@ngrx/store';
import { isUsual, resetWord, stepWord, WORD_LABELS, wordFor, type BriefWord } from '@fendro/core/song/brief-words';
import { USES_MOTIFS, motifOf, USE_WORDS } from '@fendro/core/song/plan';
import { tellProfile } from '@fendro/core/song/profile';
import { roleOf } from '@fendro/core/song/roles';
import type { Brief, Part } from '@fendro/core/song/schema';
import { instrumentOf } from '@fendro/core/sounding/instruments';
import { styleIn } from '@fendro/core/styles/styles';
import { DraftRuns } from '../desks/draft-runs';
import { PlanDesk } from '../desks/plan-desk';
import { selectScore, selectSection } from '../store/selectors';
import { ScoreActions } from '../store/song.actions';
import { ExactBrief, type BriefChange } from './exact-brief';
import { Beside } from '../ui/beside';
import { Sentence, type SentenceWord } from '../ui/sentence';

/** A part's brief as a sentence, and as exact controls when opened. */
@Component({
  selector: 'fd-part-brief',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Beside, ExactBrief, MatButton, Sentence],
  template: `
    <fd-sentence [words]="words()" (stepped)="step($event)" (returned)="reset($event)" (opened)="exact.set(!exact())" />
    @if (leaning(); as text) {
      <p class="leaning quiet">
        <span>{{ text }}</span>
        <button matButton class="small" [attr.aria-label]="bindLabel()" (click)="toggleBound()">
          {{ section()?.plan?.bound ? 'Free' : 'Bind' }}
        </button>
      </p>
    }
    @if (exact()) {
      <fd-beside
        data-opened-by="[data-region=bench] .word"
        back="Back to the sentence"
        [label]="'Exactly: ' + part().name"
        (closed)="exact.set(false)"
      >
        @defer (on immediate) {
          <fd-exact-brief [part]="part()" (changed)="change($event)" />
        }
      </fd-beside>
    }
  `,
  styles: `
    .leaning {
      display: flex;
      align-items: baseline;
      justify-content: space-between;
      gap: 8px;
      margin: 0;
      font-size: 0.8125rem;
    }
  `,
})
export class PartBriefControl {
  private readonly store = inject(Store);
  private readonly runs = inject(DraftRuns);
  readonly part = input.required<Part>();
  /** The setting that asks for what cannot be met. */
  readonly blamed = input<BriefWord>();
  private readonly score = this.store.selectSignal(selectScore);
  protected readonly exact = signal(false);
  private readonly plan = inject(PlanDesk);
  protected readonly section = this.store.selectSignal(selectSection);

  /** How the section leans this part and what it does with the song's motif; empty where it does nothing. */
  protected readonly leaning = computed(() => {
    const [section, score] = [this.section(), this.score()];
    if (!section || !score) return '';
    const { kind, plan } = section;
    const motif = USES_MOTIFS.has(this.part().role) ? motifOf(score, plan.motif) : null;
    const leans = tellProfile(kind, this.part().role);
    if (leans === '' && !motif) return '';
    if (!plan.bound) return `${section.name} is free: the brief as it stands`;
    const says = motif ? USE_WORDS[plan.use].replace(/\bit\b/, `“${motif.name}”`) : '';
    return `In ${section.name}: ${[leans, says].filter(Boolean).join('; ')}`;
  });
  protected readonly bindLabel = computed(() => {
    const section = this.section();
    return `${section?.plan.bound ? 'Free' : 'Bind'} ${section?.name ?? ''}`;
  });

  protected toggleBound(): void {
    const section = this.section();
    if (section) this.plan.bind(section, !section.plan.bound);
  }

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

  /** The part as the song has it now. */
  private now(): Part {
    return this.score()?.parts.find(({ id }) => id === this.part().id) ?? this.part();
  }

  protected step({ id, by }: { id: string; by: 1 | -1 }): void {
    // Keys come quicker than the page is drawn: each goes on from what the song says now.
    const { brief, instrument } = this.now();
    this.change({ change: stepWord(brief, id as BriefWord, by, instrumentOf(instrument)), word: id });
  }

  protected reset(id: string): void {
    this.change({ change: resetWord(id as BriefWord, this.usual()), word: id });
  }

  protected change({ change, word }: BriefChange): void {
    const part = this.part().id;
    if (Object.keys(change).length === 0) return;
    // What could not be met was another brief.
    this.runs.problem.set(null);
    this.store.dispatch(ScoreActions.briefChanged({ part, change, gesture: `brief ${part} ${word}` }));
  }
}

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
import { RunsCommand } from '../commands/runs-command';
import { DraftRuns } from '../desks/draft-runs';
import { LeanDesk } from '../desks/lean-desk';
import { PlanDesk } from '../desks/plan-desk';
import { LeanPanel } from '../drawers/leaning/lean-panel';
import { LeanWords } from '../drawers/leaning/lean-words';
import { selectScore, selectSection } from '../store/selectors';
import { ScoreActions } from '../store/song.actions';
import { ExactBrief, type BriefChange } from './exact-brief';
import { Beside } from '../ui/beside';
import { Sentence, type SentenceWord } from '../ui/sentence';

/** A part's brief as a sentence, and as exact controls when opened. */
@Component({
  selector: 'fd-part-brief',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Beside, ExactBrief, LeanPanel, LeanWords, MatButton, RunsCommand, Sentence],
  template: `
    <fd-sentence
      [words]="words()"
      [moved]="leans.moved()"
      (stepped)="step($event)"
      (returned)="reset($event)"
      (opened)="toggleExact()"
    />
    <p class="planned quiet">
      <span
        >{{ planned() }}{{ planned() && leans.leans('brief').length > 0 ? '; ' : ''
        }}<fd-lean-words class="leans" of="brief" (opened)="leans.open.set(true)"
      /></span>
      <span class="buttons">
        @if (planned()) {
          <button matButton class="small" [attr.aria-label]="bindLabel()" (click)="toggleBound()">
            {{ section()?.plan?.bound ? 'Free' : 'Bind' }}
          </button>
        }
        <button matButton class="small" fdRuns="lean.open" [attr.aria-expanded]="leans.open()">Lean</button>
      </span>
    </p>
    @if (leans.open()) {
      <fd-beside
        data-opened-by="fd-part-brief .planned button"
        back="Back to the sentence"
        [label]="'Lean: ' + part().name"
        (closed)="closeLeaning()"
      >
        @defer (on immediate) {
          <fd-lean-panel of="brief" />
        }
      </fd-beside>
    } @else if (exact()) {
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
    .planned {
      display: flex;
      align-items: baseline;
      justify-content: space-between;
      gap: 8px;
      margin: 0;
      font-size: 0.8125rem;
    }
    .buttons {
      flex: none;
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
  protected readonly leans = inject(LeanDesk);
  protected readonly section = this.store.selectSignal(selectSection);

  /** How the section leans this part and what it does with the song's motif; empty where it does nothing. */
  protected readonly planned = computed(() => {
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

  protected toggleExact(): void {
    this.exact.set(!this.exact() || this.leans.open());
    this.leans.open.set(false);
  }

  protected closeLeaning(): void {
    this.leans.open.set(false);
    this.exact.set(false);
  }

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

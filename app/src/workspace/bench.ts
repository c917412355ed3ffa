import { NgTemplateOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatProgressBar } from '@angular/material/progress-bar';
import { FindField } from '../ui/fields/find-field';
import { ChoiceField, type Choice } from '../ui/fields/choice-field';
import { MatButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { Store } from '@ngrx/store';
import { INSTRUMENTS, instrumentOf, instrumentsFor } from '@fendro/core/sounding/instruments';
import { partTake, soundingId } from '@fendro/core/song/resolve';
import { isDrumRole } from '@fendro/core/song/roles';
import { HARMONY, type PartId } from '@fendro/core/song/schema';
import { splitVoices } from '@fendro/core/song/voices';
import { fittedNotes } from '@fendro/core/song/follow-chords';
import { InRegion } from '../commands/regions';
import { RunsCommand } from '../commands/runs-command';
import { newId } from '../store/ids';
import { Drafting } from '../desks/drafting';
import {
  selectLine,
  selectMusic,
  selectOwnScore,
  selectPart,
  selectScore,
  selectSection,
  selectTakes,
} from '../store/selectors';
import { BandDesk } from '../desks/band-desk';
import { SoloDesk } from '../desks/solo-desk';
import { SessionActions, type SwitchAt, sessionFeature } from '../store/session';
import { ScoreActions } from '../store/song.actions';
import { nameIn } from '../ui/spoken';
import { Tabs, type Tab } from '../ui/tabs';
import { FillsPanel } from './drums/fills-panel';
import { KitPanel } from './drums/kit-panel';
import { HarmonyBench } from './harmony/harmony-bench';
import { HarmonyBriefControl } from './harmony/harmony-brief';
import { PartBriefControl } from './part-brief';
import { TakeList } from './take-list';
import { chosenId } from '@fendro/core/song/section';

/** What the line in focus is asked for, and its takes. */
@Component({
  selector: 'fd-bench',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    FillsPanel,
    KitPanel,
    Tabs,
    NgTemplateOutlet,
    HarmonyBench,
    HarmonyBriefControl,
    PartBriefControl,
    TakeList,
    InRegion,
    RunsCommand,
    MatButton,
    MatIcon,
    ChoiceField,
    FindField,
    MatProgressBar,
  ],
  template: `
    <aside class="bench" fdRegion="bench" aria-label="Bench">
      <header>
        @if (part(); as part) {
          <h2>{{ part.name }}</h2>
          <fd-find-field
            label="Instrument"
            class="instrument"
            [choices]="instruments()"
            [value]="part.instrument"
            (tried)="band.tryInstrument($event)"
            (left)="band.letInstrumentGo()"
            (chosen)="setInstrument(part.id, $event)"
          />
        } @else {
          <h2>Chords</h2>
        }
      </header>
      @if (part(); as part) {
        <fd-part-brief [part]="part" [blamed]="problem()?.setting" />
        @if (part.role === 'ensemble' && sounds()) {
          <p class="fitted">
            Its voices move together.
            <button matButton="outlined" class="small" (click)="split(part.id)">A part for each voice</button>
          </p>
        }
        @if (solos.about(); as about) {
          <p class="fitted">
            {{ about.text }}
            <button matButton="outlined" class="small" (click)="solos.takeBack(about.solo)">Take the solo back</button>
          </p>
        }
        @if (fitted(); as text) {
          <p class="fitted" role="status">
            {{ text }}
            <button matButton="outlined" class="small" [disabled]="drafting.busy()" (click)="draft()">
              Redraft to these chords
            </button>
          </p>
        }
        @if (drums()) {
          @defer (on immediate) {
            <fd-tabs label="Drums" [tabs]="drumTabs" [current]="drumTab()" (opened)="drumTab.set($event)">
              @switch (drumTab()) {
                @case ('takes') {
                  <ng-container [ngTemplateOutlet]="takes" />
                }
                @case ('fills') {
                  @defer (on immediate) {
                    <fd-fills-panel />
                  }
                }
                @case ('kit') {
                  @defer (on immediate) {
                    <fd-kit-panel />
                  }
                }
              }
            </fd-tabs>
          }
        } @else {
          <ng-container [ngTemplateOutlet]="takes" />
        }
      } @else if (section(); as section) {
        @defer (on immediate) {
          <fd-harmony-bench>
            <fd-harmony-brief [section]="section" />
            <ng-container [ngTemplateOutlet]="takes" />
          </fd-harmony-bench>
        }
      }
      <ng-template #takes>
        <div class="draft">
          @if (drafting.busy()) {
            <button matButton="outlined" fdRuns="take.cancel"><mat-icon svgIcon="close" />Cancel</button>
            @defer (on immediate) {
              <mat-progress-bar [value]="100 * drafting.share()" [attr.aria-label]="'Drafting ' + drafting.now()" />
            }
            <span class="quiet">{{ drafting.now() }}</span>
          } @else {
            <button matButton="filled" fdRuns="take.draft">Draft takes</button>
            <fd-choice-field
              class="plain moment"
              label="When a take that is tried comes in"
              [choices]="moments"
              [value]="switchAt()"
              (chosen)="setMoment($event)"
            />
          }
        </div>
        @if (problem(); as problem) {
          <p class="problem" role="alert">
            <span>{{ problem.reason }}</span>
            @if (offer(); as offer) {
              <button matButton="outlined" class="small" (click)="meet()">{{ offer }}</button>
            }
          </p>
        }
        <fd-take-list />
      </ng-template>
    </aside>
  `,
  styles: `
    :host {
      display: block;
      border-inline-start: 1px solid var(--line);
      background: var(--surface);
      min-height: 0;
    }
    .bench {
      position: relative;
      height: 100%;
      display: flex;
      flex-direction: column;
      gap: 8px;
      padding: 10px 14px 0;
    }
    header {
      display: flex;
      align-items: center;
      justify-content: space-between;
      gap: 8px;
      min-height: 32px;
    }
    h2 {
      font-family: var(--serif);
      font-size: 1.25rem;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .instrument {
      width: 11rem;
    }
    .fitted {
      margin: 0;
      display: flex;
      align-items: center;
      gap: 8px;
      font-size: 0.8125rem;
      color: var(--quiet);
    }
    .problem {
      flex-wrap: wrap;
      margin: 0;
    }
    .draft {
      display: flex;
      align-items: center;
      gap: 8px;
    }
    .moment {
      margin-inline-start: auto;
      color: var(--quiet);
      font-size: 0.8125rem;
    }
    mat-progress-bar {
      flex: 1;
      width: auto;
    }
    fd-take-list {
      flex: 1;
      min-height: 0;
    }
  `,
})
export class Bench {
  private readonly store = inject(Store);
  protected readonly drafting = inject(Drafting);
  protected readonly solos = inject(SoloDesk);
  protected readonly band = inject(BandDesk);
  protected readonly part = this.store.selectSignal(selectPart);
  protected readonly section = this.store.selectSignal(selectSection);
  private readonly line = this.store.selectSignal(selectLine);
  private readonly score = this.store.selectSignal(selectScore);
  private readonly ownScore = this.store.selectSignal(selectOwnScore);
  protected readonly switchAt = this.store.selectSignal(sessionFeature.selectSwitchAt);
  protected readonly drums = computed(() => {
    const part = this.part();
    return part !== null && isDrumRole(part.role);
  });
  protected readonly drumTabs: readonly Tab<'takes' | 'fills' | 'kit'>[] = [
    { id: 'takes', name: 'Takes' },
    { id: 'fills', name: 'Fills' },
    { id: 'kit', name: 'Kit' },
  ];
  protected readonly drumTab = signal<'takes' | 'fills' | 'kit'>('takes');
  protected readonly moments: readonly Choice<SwitchAt>[] = [
    { value: 'bar', text: 'in at the bar' },
    { value: 'beat', text: 'in at the beat' },
    { value: 'top', text: 'in from the top' },
  ];
  protected readonly problem = computed(() => {
    const problem = this.drafting.problem();
    return problem && problem.section === this.section()?.id && problem.line === this.lineInFocus() ? problem : null;
  });

  /** The nearest brief that can be met, in words. */
  protected readonly offer = computed(() => {
    const nearest = this.problem()?.nearest;
    const score = this.score();
    if (!nearest || !score) return null;
    if (nearest.voices !== undefined) return `Draft with ${nearest.voices} voices`;
    if (nearest.anchoring !== undefined) return `Draft with anchoring at ${nearest.anchoring} %`;
    const name = (pitch: number): string => nameIn(score.ground, pitch);
    return nearest.low === undefined || nearest.high === undefined
      ? null
      : `Draft from ${name(nearest.low)} to ${name(nearest.high)}`;
  });

  protected readonly instruments = computed((): readonly Choice<string>[] => {
    const role = this.part()?.role;
    return (role ? instrumentsFor(role) : INSTRUMENTS).map(({ id, name, family }) => ({
      value: id,
      text: name,
      group: family.replace('-', ' '),
    }));
  });

  private readonly takes = this.store.selectSignal(selectTakes);
  private readonly music = this.store.selectSignal(selectMusic);
  /** Told where the take was made for other chords and moved to these. */
  protected readonly fitted = computed(() => {
    const [music, section, part] = [this.music(), this.section(), this.part()];
    if (!music || !section || !part) return null;
    const take = partTake(music.takes, soundingId(section, part.id, music.heard));
    if (!take) return null;
    return take.origin.how === 'fitted' || fittedNotes(music, section, take) !== take.notes
      ? 'Moved to these chords.'
      : null;
  });

  private lineInFocus(): string {
    return this.part()?.id ?? HARMONY;
  }

  protected setMoment(switchAt: SwitchAt): void {
    this.store.dispatch(SessionActions.switchMomentSet({ switchAt }));
  }

  /** Another instrument may not reach as far: the register moves inside what it can play. */
  protected setInstrument(part: PartId, instrument: string): void {
    const { low, high } = instrumentOf(instrument);
    const brief = this.part()?.brief;
    this.store.dispatch(
      ScoreActions.partChanged({
        part,
        change: {
          instrument,
          ...(brief
            ? {
                brief: {
                  ...brief,
                  low: Math.max(low, Math.min(brief.low, high - 7)),
                  high: Math.min(high, Math.max(brief.high, low + 7)),
                },
              }
            : {}),
        },
      }),
    );
  }

  /** True where the song has a take of the part in focus. */
  protected readonly sounds = computed(() => {
    const part = this.part();
    return part !== null && (this.score()?.sections ?? []).some((section) => chosenId(section, part.id) !== null);
  });

  /** Replaces an ensemble by parts for its voices, which can be edited and drafted alone. */
  protected split(part: PartId): void {
    const score = this.ownScore();
    if (!score) return;
    const split = splitVoices(score, this.takes(), part, newId);
    const [first] = split.parts;
    if (first !== undefined)
      this.store.dispatch(
        ScoreActions.revised({
          name: 'split an ensemble',
          score: split.score,
          takes: split.takes,
          released: score.sections.map(({ id }) => ({ section: id, line: part })),
          focus: first,
        }),
      );
  }

  /** Takes the nearest brief that can be met, and drafts. */
  protected meet(): void {
    const change = this.problem()?.nearest;
    const part = this.part();
    if (!change || !part) return;
    this.store.dispatch(ScoreActions.briefChanged({ part: part.id, change }));
    this.draft();
  }

  protected draft(): void {
    const section = this.section();
    if (section) void this.drafting.draft(section.id, this.lineInFocus());
  }
}

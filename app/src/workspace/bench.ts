import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { Store } from '@ngrx/store';
import { fittedNotes } from '@fendro/core/song/follow-chords';
import { partTake, soundingId } from '@fendro/core/song/resolve';
import { isDrumRole } from '@fendro/core/song/roles';
import { chosenId } from '@fendro/core/song/section';
import { INSTRUMENTS, instrumentsFor } from '@fendro/core/sounding/instruments';
import { InRegion } from '../commands/regions';
import { BandDesk } from '../desks/band-desk';
import { DraftRuns } from '../desks/draft-runs';
import { Drafting } from '../desks/drafting';
import { MixDesk, octaveWords } from '../desks/mix-desk';
import { SoloDesk } from '../desks/solo-desk';
import { selectMusic, selectPart, selectScore, selectSection } from '../store/selectors';
import type { Choice } from '../ui/fields/choice-field';
import { FindField } from '../ui/fields/find-field';
import { instrumentChoices } from '../ui/instrument-choices';
import { Tabs, type Tab } from '../ui/tabs';
import { FillsPanel } from './drums/fills-panel';
import { KitPanel } from './drums/kit-panel';
import { HarmonyBench } from './harmony/harmony-bench';
import { HarmonyBriefControl } from './harmony/harmony-brief';
import { PartBriefControl } from './part-brief';
import { TakesPanel } from './takes-panel';
import { TreatmentSentence } from './treatments/treatment-sentence';

/** What the line in focus is asked for, and its takes. */
@Component({
  selector: 'fd-bench',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    FillsPanel,
    FindField,
    HarmonyBench,
    HarmonyBriefControl,
    InRegion,
    KitPanel,
    MatButton,
    PartBriefControl,
    Tabs,
    TakesPanel,
    TreatmentSentence,
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
            (tried)="band.tryInstrument({ part: part.id, instrument: $event })"
            (left)="band.letInstrumentGo()"
            (chosen)="band.setInstrument(part, $event)"
          />
        } @else {
          <h2>Chords</h2>
        }
      </header>
      @if (part(); as part) {
        @if (beyond(); as reach) {
          <p class="fitted" role="status">
            {{ reach.text }}.
            @if (reach.better !== null) {
              <button matButton="outlined" class="small" (click)="mix.setOctave(part, reach.better)">
                Sound {{ octaveWords(reach.better) }}
              </button>
            }
          </p>
        }
        <fd-part-brief [part]="part" [blamed]="runs.problemInFocus()?.setting" />
        <fd-treatment-sentence />
        @if (part.role === 'ensemble' && sounds()) {
          <p class="fitted">
            Its voices move together.
            <button matButton="outlined" class="small" (click)="band.split(part.id)">A part for each voice</button>
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
            <button matButton="outlined" class="small" [disabled]="runs.busy()" (click)="drafting.draftInFocus()">
              Redraft to these chords
            </button>
          </p>
        }
        @if (drums()) {
          @defer (on immediate) {
            <fd-tabs label="Drums" [tabs]="drumTabs" [current]="drumTab()" (opened)="drumTab.set($event)">
              @switch (drumTab()) {
                @case ('takes') {
                  <fd-takes-panel />
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
          <fd-takes-panel />
        }
      } @else if (section(); as section) {
        @defer (on immediate) {
          <fd-harmony-bench>
            <fd-harmony-brief [section]="section" />
            <fd-takes-panel />
          </fd-harmony-bench>
        }
      }
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
  `,
})
export class Bench {
  private readonly store = inject(Store);
  protected readonly drafting = inject(Drafting);
  protected readonly runs = inject(DraftRuns);
  protected readonly solos = inject(SoloDesk);
  protected readonly band = inject(BandDesk);
  protected readonly mix = inject(MixDesk);
  protected readonly octaveWords = octaveWords;
  protected readonly part = this.store.selectSignal(selectPart);
  /** What the instrument cannot play of the part. */
  protected readonly beyond = computed(() => {
    const part = this.part();
    return part && this.mix.beyond(part);
  });
  protected readonly section = this.store.selectSignal(selectSection);
  private readonly score = this.store.selectSignal(selectScore);
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
  protected readonly instruments = computed((): readonly Choice<string>[] => {
    const role = this.part()?.role;
    return instrumentChoices(role ? instrumentsFor(role) : INSTRUMENTS);
  });

  private readonly music = this.store.selectSignal(selectMusic);
  /** Told where the take was made for other chords and moved to these. */
  protected readonly fitted = computed(() => {
    const [music, section, part] = [this.music(), this.section(), this.part()];
    if (!music || !section || !part) return null;
    const take = partTake(music.takes, soundingId(section, part.id, music.heard));
    if (!take) return null;
    if (take.pattern) return null;
    return take.origin.how === 'fitted' || fittedNotes(music, section, take) !== take.notes
      ? 'Moved to these chords.'
      : null;
  });

  /** True where the song has a take of the part in focus. */
  protected readonly sounds = computed(() => {
    const part = this.part();
    return part !== null && (this.score()?.sections ?? []).some((section) => chosenId(section, part.id) !== null);
  });
}

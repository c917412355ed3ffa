import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { Store } from '@ngrx/store';
import { readChord } from '@fendro/core/theory/read-chord';
import { typeChords } from '@fendro/core/song/chord-typing';
import { HarmonyDesk } from '../../desks/harmony-desk';
import { selectBar } from '../../store/selectors';
import { CHORD_TABS, SessionActions, type ChordTab, sessionFeature } from '../../store/session';
import { Tabs } from '../../ui/tabs';
import { CollectionPanel } from './collection-panel';
import { FactsPanel } from './facts-panel';
import { NextPanel } from './next-panel';
import { RhythmPanel } from './rhythm-panel';
import { VoicingPanel } from './voicing-panel';

const NAMES: Readonly<Record<ChordTab, string>> = {
  draft: 'Draft',
  next: 'Next',
  collection: 'Pick',
  voicing: 'Voicing',
  rhythm: 'Rhythm',
  facts: 'Facts',
};

/**
 * The bench while the chords are in focus: drafting, ideas, the collection, how they are voiced, struck and what they
 * are.
 */
@Component({
  selector: 'fd-harmony-bench',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Tabs, NextPanel, CollectionPanel, VoicingPanel, RhythmPanel, FactsPanel, MatButton],
  template: `
    @if (unread(); as unread) {
      <p class="problem" role="status">
        “{{ unread.text }}” in bar {{ unread.bar }} cannot be read.
        @for (offer of unread.nearest; track offer) {
          <button matButton="outlined" class="small" (click)="mend(unread.at, offer)">{{ offer }}</button>
        }
      </p>
    }
    <fd-tabs label="Chords" [tabs]="tabs" [current]="chordTab()" (opened)="open($event)">
      @switch (chordTab()) {
        @case ('draft') {
          <ng-content />
        }
        @case ('next') {
          @defer (on immediate) {
            <fd-next-panel />
          }
        }
        @case ('collection') {
          @defer (on immediate) {
            <fd-collection-panel />
          }
        }
        @case ('voicing') {
          @defer (on immediate) {
            <fd-voicing-panel />
          }
        }
        @case ('rhythm') {
          @defer (on immediate) {
            <fd-rhythm-panel />
          }
        }
        @case ('facts') {
          @defer (on immediate) {
            <fd-facts-panel />
          }
        }
      }
    </fd-tabs>
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      gap: 8px;
      min-height: 0;
      flex: 1;
    }
    .problem {
      flex-wrap: wrap;
      margin: 0;
    }
  `,
})
export class HarmonyBench {
  private readonly store = inject(Store);
  private readonly desk = inject(HarmonyDesk);
  protected readonly chordTab = this.store.selectSignal(sessionFeature.selectChordTab);
  private readonly bar = this.store.selectSignal(selectBar);
  protected readonly tabs = CHORD_TABS.map((id) => ({ id, name: NAMES[id] }));

  /** The first thing typed that is no chord, with what it may have meant. */
  protected readonly unread = computed(() => {
    const span = this.desk.chords().find(({ unread }) => unread !== undefined);
    if (!span?.unread) return null;
    const reading = readChord(span.unread);
    return {
      at: span.start,
      text: span.unread,
      bar: Math.floor(span.start / this.bar()) + 1,
      nearest: reading.ok ? [] : reading.nearest,
    };
  });

  protected mend(at: number, chord: string): void {
    this.desk.edit('type a chord', typeChords(this.desk.chords(), at, chord, this.desk.typing()));
  }

  protected open(tab: ChordTab): void {
    this.store.dispatch(SessionActions.chordTabOpened({ tab }));
  }
}

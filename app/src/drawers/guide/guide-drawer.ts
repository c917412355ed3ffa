import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { Store } from '@ngrx/store';
import { barOf } from '@fendro/core/song/ground';
import type { Section } from '@fendro/core/song/schema';
import type { Ticks } from '@fendro/core/theory/units';
import { GuideDesk } from '../../desks/guides/guide-desk';
import { GuideSounds } from '../../desks/guides/guide-sounds';
import { GuideRecorder } from '../../desks/guides/guide-recorder';
import { GuidePlayer } from '../../sound/guide-player';
import { selectBar, selectOwnScore } from '../../store/selectors';
import { ChoiceField } from '../../ui/fields/choice-field';
import { FileButton } from '../../ui/fields/file-button';
import { CountIn } from '../count-in';
import { GuideRow } from './guide-row';

const RECORD_WORDS = { ready: 'Record', opening: 'Opening …', recording: 'End the recording' } as const;

/** Recordings under the song: a voice or an instrument, from a microphone or a file. */
@Component({
  selector: 'fd-guide-drawer',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, CountIn, FileButton, GuideRow, MatButton],
  template: `
    <header>
      <h2>Guide</h2>
      <button
        matButton="outlined"
        class="small"
        data-region-first
        [attr.aria-pressed]="recorder.state() === 'recording'"
        (click)="recorder.toggle()"
      >
        {{ words() }}
      </button>
      <fd-choice-field
        class="small"
        label="Microphone"
        [choices]="recorder.choices"
        [value]="recorder.microphone().id"
        (chosen)="recorder.choose($event)"
      />
      <fd-count-in />
      <span class="gap"></span>
      <fd-file-button
        label="Sound file for the guide"
        accept="audio/*,.wav,.mp3,.flac,.ogg,.m4a"
        (picked)="take($event)"
        >Take a sound file</fd-file-button
      >
    </header>
    <div class="list">
      @for (row of desk.rows(); track row.guide.id) {
        <fd-guide-row [guide]="row.guide" [section]="row.section" [tempo]="row.tempo" [bar]="barIn(row.section)" />
      } @empty {
        <p class="quiet">
          Sing or play while the music plays: what a microphone hears lies under the song from then on, each round of a
          loop a recording of its own. Wear headphones, so that the music is not in it. It is for you alone: files that
          you deliver do not have it.
        </p>
      }
    </div>
  `,
  styleUrl: '../drawer.scss',
  styles: `
    .list {
      flex: 1;
      min-height: 0;
      overflow: auto;
    }
    p {
      max-width: 44rem;
    }
  `,
})
export class GuideDrawer {
  protected readonly desk = inject(GuideDesk);
  protected readonly recorder = inject(GuideRecorder);
  private readonly score = inject(Store).selectSignal(selectOwnScore);
  private readonly bar = inject(Store).selectSignal(selectBar);
  protected readonly words = computed(() => RECORD_WORDS[this.recorder.state()]);

  constructor() {
    inject(GuidePlayer);
    void inject(GuideSounds).sweep();
  }

  protected async take(files: readonly File[]): Promise<void> {
    for (const file of files) await this.desk.addFile(file);
  }

  protected barIn(section: Section | null): Ticks {
    const score = this.score();
    return section && score ? barOf(score, section) : this.bar();
  }
}

import { ChangeDetectionStrategy, Component, computed, DestroyRef, inject } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatMenu, MatMenuItem, MatMenuTrigger } from '@angular/material/menu';
import { MatTooltip } from '@angular/material/tooltip';
import { RunsCommand } from '../../commands/runs-command';
import { LikeThis } from '../../desks/playing/like-this';
import { PlayDesk, type Way } from '../../desks/playing/play-desk';
import { ADDING_KEYS, plainLabel } from '../../desks/playing/play-keys';
import { PlayPort } from '../../desks/playing/play-port';
import { RecordDesk } from '../../desks/playing/record-desk';
import {
  GRID_NAMES,
  RecordingSettings,
  STRENGTH_NAMES,
  type RecordSettings,
} from '../../desks/playing/record-settings';
import { ChordSymbol } from '../../ui/chord-symbol';
import { ChoiceField, type Choice } from '../../ui/fields/choice-field';
import { CountIn } from '../count-in';
import { PlayKeyboard } from './play-keyboard';
import { PlayLines } from './play-lines';

const WAY_WORDS: Readonly<Record<Way, string>> = {
  'two hands': 'left holds, right strikes',
  'one hand': 'chords sound at once',
  'strum only': 'the section’s chords choose',
};

const numbered = <T extends number>(names: Readonly<Record<T, string>>): readonly Choice<T>[] =>
  (Object.keys(names).map(Number) as T[]).sort((a, b) => b - a).map((value) => ({ value, text: names[value] }));

/** Chords and lines played by hand on the line in focus, and what is recorded of it. */
@Component({
  selector: 'fd-play-drawer',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    ChoiceField,
    ChordSymbol,
    CountIn,
    MatButton,
    MatMenu,
    MatMenuItem,
    MatMenuTrigger,
    MatTooltip,
    PlayLines,
    RunsCommand,
  ],
  providers: [PlayKeyboard],
  templateUrl: './play-drawer.html',
  styleUrls: ['../drawer.scss', './play-drawer.scss'],
})
export class PlayDrawer {
  protected readonly desk = inject(PlayDesk);
  protected readonly settings = inject(RecordingSettings);
  private readonly record = inject(RecordDesk);
  protected readonly name = computed(() => this.desk.part()?.name ?? 'Chords');
  protected readonly colour = computed(() => this.desk.part()?.colour ?? CHORDS_COLOUR);
  protected readonly ways = (Object.keys(WAY_WORDS) as Way[]).map((value) => ({ value, text: WAY_WORDS[value] }));
  protected readonly additions = [...ADDING_KEYS].map(([code, addition]) => ({ key: plainLabel(code), addition }));
  protected readonly rounds: readonly Choice<RecordSettings['rounds']>[] = [
    { value: 'another take', text: 'each round another take' },
    { value: 'over it', text: 'over what is there' },
  ];
  protected readonly kept: readonly Choice<RecordSettings['notes']>[] = [
    { value: 'follow the chords', text: 'notes follow the chords' },
    { value: 'stay as played', text: 'notes stay as played' },
  ];
  protected readonly grids = numbered(GRID_NAMES);
  protected readonly strengths = numbered(STRENGTH_NAMES);
  protected readonly recordWords = computed(() => {
    if (this.record.counting()) return 'Counting in …';
    return this.record.recording() ? 'End the recording' : 'Record';
  });

  constructor() {
    const port = inject(PlayPort);
    // It listens as long as the drawer is open.
    inject(PlayKeyboard);
    port.acts.set(this.record);
    port.like.set(inject(LikeThis));
    inject(DestroyRef).onDestroy(() => {
      port.like.set(null);
      // Devices go on playing, and may go on recording.
      if (this.desk.listens()) return;
      if (this.record.recording()) this.record.record();
      port.acts.set(null);
    });
    this.desk.arm();
  }

  protected toggleArmed(): void {
    if (this.desk.armed()) this.desk.disarm();
    else this.desk.arm();
  }
}

/** The part colour of the chord line. */
const CHORDS_COLOUR = 4;

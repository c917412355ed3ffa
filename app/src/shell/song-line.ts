import { ChangeDetectionStrategy, Component, computed, inject, output } from '@angular/core';
import { TextField } from '../ui/fields/text-field';
import { MatButton, MatIconButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { RouterLink, RouterLinkActive } from '@angular/router';
import { MatTooltip } from '@angular/material/tooltip';
import { Store } from '@ngrx/store';
import { InRegion } from '../commands/regions';
import { RunsCommand } from '../commands/runs-command';
import { Playback } from '../sound/playback';
import { selectRedo, selectScore, selectUndo } from '../store/selectors';
import { ScoreActions } from '../store/song.actions';
import { songFeature } from '../store/song.reducer';
import { Theme } from '../ui/theme';
import { GroundLine } from './ground-line';
import { PositionReadout } from './position-readout';

/** The few facts that hold everywhere, the transport, undo and the way out. */
@Component({
  selector: 'fd-song-line',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    RouterLink,
    RouterLinkActive,
    MatTooltip,
    GroundLine,
    PositionReadout,
    InRegion,
    RunsCommand,
    MatButton,
    MatIconButton,
    MatIcon,
    TextField,
  ],
  templateUrl: './song-line.html',
  styleUrl: './song-line.scss',
})
export class SongLine {
  readonly scaleAsked = output();
  private readonly store = inject(Store);
  protected readonly playback = inject(Playback);
  protected readonly theme = inject(Theme);
  protected readonly score = this.store.selectSignal(selectScore);
  protected readonly undoName = this.store.selectSignal(selectUndo);
  protected readonly redoName = this.store.selectSignal(selectRedo);
  private readonly saving = this.store.selectSignal(songFeature.selectSaving);
  protected readonly savedText = computed(
    () => ({ saved: 'Saved', changed: 'Saving …', failed: 'Not saved' })[this.saving()],
  );

  protected rename(title: string): void {
    this.store.dispatch(ScoreActions.titleSet({ title }));
  }
}

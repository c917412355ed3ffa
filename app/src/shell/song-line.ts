import { ChangeDetectionStrategy, Component, computed, inject, output } from '@angular/core';
import { RouterLink, RouterLinkActive } from '@angular/router';
import { MatTooltip } from '@angular/material/tooltip';
import { Store } from '@ngrx/store';
import { Playback } from '../sound/playback';
import { selectRedo, selectSaving, selectScore, selectSession, selectUndo } from '../store/selectors';
import { SessionActions } from '../store/session';
import { ScoreActions, SongActions } from '../store/song.actions';
import { Icon } from '../ui/icon';
import { Theme } from '../ui/theme';
import { GroundLine } from './ground-line';
import { Keys } from './keys';
import { PositionReadout } from './position-readout';

/** The few facts that hold everywhere, the transport, undo and the way out. */
@Component({
  selector: 'fd-song-line',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [RouterLink, RouterLinkActive, MatTooltip, Icon, GroundLine, PositionReadout],
  templateUrl: './song-line.html',
  styleUrl: './song-line.scss',
})
export class SongLine {
  readonly scaleAsked = output();
  private readonly store = inject(Store);
  protected readonly playback = inject(Playback);
  protected readonly theme = inject(Theme);
  protected readonly keys = inject(Keys);
  protected readonly score = this.store.selectSignal(selectScore);
  protected readonly session = this.store.selectSignal(selectSession);
  protected readonly undoName = this.store.selectSignal(selectUndo);
  protected readonly redoName = this.store.selectSignal(selectRedo);
  private readonly saving = this.store.selectSignal(selectSaving);
  protected readonly savedText = computed(
    () => ({ saved: 'Saved', changed: 'Saving …', failed: 'Not saved' })[this.saving()],
  );

  protected rename(input: HTMLInputElement): void {
    const title = input.value.trim();
    if (title !== '') this.store.dispatch(ScoreActions.titleSet({ title }));
    // What was refused or empty gives way to what it is called.
    input.value = this.score()?.title ?? '';
  }

  protected undo(): void {
    this.store.dispatch(SongActions.undone());
  }

  protected redo(): void {
    this.store.dispatch(SongActions.redone());
  }

  protected toggleLoop(): void {
    this.store.dispatch(SessionActions.loopToggled());
  }

  protected toggleMetronome(): void {
    this.store.dispatch(SessionActions.metronomeToggled());
  }
}

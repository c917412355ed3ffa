import { inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import { unheardTakes } from '@fendro/core/song/prune';
import { takesOf } from '@fendro/core/song/resolve';
import type { LineId, SectionId } from '@fendro/core/song/schema';
import { Notices } from '../store/notices';
import { selectHeard, selectSong } from '../store/selectors';
import { TakeActions } from '../store/song.actions';
import { DraftRuns } from './draft-runs';

/** What was drafted and never heard: it can be let go, and brought back at once. */
@Injectable({ providedIn: 'root' })
export class UnheardDesk {
  private readonly store = inject(Store);
  private readonly notices = inject(Notices);
  private readonly runs = inject(DraftRuns);
  private readonly song = this.store.selectSignal(selectSong);
  private readonly heard = this.store.selectSignal(selectHeard);

  /** Takes of a line that were never heard, chosen, held or judged. */
  of(section: SectionId, line: LineId): string[] {
    const { score, takes, heard } = this.song();
    const own = new Set(takesOf(takes, section, line).map(({ id }) => id));
    return score ? unheardTakes(score, { takes, heard }, this.heard()).filter((id) => own.has(id)) : [];
  }

  /** Lets go of what was drafted for a line and never heard, chosen, held or judged; it can be brought back at once. */
  clear(section: SectionId, line: LineId): void {
    const { takes } = this.song();
    const gone = this.of(section, line).flatMap((id) => takes[id] ?? []);
    if (gone.length === 0) return;
    const asker = this.runs.open();
    this.store.dispatch(TakeActions.cleared({ takes: gone.map(({ id }) => id) }));
    this.notices.say(
      `${gone.length} unheard ${gone.length === 1 ? 'take was' : 'takes were'} cleared for ${this.runs.nameOf(line)}.`,
      {
        label: 'Bring them back',
        run: () => {
          if (asker === this.runs.open()) this.store.dispatch(TakeActions.made({ takes: gone }));
        },
      },
    );
  }
}

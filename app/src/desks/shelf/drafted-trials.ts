import { inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import { requestFor } from '@fendro/core/compose/asking';
import { takenBrief } from '@fendro/core/song/briefs';
import { changeBrief } from '@fendro/core/song/edit';
import { sectionOf } from '@fendro/core/song/resolve';
import { isDrumRole } from '@fendro/core/song/roles';
import type { LineId, Score, Take } from '@fendro/core/song/schema';
import { instrumentOf } from '@fendro/core/sounding/instruments';
import { Playback } from '../../sound/playback';
import type { ShelfItem } from '../../storage/shelf-storage';
import { selectMusic, selectOwnScore, selectPart, selectSection, selectSong } from '../../store/selectors';
import { ScoreActions, TakeActions } from '../../store/song.actions';
import { DraftRuns } from '../draft-runs';
import { HarmonyDesk } from '../harmony-desk';
import { LeanDesk } from '../lean-desk';
import { LineTrials } from './line-trials';
import { NO_PART, NO_SECTION, type Tried } from './trial';

/** Things that say how to draft: a take is drafted by them and heard; taken, both the brief and the take are the song's. */
@Injectable({ providedIn: 'root' })
export class DraftedTrials {
  private readonly store = inject(Store);
  private readonly runs = inject(DraftRuns);
  private readonly harmony = inject(HarmonyDesk);
  private readonly leanings = inject(LeanDesk);
  private readonly lines = inject(LineTrials);
  private readonly playback = inject(Playback);
  private readonly score = this.store.selectSignal(selectOwnScore);
  private readonly music = this.store.selectSignal(selectMusic);
  private readonly section = this.store.selectSignal(selectSection);
  private readonly part = this.store.selectSignal(selectPart);
  private readonly song = this.store.selectSignal(selectSong);

  async brief(kept: ShelfItem<'briefs'>, left: AbortSignal): Promise<Tried> {
    const part = this.part();
    if (!part) return NO_PART;
    if (isDrumRole(kept.role) !== isDrumRole(part.role))
      return isDrumRole(kept.role)
        ? 'This brief is for drums: put drums in focus.'
        : 'This brief is for a part that plays notes.';
    const brief = takenBrief(kept, part.role, part.brief, instrumentOf(part.instrument));
    return this.drafted(part.id, 'take a brief', (score) => changeBrief(score, part.id, brief), left);
  }

  async leaning(kept: ShelfItem<'leanings'>, left: AbortSignal): Promise<Tried> {
    const leant = this.leanings.leant(kept);
    if (!leant) return 'It would move nothing here: put another part in focus, or the chords.';
    if (leant.of === 'pattern') return this.lines.pattern({ id: '', name: '', ...leant });
    return this.drafted(leant.line, `lean ${kept.name}`, leant.change, left);
  }

  /** Drafts one take of a line as if the song were changed, and lets it be heard. */
  private async drafted(
    line: LineId,
    name: string,
    change: (score: Score) => Score,
    left: AbortSignal,
  ): Promise<Tried> {
    const [music, section, seed] = [this.music(), this.section(), this.song().open?.seed];
    if (!music || !section || seed === undefined) return NO_SECTION;
    const score = change(music.score);
    const request = requestFor({ ...music, score }, sectionOf(score, section.id) ?? section, line, seed);
    if (!request) return NO_PART;
    const made: Take[] = [];
    const take = (drafted: Take): void => {
      if (left.aborted) return;
      made.push(drafted);
      this.store.dispatch(TakeActions.madeAndHeard({ takes: [drafted], take: drafted.id, section: section.id, line }));
      this.playback.playIfStopped();
    };
    await this.runs.inTurn(() => this.runs.run({ section, line, request, count: 1, take, usedUp: () => USED_UP }));
    return {
      take: () => {
        const own = this.score();
        if (!own) return;
        const changed = change(own);
        const [drafted] = made;
        if (drafted) this.harmony.chooseIn(changed, drafted, name);
        else this.store.dispatch(ScoreActions.revised({ name, score: changed, takes: [], released: [] }));
      },
      letGo: () => {
        this.harmony.backToChosen(section.id, line);
      },
    };
  }
}

const USED_UP = 'Every take that it allows here has been shown.';

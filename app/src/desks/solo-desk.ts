import { computed, inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import { addPart } from '@fendro/core/song/edit';
import { isDrumRole } from '@fendro/core/song/roles';
import type { Part, Score, PartId } from '@fendro/core/song/schema';
import { placeSolo, removeSolo } from '@fendro/core/song/solo';
import { freeColour, newPart } from '@fendro/core/styles/band';
import { styleIn } from '@fendro/core/styles/styles';
import { Drafting, TAKES_AT_A_TIME } from './drafting';
import { newId } from '../store/ids';
import { selectOwnScore, selectPart, selectSection } from '../store/selectors';
import { ScoreActions } from '../store/song.actions';
import { sessionFeature } from '../store/session';

/** Solos over chosen bars: who plays them, who rests for them. */
@Injectable({ providedIn: 'root' })
export class SoloDesk {
  private readonly store = inject(Store);
  private readonly drafting = inject(Drafting);
  private readonly score = this.store.selectSignal(selectOwnScore);
  private readonly section = this.store.selectSignal(selectSection);
  private readonly part = this.store.selectSignal(selectPart);
  private readonly bars = this.store.selectSignal(sessionFeature.selectBars);

  /** Who would rest: the pitched part in focus, else the melody. */
  readonly rests = computed((): Part | null => {
    const [score, focused] = [this.score(), this.part()];
    if (focused && focused.role !== 'solo' && !isDrumRole(focused.role)) return focused;
    return score?.parts.find(({ role }) => role === 'melody') ?? null;
  });

  /** What the part in focus has to do with solos of the section in view, in words. */
  readonly about = computed((): { readonly text: string; readonly solo: string } | null => {
    const [score, section, part] = [this.score(), this.section(), this.part()];
    const solo = section?.solos.find((candidate) => candidate.part === part?.id || candidate.over === part?.id);
    if (!score || !solo || !part) return null;
    const bars = solo.to - solo.from === 1 ? `bar ${solo.from + 1}` : `bars ${solo.from + 1}–${solo.to}`;
    const other = score.parts.find(({ id }) => id === (solo.part === part.id ? solo.over : solo.part))?.name;
    const text =
      solo.part === part.id
        ? `Plays ${bars}${other ? `; ${other} rests there` : ''}.`
        : `Rests in ${bars} for ${other ?? 'a solo'}.`;
    return { text, solo: solo.part };
  });

  /** Gives the selected bars to a solo part, which is added where the song has none, and drafts it. */
  async give(): Promise<void> {
    const [score, section, bars] = [this.score(), this.section(), this.bars()];
    if (!score || !section || !bars) return;
    const over = this.rests()?.id ?? null;
    const { score: withPart, part } = this.soloist(score);
    const placed = placeSolo(withPart, section.id, {
      part: part.id,
      over,
      from: bars.from,
      to: Math.min(bars.to, section.bars),
    });
    const gesture = newId('solo');
    this.store.dispatch(
      ScoreActions.revised({
        name: 'give bars to a solo',
        score: placed,
        takes: [],
        released: [],
        focus: part.id,
        gesture,
      }),
    );
    // Where there is no room for another part, that was told, and nothing is drafted.
    if (this.score()?.parts.some(({ id }) => id === part.id))
      await this.drafting.draft(section.id, part.id, TAKES_AT_A_TIME, gesture);
  }

  private soloist(score: Score): { score: Score; part: Part } {
    const known = score.parts.find(({ role }) => role === 'solo');
    if (known) return { score, part: known };
    const part = newPart(styleIn(score, score.ground.style), 'solo', newId('part'), freeColour(score));
    return { score: addPart(score, part), part };
  }

  /** Lets whoever rested play on. */
  takeBack(part: PartId): void {
    const [score, section] = [this.score(), this.section()];
    if (score && section)
      this.store.dispatch(
        ScoreActions.revised({
          name: 'take back a solo',
          score: removeSolo(score, section.id, part),
          takes: [],
          released: [],
        }),
      );
  }
}

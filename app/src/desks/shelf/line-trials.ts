import { inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import { playOwnPhrase } from '@fendro/core/compose/own-phrases';
import { AS_IT_IS } from '@fendro/core/compose/phrase';
import { closeGaps, pasteChords } from '@fendro/core/song/chord-edit';
import { progressionIn } from '@fendro/core/song/progression';
import { sectionTicks, soundingId } from '@fendro/core/song/resolve';
import { isDrumRole } from '@fendro/core/song/roles';
import { HARMONY, type ChordSpan, type PartTake } from '@fendro/core/song/schema';
import { voicedTake } from '@fendro/core/song/take';
import { Playback } from '../../sound/playback';
import type { ShelfItem } from '../../storage/shelf-storage';
import { newId } from '../../store/ids';
import {
  selectBar,
  selectChords,
  selectGround,
  selectHeard,
  selectOwnScore,
  selectPart,
  selectSection,
} from '../../store/selectors';
import { SessionActions, sessionFeature } from '../../store/session';
import { ScoreActions, TakeActions } from '../../store/song.actions';
import { HarmonyDesk } from '../harmony-desk';
import { PatternDesk } from '../pattern-desk';
import { NO_PART, NO_SECTION, type Tried } from './trial';

/** Things that become a line of the section in view: chords, how they are struck, what the part in focus plays. */
@Injectable({ providedIn: 'root' })
export class LineTrials {
  private readonly store = inject(Store);
  private readonly harmony = inject(HarmonyDesk);
  private readonly patterns = inject(PatternDesk);
  private readonly playback = inject(Playback);
  private readonly score = this.store.selectSignal(selectOwnScore);
  private readonly section = this.store.selectSignal(selectSection);
  private readonly part = this.store.selectSignal(selectPart);
  private readonly ground = this.store.selectSignal(selectGround);
  private readonly chords = this.store.selectSignal(selectChords);
  private readonly heard = this.store.selectSignal(selectHeard);
  private readonly bars = this.store.selectSignal(sessionFeature.selectBars);
  private readonly bar = this.store.selectSignal(selectBar);
  /** The chords as they were before the first progression was heard. */
  private base: readonly ChordSpan[] | null = null;

  /** Chords in the song's key, over the selected bars or the whole section. */
  progression(kept: ShelfItem<'progressions'>): Tried {
    const section = this.section();
    if (!section) return NO_SECTION;
    const [bars, bar] = [this.bars(), this.bar()];
    const base = (this.base ??= this.harmony.chords());
    const clip = progressionIn(kept, this.harmony.key(), (bars ? bars.to - bars.from : section.bars) * bar);
    const length = this.harmony.length();
    const laid = bars ? pasteChords(base, bars.from * bar, clip, length) : closeGaps(clip, length);
    this.harmony.hear(laid, kept.name);
    this.playback.playIfStopped();
    return {
      take: () => {
        this.base = null;
        this.harmony.edit('take a progression', laid);
      },
      letGo: () => {
        this.base = null;
        this.harmony.letGo();
      },
    };
  }

  rhythm(rhythm: string): Tried {
    const section = this.section()?.id;
    if (section === undefined) return NO_SECTION;
    const attempt = (setting: { readonly rhythm: string } | null): void => {
      this.store.dispatch(SessionActions.chordSettingTried({ section, setting }));
    };
    attempt({ rhythm });
    this.playback.playIfStopped();
    return {
      take: () => {
        this.store.dispatch(ScoreActions.chordSettingChanged({ section, change: { rhythm } }));
        attempt(null);
      },
      letGo: () => {
        attempt(null);
      },
    };
  }

  phrase(own: ShelfItem<'phrases'>): Tried {
    const [score, section, part, ground] = [this.score(), this.section(), this.part(), this.ground()];
    if (!score || !section || !ground) return NO_SECTION;
    if (!part) return NO_PART;
    const drums = isDrumRole(own.role);
    if (drums !== isDrumRole(part.role))
      return drums ? 'This is a drum pattern: put drums in focus to hear it.' : 'Put a part in focus that plays notes.';
    const chords = this.chords();
    if (!drums && chords.length === 0) return 'This section has no chords yet: draft or take some first.';
    const length = sectionTicks(score, section);
    const register = part.role === own.role && !drums ? part.brief : null;
    const notes = playOwnPhrase(own, { ground, length }, chords, AS_IT_IS, register);
    return this.take(
      voicedTake({ id: newId('take'), section: section.id, length }, part, notes, {
        from: own.name,
        harmony: soundingId(section, HARMONY, this.heard()),
        ground,
      }),
    );
  }

  pattern({ pattern, role }: ShelfItem<'patterns'>): Tried {
    const part = this.part();
    if (!part) return NO_PART;
    if (isDrumRole(role) !== isDrumRole(part.role))
      return isDrumRole(role) ? 'This is for drums: put drums in focus.' : 'Put a part in focus that plays notes.';
    const take = this.patterns.trial(pattern, role);
    return take ? this.take(take) : NO_SECTION;
  }

  /** Lets a take be heard in place of what its part plays. */
  private take(take: PartTake): Tried {
    this.store.dispatch(
      TakeActions.madeAndHeard({ takes: [take], take: take.id, section: take.section, line: take.part }),
    );
    this.playback.playIfStopped();
    return {
      take: () => {
        this.harmony.choose(take.section, take.part, take.id);
      },
      letGo: () => {
        this.harmony.backToChosen(take.section, take.part);
      },
    };
  }
}

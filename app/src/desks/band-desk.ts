import { computed, inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import { LIMITS, numbered } from '@fendro/core/song/limits';
import type { Part, PartId, Role } from '@fendro/core/song/schema';
import { splitVoices } from '@fendro/core/song/voices';
import { instrumentOf } from '@fendro/core/sounding/instruments';
import { freeColour, newPart } from '@fendro/core/styles/band';
import { styleIn } from '@fendro/core/styles/styles';
import type { TriedInstrument } from '../sound/played-music';
import { Playback } from '../sound/playback';
import { newId } from '../store/ids';
import { selectOwnScore, selectPart, selectScore, selectTakes } from '../store/selectors';
import { SessionActions, sessionFeature } from '../store/session';
import { ScoreActions } from '../store/song.actions';

/** Semitones that a register keeps at least. */
const LEAST_REGISTER = 7;

/** Who plays: parts that come and go, how loud they are, and who is heard alone. */
@Injectable({ providedIn: 'root' })
export class BandDesk {
  private readonly store = inject(Store);
  private readonly playback = inject(Playback);
  private readonly score = this.store.selectSignal(selectScore);
  private readonly ownScore = this.store.selectSignal(selectOwnScore);
  private readonly takes = this.store.selectSignal(selectTakes);
  private readonly alone = this.store.selectSignal(sessionFeature.selectAlone);
  /** The part in focus. */
  readonly part = this.store.selectSignal(selectPart);
  readonly full = computed(() => (this.score()?.parts.length ?? 0) >= LIMITS.parts);

  add(role: Role): void {
    const score = this.score();
    if (!score) return;
    const part = newPart(styleIn(score, score.ground.style), role, newId('part'), freeColour(score));
    const name = numbered(part.name, new Set(score.parts.map((own) => own.name)), LIMITS.name);
    this.store.dispatch(ScoreActions.partAdded({ part: { ...part, name } }));
  }

  /** @param gesture  joins many small changes of one kind into one step of undo */
  change(
    part: Part,
    change: Partial<Pick<Part, 'level' | 'pan' | 'muted' | 'tone' | 'octave' | 'layers'>>,
    gesture?: string,
  ): void {
    this.store.dispatch(
      ScoreActions.partChanged({ part: part.id, change, ...(gesture ? { gesture: `${gesture} ${part.id}` } : {}) }),
    );
  }

  toggleQuiet(part: Part): void {
    this.change(part, { muted: !part.muted });
  }

  level(part: Part, by: number): void {
    this.change(part, { level: Math.max(0, Math.min(100, part.level + by)) }, 'level');
  }

  toggleAlone(part: PartId): void {
    this.store.dispatch(SessionActions.aloneToggled({ part }));
  }

  isAlone(part: PartId): boolean {
    return this.alone().includes(part);
  }

  /** True where the music plays only because an instrument is tried. */
  private began = false;

  /** Lets a part be heard with another instrument, or with a further one; nothing is changed. */
  tryInstrument(tried: TriedInstrument): void {
    this.began ||= !this.playback.playing();
    this.playback.triedInstrument.set(tried);
    this.playback.playIfStopped();
  }

  /** Back to its own instrument, and to silence where there was silence. */
  letInstrumentGo(): void {
    if (!this.playback.triedInstrument()) return;
    this.playback.triedInstrument.set(null);
    if (this.began) this.playback.stop();
    this.began = false;
  }

  /** Another instrument may not reach as far: the register moves inside what it can play. */
  setInstrument({ id, brief }: Part, instrument: string): void {
    const { low, high } = instrumentOf(instrument);
    const inside = {
      ...brief,
      low: Math.max(low, Math.min(brief.low, high - LEAST_REGISTER)),
      high: Math.min(high, Math.max(brief.high, low + LEAST_REGISTER)),
    };
    this.store.dispatch(ScoreActions.partChanged({ part: id, change: { instrument, brief: inside } }));
  }

  /** Replaces an ensemble by parts for its voices, which can be edited and drafted alone. */
  split(part: PartId): void {
    const score = this.ownScore();
    if (!score) return;
    const split = splitVoices(score, this.takes(), part, newId);
    const [first] = split.parts;
    if (first !== undefined)
      this.store.dispatch(
        ScoreActions.revised({
          name: 'split an ensemble',
          score: split.score,
          takes: split.takes,
          released: score.sections.map(({ id }) => ({ section: id, line: part })),
          focus: first,
        }),
      );
  }

  remove(part: PartId): void {
    this.store.dispatch(ScoreActions.partRemoved({ part }));
  }
}

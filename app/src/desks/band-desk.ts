import { computed, inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import { LIMITS, numbered } from '@fendro/core/song/limits';
import type { Part, PartId, Role } from '@fendro/core/song/schema';
import { freeColour, newPart } from '@fendro/core/styles/band';
import { styleIn } from '@fendro/core/styles/styles';
import { Playback } from '../sound/playback';
import { newId } from '../store/ids';
import { selectPart, selectScore } from '../store/selectors';
import { SessionActions, sessionFeature } from '../store/session';
import { ScoreActions } from '../store/song.actions';

/** Who plays: parts that come and go, how loud they are, and who is heard alone. */
@Injectable({ providedIn: 'root' })
export class BandDesk {
  private readonly store = inject(Store);
  private readonly playback = inject(Playback);
  private readonly score = this.store.selectSignal(selectScore);
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
  change(part: Part, change: Partial<Pick<Part, 'level' | 'pan' | 'muted'>>, gesture?: string): void {
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

  /** Lets the part in focus be heard with another instrument; nothing is changed. */
  tryInstrument(instrument: string): void {
    const part = this.part();
    if (!part) return;
    this.began ||= !this.playback.playing();
    this.playback.triedInstrument.set({ part: part.id, instrument });
    this.playback.playIfStopped();
  }

  /** Back to its own instrument, and to silence where there was silence. */
  letInstrumentGo(): void {
    if (!this.playback.triedInstrument()) return;
    this.playback.triedInstrument.set(null);
    if (this.began) this.playback.stop();
    this.began = false;
  }

  remove(part: PartId): void {
    this.store.dispatch(ScoreActions.partRemoved({ part }));
  }
}

import { computed, inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import { partTake } from '@fendro/core/song/resolve';
import { Notices } from '../../store/notices';
import { selectSounding, selectTakes } from '../../store/selectors';
import { Drafting } from '../drafting';
import { HoldDesk } from '../hold-desk';
import { Redrafting } from '../redrafting';
import type { LikeActs } from './play-port';
import { RecordDesk } from './record-desk';

/** Takes that are drafted like what was just played. */
@Injectable({ providedIn: 'root' })
export class LikeThis implements LikeActs {
  private readonly store = inject(Store);
  private readonly record = inject(RecordDesk);
  private readonly holding = inject(HoldDesk);
  private readonly drafting = inject(Drafting);
  private readonly redrafting = inject(Redrafting);
  private readonly notices = inject(Notices);
  private readonly takes = this.store.selectSignal(selectTakes);
  private readonly sounding = this.store.selectSignal(selectSounding);
  private readonly playedTake = computed(() => {
    const take = partTake(this.takes(), this.sounding());
    return take?.origin.how === 'played' ? take : null;
  });
  /** True where something of the part in focus was played. */
  readonly ready = computed(() => this.record.remembers() || this.playedTake() !== null);

  /**
   * Drafts takes like what was played: with its rhythm held, so that every further draft keeps it until it is freed; or
   * with its pitches, as nearly as the chords allow, in the rhythm of the take that was there.
   */
  async draft(likeness: 'rhythm' | 'pitches'): Promise<void> {
    if (this.record.remembers()) this.record.take();
    if (this.playedTake() === null) {
      this.notices.say('Play something on a part first: takes are then drafted like it.');
      return;
    }
    if (likeness === 'rhythm') {
      this.holding.holdAll(['rhythm']);
      this.drafting.draftInFocus();
    } else if (this.redrafting.canBlend()) await this.redrafting.blend('pitches');
    else await this.redrafting.vary();
  }
}

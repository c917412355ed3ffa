import { computed, inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import type { Style } from '@fendro/core/song/style';
import { partFrom } from '@fendro/core/styles/band';
import { STYLES, styleOf } from '@fendro/core/styles/styles';
import { selectOwnScore } from '../store/selectors';
import { Shelf } from '../store/shelf';
import { GuestBand } from './guest-band';

/** Styles that are heard before they are applied: their band plays over the section's own chords. */
@Injectable({ providedIn: 'root' })
export class StyleDesk {
  private readonly guests = inject(GuestBand);
  private readonly shelf = inject(Shelf);
  private readonly score = inject(Store).selectSignal(selectOwnScore);
  readonly working = this.guests.working.asReadonly();

  /** One's own from the shelf, those that the song brought along, and those that ship. */
  readonly all = computed((): readonly Style[] => {
    const own = this.shelf.contents().styles;
    const carried = (this.score()?.styles ?? []).filter(({ id }) => own.every((style) => style.id !== id));
    return [...own, ...carried, ...STYLES];
  });

  isOwn(id: string): boolean {
    return STYLES.every((style) => style.id !== id);
  }

  styleBy(id: string): Style {
    return this.all().find((style) => style.id === id) ?? styleOf(id);
  }

  /** Plays the style's band in place of the song. */
  hear(id: string): Promise<void> {
    const style = this.styleBy(id);
    return this.guests.hear({ parts: style.band.map((band, index) => partFrom(band, `heard-${index}`, index)), style });
  }

  /** The song again, in silence. */
  silence(): void {
    this.guests.silence();
  }
}

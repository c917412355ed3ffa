import { inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import { Notices } from '../store/notices';
import { sessionFeature } from '../store/session';

/**
 * A change of key or scale that is heard while nobody has said how the music follows it. Takes that were made of what
 * sounds then would be made of chords that may never come to be.
 */
@Injectable({ providedIn: 'root' })
export class Undecided {
  private readonly pending = inject(Store).selectSignal(sessionFeature.selectPendingGround);
  private readonly notices = inject(Notices);

  /** @returns true where something is undecided; then that is told, and nothing should be made */
  told(): boolean {
    if (this.pending() === null) return false;
    this.notices.say(
      'First say how the music follows the new key, or leave it as it was: the question is above the bars.',
    );
    return true;
  }
}

import { computed, inject, Injectable, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { clipOf, pasted, type Clip } from '@fendro/core/shaping/clip';
import { copiedTo } from '@fendro/core/shaping/place';
import { endOf, meant } from '@fendro/core/shaping/room';
import type { Harmony } from '@fendro/core/song/fit';
import { groundOf, keyOf } from '@fendro/core/song/ground';
import { chordsIn } from '@fendro/core/song/resolve';
import { News } from '../store/news';
import { Notices } from '../store/notices';
import { selectBar, selectMusic, selectPart, selectSection } from '../store/selectors';
import { sessionFeature } from '../store/session';
import { CloseUpDesk } from './close-up-desk';

/** Notes that are copied, cut out and put in again: in the same part or another, here or in another section. */
@Injectable({ providedIn: 'root' })
export class ClipDesk {
  private readonly store = inject(Store);
  private readonly desk = inject(CloseUpDesk);
  private readonly news = inject(News);
  private readonly notices = inject(Notices);
  private readonly music = this.store.selectSignal(selectMusic);
  private readonly section = this.store.selectSignal(selectSection);
  private readonly part = this.store.selectSignal(selectPart);
  private readonly bar = this.store.selectSignal(selectBar);
  private readonly barCursor = this.store.selectSignal(sessionFeature.selectCursor);
  private readonly clip = signal<Clip | null>(null);
  readonly canPaste = computed(() => this.clip() !== null && this.desk.open());

  /** The chords that sound in the section in view, in their key. */
  private harmony(): Harmony | null {
    const [music, section] = [this.music(), this.section()];
    if (!music || !section) return null;
    return { chords: chordsIn(section, music.takes, music.heard), key: keyOf(groundOf(music.score, section)) };
  }

  copy(): void {
    const harmony = this.harmony();
    const clip = harmony && clipOf(this.desk.notes(), this.desk.ids(), harmony, this.bar(), this.desk.drums());
    if (!clip) return;
    this.clip.set(clip);
    this.news.say(clip.notes.length === 1 ? 'Note copied' : `${clip.notes.length} notes copied`);
  }

  cut(): void {
    this.copy();
    this.desk.remove();
  }

  /** Puts what was copied into the bar that the cursor is on, fitted to its chords or as it is. */
  paste(fitted: boolean): void {
    const [clip, part, harmony] = [this.clip(), this.part(), this.harmony()];
    if (!clip || !part || !harmony) return;
    if (clip.drums !== this.desk.drums()) {
      this.notices.say('Drums strike and other parts play pitches: neither can take over what the other plays.');
      return;
    }
    const at = this.barCursor() * this.bar();
    this.desk.commit({ name: fitted ? 'paste notes, fitted' : 'paste notes' }, (notes, room) =>
      pasted(notes, clip, at, part, fitted ? harmony : null, room),
    );
    this.desk.tell();
  }

  /** Says the picked notes once more right after, a whole number of bars on where they fill more than half of one. */
  double(): void {
    const [ids, own] = [this.desk.ids(), meant(this.desk.notes(), this.desk.ids())];
    if (own.length === 0) return;
    const long = Math.max(...own.map(endOf)) - Math.min(...own.map(({ start }) => start));
    const unit = long > this.bar() / 2 ? this.bar() : BEAT;
    const ticks = Math.ceil(long / unit) * unit;
    this.desk.commit({ name: 'double notes' }, (notes, room) => copiedTo(notes, ids, { ticks, semitones: 0 }, room));
    this.desk.tell();
  }
}

/** A quarter, in ticks. */
const BEAT = 480;

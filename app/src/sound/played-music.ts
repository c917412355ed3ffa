import { computed, inject, Injectable, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { layOut, NOTHING_HEARD, songTicks, type Music, type Placed, type Takes } from '@fendro/core/song/resolve';
import type { Part, PartId, Score } from '@fendro/core/song/schema';
import { NEW_LAYER } from '@fendro/core/song/layers';
import { spanOf, type Span } from '@fendro/core/sounding/course';
import { selectHeard, selectPlaced, selectScore, selectTakes, selectView } from '../store/selectors';
import { sessionFeature } from '../store/session';

/** An instrument that is tried: in place of the part's own, of one of its layers, or as a further one. */
export interface TriedInstrument {
  readonly part: PartId;
  readonly instrument: string;
  readonly layer?: number | undefined;
}

function withTried(part: Part, { instrument, layer }: TriedInstrument): Part {
  if (layer === undefined) return { ...part, instrument };
  const layers = [...(part.layers ?? [])];
  layers[layer] = { ...(layers[layer] ?? NEW_LAYER), instrument };
  return { ...part, layers };
}

/** What the transport plays: the song, or a guest in its place. */
@Injectable({ providedIn: 'root' })
export class PlayedMusic {
  private readonly store = inject(Store);
  /**
   * Music from elsewhere, such as a file that is about to be brought in; it sounds in place of the song while it is
   * set.
   */
  readonly guest = signal<{ readonly score: Score; readonly takes: Takes } | null>(null);
  /** An instrument that is heard in place of a part's own, or of one that doubles it; the song is unchanged. */
  readonly tried = signal<TriedInstrument | null>(null);
  private readonly songScore = this.store.selectSignal(selectScore);
  private readonly ownScore = computed((): Score | null => {
    const [score, tried] = [this.songScore(), this.tried()];
    if (!score || !tried) return score;
    return { ...score, parts: score.parts.map((part) => (part.id === tried.part ? withTried(part, tried) : part)) };
  });
  private readonly ownTakes = this.store.selectSignal(selectTakes);
  private readonly ownHeard = this.store.selectSignal(selectHeard);
  private readonly ownPlaced = this.store.selectSignal(selectPlaced);
  private readonly view = this.store.selectSignal(selectView);
  private readonly bars = this.store.selectSignal(sessionFeature.selectBars);
  private readonly looping = this.store.selectSignal(sessionFeature.selectLooping);

  /** All that decides what sounds; null while no song is open. */
  readonly music = computed((): Music | null => {
    const guest = this.guest();
    if (guest) return { ...guest, heard: NOTHING_HEARD };
    const score = this.ownScore();
    return score && { score, takes: this.ownTakes(), heard: this.ownHeard() };
  });
  readonly placed = computed((): readonly Placed[] => {
    const guest = this.guest();
    return guest ? layOut(guest.score) : this.ownPlaced();
  });

  /** What the transport would loop: the selected bars, or the section in view; of a guest, all. */
  readonly span = computed((): Span | null => {
    const [score, view] = [this.music()?.score, this.view()];
    if (!score) return null;
    if (this.guest()) return { from: 0, to: songTicks(score) };
    if (!view) return null;
    const span = spanOf(score, view, this.bars());
    return this.looping() ? span : { from: span.from, to: songTicks(score) };
  });
}

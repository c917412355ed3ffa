import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import { begun, over, shapedBy, type Captured as Notes, type LiveMoment, type Shaped } from '@fendro/core/live/capture';
import { EARLY } from '@fendro/core/live/rounds';
import type { Strike } from '@fendro/core/live/touches';
import { secondsPerTick } from '@fendro/core/sounding/tempo-map';
import type { LineId } from '@fendro/core/song/schema';
import type { Chord } from '@fendro/core/theory/chord';
import type { MidiNote } from '@fendro/core/theory/units';
import { Playback } from '../../sound/playback';
import { selectGround } from '../../store/selectors';
import { songFeature } from '../../store/song.reducer';

/** What hands played lately, each note with the place in the music that was heard just then. */
@Injectable({ providedIn: 'root' })
export class Captured {
  private readonly playback = inject(Playback);
  private readonly ground = inject(Store).selectSignal(selectGround);
  readonly notes = signal<Notes>([]);
  /** Where wheels stand: what is struck now begins there. */
  private readonly standing = new Map<Shaped['kind'], number>();

  constructor() {
    // What was played to another song belongs there.
    const open = inject(Store).selectSignal(songFeature.selectOpen);
    const song = computed(() => open()?.id);
    effect(() => {
      song();
      untracked(() => {
        this.notes.set([]);
      });
    });
  }

  /**
   * Remembers notes that are struck.
   *
   * @param line   who is played
   * @param chord  what was under the hand
   * @param at     when the hand struck, in ms of the page's clock
   */
  struck(line: LineId, strikes: readonly Strike[], chord: Chord | null, at: number): void {
    for (const { pitch, velocity, after, lasts } of strikes) {
      const from = at / 1000 + after;
      const moment = this.momentAt(at + 1000 * after - performance.now());
      const shaped = [...this.standing].map(([kind, value]) => ({ kind, at: from, value }));
      const note = { line, pitch, velocity, from, to: lasts === null ? null : from + lasts, moment, chord, shaped };
      this.notes.update((notes) => begun(notes, note));
    }
  }

  /** Remembers that notes ended. @param at  in ms of the page's clock */
  ended(pitches: readonly MidiNote[], at: number): void {
    if (pitches.length > 0)
      this.notes.update((notes) => pitches.reduce((now, pitch) => over(now, pitch, at / 1000), notes));
  }

  /** Remembers what is done to the notes that sound, and to those that come. @param at  in ms of the page's clock */
  shaped(line: LineId, kind: Shaped['kind'], value: number, at: number): void {
    if (value === 0) this.standing.delete(kind);
    else this.standing.set(kind, value);
    this.notes.update((notes) => shapedBy(notes, line, { kind, at: at / 1000, value }));
  }

  /**
   * The place in the music that is heard; a little before a loop comes round, or a section begins, its first moment is
   * meant.
   *
   * @param ahead  how long from now, in ms
   */
  private momentAt(ahead: number): LiveMoment | null {
    const here = this.playback.placeAt(ahead);
    const tempo = here?.ground.tempo ?? this.ground()?.tempo ?? 120;
    const soon = this.playback.placeAt(ahead + 1000 * EARLY * secondsPerTick(tempo));
    if (soon && (soon.round !== here?.round || soon.occurrence !== here.occurrence))
      return placeOf({ ...soon, at: soon.at - EARLY });
    return here && placeOf(here);
  }
}

const placeOf = ({ section, occurrence, round, at }: LiveMoment): LiveMoment => ({
  section,
  occurrence,
  round,
  at: Math.round(at),
});

import { inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import { withLayer, withLayerChanged, withoutLayer } from '@fendro/core/song/layers';
import { standingAt, type MoveKind } from '@fendro/core/song/moves';
import { isDrumRole } from '@fendro/core/song/roles';
import type { Layer, Part } from '@fendro/core/song/schema';
import { instrumentOf } from '@fendro/core/sounding/instruments';
import { reachOf } from '@fendro/core/sounding/reach';
import { writtenNotes } from '@fendro/core/sounding/written';
import { selectMusic, selectOwnScore } from '../store/selectors';
import { ScoreActions } from '../store/song.actions';
import { BandDesk } from './band-desk';
import { Teaching } from './devices/teaching';
import { MovesDesk } from './moves-desk';

/** What an instrument cannot play of its part, in words, and the octave in which it can play more. */
export interface BeyondReach {
  readonly text: string;
  readonly better: number | null;
}

const octaves = (count: number): string => (Math.abs(count) === 1 ? 'an octave' : `${Math.abs(count)} octaves`);

/** “an octave higher”, “as written”. */
export const octaveWords = (octave: number): string =>
  octave === 0 ? 'as written' : `${octaves(octave)} ${octave > 0 ? 'higher' : 'lower'}`;

/** How parts stand in the mix: level, pan and tone, the instruments that they sound on, and the level of the whole. */
@Injectable({ providedIn: 'root' })
export class MixDesk {
  private readonly store = inject(Store);
  private readonly band = inject(BandDesk);
  private readonly moves = inject(MovesDesk);
  private readonly teaching = inject(Teaching);
  private readonly score = this.store.selectSignal(selectOwnScore);
  private readonly music = this.store.selectSignal(selectMusic);

  /**
   * Sets how a part stands, or takes it down as a move where sliders are recorded; a control of a device that waits to be
   * shown what it should move learns this slider instead.
   */
  set(part: Part, kind: MoveKind, value: number): void {
    const place = this.score()?.parts.findIndex(({ id }) => id === part.id) ?? -1;
    if (place >= 0 && this.teaching.shown({ slider: kind, place })) return;
    if (!this.moves.moved(part, kind, value)) this.band.change(part, standingAt(part, kind, value), kind);
  }

  setOctave(part: Part, octave: number): void {
    this.band.change(part, { octave: octave === 0 ? undefined : octave });
  }

  addLayer(part: Part, instrument: string): void {
    this.band.change(part, withLayer(part, instrument));
  }

  changeLayer(part: Part, index: number, change: Partial<Layer>, gesture?: string): void {
    this.band.change(part, withLayerChanged(part, index, change), gesture && `${gesture} ${index}`);
  }

  removeLayer(part: Part, index: number): void {
    this.band.change(part, withoutLayer(part, index));
  }

  /** @param level  of the whole mix, in % */
  setMaster(level: number): void {
    const score = this.score();
    if (!score) return;
    const { master: _before, ...others } = score;
    this.store.dispatch(
      ScoreActions.revised({
        name: 'set the level of the whole',
        score: level === 100 ? others : { ...others, master: level },
        takes: [],
        released: [],
        gesture: 'master',
      }),
    );
  }

  /** What the part's instrument cannot play of all that the part sounds in the song; null where it can play all. */
  beyond(part: Part): BeyondReach | null {
    const music = this.music();
    if (!music || isDrumRole(part.role)) return null;
    const pitches = music.score.sections.flatMap((section) =>
      writtenNotes(music, section, part.id).map(({ pitch }) => pitch),
    );
    const instrument = instrumentOf(part.instrument);
    const { below, above, better } = reachOf(pitches, instrument, part.octave ?? 0);
    if (below + above === 0) return null;
    const notes = (count: number, where: string): string[] =>
      count === 0 ? [] : [`${count} ${count === 1 ? 'note' : 'notes'} ${where}`];
    return { text: `${[...notes(below, 'below'), ...notes(above, 'above')].join(', ')} its reach`, better };
  }
}

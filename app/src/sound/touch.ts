import { inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import { own } from '@fendro/core/song/look-up';
import type { LineId, Part } from '@fendro/core/song/schema';
import type { Instrument } from '@fendro/core/sounding/instruments';
import { voicesOf } from '@fendro/core/sounding/setup';
import type { MidiNote, Velocity } from '@fendro/core/theory/units';
import { EVENT } from '../../worklets/protocol';
import { selectScore } from '../store/selectors';
import { SoundEngine } from './engine';
import { Mixer } from './mixer';

const SECONDS = 0.25;
/** So much later than now, so that the stroke and its end both come in time. */
const LEAD_SECONDS = 0.01;

/** Who plays a line: a part, or the chord line's own instrument. */
export interface Player {
  readonly id: LineId;
  readonly name: string;
  readonly instrument: Instrument;
  readonly drums: boolean;
  readonly colour: number;
  readonly swaps: Part['swaps'];
}

/** Sounds single notes when they are touched, on the strip of who plays them. */
@Injectable({ providedIn: 'root' })
export class Touch {
  private readonly engine = inject(SoundEngine);
  private readonly mixer = inject(Mixer);
  private readonly score = inject(Store).selectSignal(selectScore);

  /** Strikes notes for a moment; the last touch counts where sounds must be loaded first. */
  async strike(
    player: Player,
    notes: readonly { readonly pitch: MidiNote; readonly velocity: Velocity }[],
  ): Promise<void> {
    const score = this.score();
    if (!score) return;
    const voices = voicesOf(score, player.instrument).filter(({ line }) => line === player.id);
    const families = voices.map(({ instrument }) => instrument.family);
    if (!(await this.engine.start()) || !(await this.engine.ensure(families))) return;
    this.mixer.apply();
    const { frame, sampleRate } = this.engine;
    const at = frame + Math.round(LEAD_SECONDS * sampleRate);
    const strokes = voices.flatMap(({ id, octave }) => {
      const strip = this.mixer.strips().get(id);
      return notes.slice(0, MOST).flatMap(({ pitch: written, velocity }) => {
        const pitch = (own(player.swaps, String(written)) ?? written) + 12 * octave;
        return strip === undefined || pitch < 0 || pitch > 127 ? [] : [{ strip, pitch, velocity }];
      });
    });
    this.engine.send({
      kind: 'block',
      events: Float64Array.from([
        ...strokes.flatMap(({ strip, pitch, velocity }) => [at, EVENT.noteOn, strip, pitch, velocity]),
        ...strokes.flatMap(({ strip, pitch }) => [at + SECONDS * sampleRate, EVENT.noteOff, strip, pitch, 0]),
      ]),
    });
  }
}

/** Notes at once; more would only be a bang. */
const MOST = 8;

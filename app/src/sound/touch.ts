import { inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import { own } from '@fendro/core/song/look-up';
import type { LineId, Part } from '@fendro/core/song/schema';
import type { Instrument } from '@fendro/core/sounding/instruments';
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
    const ready = (await this.engine.start()) && (await this.engine.ensure([player.instrument.family]));
    const strip = this.mixer.strips().get(player.id);
    if (!ready || strip === undefined || !this.score()) return;
    this.mixer.apply();
    const { frame, sampleRate } = this.engine;
    const at = frame + Math.round(LEAD_SECONDS * sampleRate);
    const strokes = notes
      .slice(0, MOST)
      .map(({ pitch, velocity }) => [own(player.swaps, String(pitch)) ?? pitch, velocity]);
    this.engine.send({
      kind: 'block',
      events: Float64Array.from([
        ...strokes.flatMap(([pitch = 60, velocity = 80]) => [at, EVENT.noteOn, strip, pitch, velocity]),
        ...strokes.flatMap(([pitch = 60]) => [at + SECONDS * sampleRate, EVENT.noteOff, strip, pitch, 0]),
      ]),
    });
  }
}

/** Notes at once; more would only be a bang. */
const MOST = 8;

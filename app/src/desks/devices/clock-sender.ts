import { computed, effect, inject, Injectable, untracked } from '@angular/core';
import { positionOf, pulsesIn, tickOfPosition } from '@fendro/core/live/midi-clock';
import { writeMessage } from '@fendro/core/live/midi-message';
import type { Ticks } from '@fendro/core/theory/units';
import type { MidiOut } from '../../devices/ports';
import { SoundEngine } from '../../sound/engine';
import { Playback } from '../../sound/playback';
import { endFrame, type Pass } from '../../sound/schedule';
import { DeviceDesk } from './device-desk';
import { DeviceUses } from './device-uses';
import { everyMoment, lookAhead } from './every-moment';

/** Gives devices the clock of the music: where it begins, 24 pulses a quarter, and that it stops. */
@Injectable({ providedIn: 'root' })
export class ClockSender {
  private readonly engine = inject(SoundEngine);
  private readonly playback = inject(Playback);
  private readonly desk = inject(DeviceDesk);
  private readonly uses = inject(DeviceUses);
  private readonly outputs = computed(() => this.desk.outputs().filter(({ name }) => this.uses.of(name).clocked));
  /** Those that the clock goes to while the music plays. */
  private running: readonly MidiOut[] = [];
  /** True once they were told where the music begins. */
  private told = false;
  /** The frame up to which pulses have been sent. */
  private sent = 0;

  constructor() {
    const goes = computed(() => (this.playback.playing() ? this.playback.beginnings() : null));
    effect(() => {
      const [outputs, going] = [this.outputs(), goes()];
      untracked(() => {
        this.end();
        if (going !== null) this.begin(outputs);
      });
    });
    globalThis.addEventListener('pagehide', () => {
      this.end();
    });
    const needed = computed(() => goes() !== null && this.outputs().length > 0);
    everyMoment(needed, () => {
      this.send();
    });
  }

  private begin(outputs: readonly MidiOut[]): void {
    this.running = outputs;
    this.told = false;
    this.sent = this.engine.frame;
    this.send();
  }

  private end(): void {
    if (this.told) for (const output of this.running) output.send(writeMessage({ says: 'stop' }));
    this.running = [];
  }

  /** Sends the pulses of the next moment; before the first of them, which place of the song it is. */
  private send(): void {
    const until = this.engine.frame + Math.round((lookAhead() / 1000) * this.engine.sampleRate);
    for (const { frame, tick } of this.playback.queued.flatMap((pass) => pulsesOf(pass, this.sent, until))) {
      const at = this.engine.heardAt(frame);
      // A clock that begins before it is known when sound is heard would be set right under way.
      if (!this.told && !this.engine.timed) continue;
      // Places are told in whole sixteenths: what begins between two of them is told at the next.
      if (!this.told && (tick < 0 || tickOfPosition(positionOf(tick)) !== tick)) continue;
      if (!this.told) this.tell(tick, at);
      for (const output of this.running) output.send(writeMessage({ says: 'clock' }), at);
    }
    this.sent = Math.max(this.sent, until);
  }

  private tell(tick: Ticks, at: number): void {
    this.told = true;
    for (const output of this.running) {
      output.send(writeMessage({ says: 'position', sixteenths: positionOf(tick) }), at - 2);
      output.send(writeMessage({ says: tick === 0 ? 'start' : 'continue' }), at - 1);
    }
  }
}

/** The pulses of a pass between two frames. */
function pulsesOf(pass: Pass, from: number, to: number): readonly { readonly frame: number; readonly tick: Ticks }[] {
  const [begins, ends] = [Math.max(from, pass.frame), Math.min(to, endFrame(pass))];
  if (begins >= ends) return [];
  const zero = pass.tempo.secondsAt(pass.from);
  const tickAt = (frame: number): number => pass.tempo.tickAt(zero + (frame - pass.frame) / pass.rate);
  // A pulse that is meant for a frame may be found a hair beside it.
  const span = { from: Math.floor(tickAt(begins)), to: Math.ceil(tickAt(ends)) };
  return pulsesIn(span, pass.tempo, 1000 * pass.tempo.secondsAt(span.from))
    .map(({ tick, at }) => ({ tick, frame: Math.round(pass.frame + (at / 1000 - zero) * pass.rate) }))
    .filter(({ frame, tick }) => frame >= begins && frame < ends && tick >= pass.from && tick < pass.to);
}

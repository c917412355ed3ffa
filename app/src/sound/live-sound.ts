import { computed, inject, Injectable } from '@angular/core';
import type { Strike } from '@fendro/core/live/touches';
import { bendValue } from '@fendro/core/files/midi/midi-expression';
import { own } from '@fendro/core/song/look-up';
import type { LineId, Part } from '@fendro/core/song/schema';
import type { MidiNote } from '@fendro/core/theory/units';
import { BEND_RANGE, EVENT } from '../../worklets/protocol';
import { SoundEngine } from './engine';
import { Mixer } from './mixer';
import { pack, type Queued } from './schedule';

/** The MIDI controller of modulation. */
const WAVERING = 1;

/** A note that is let go at once still sounds so long, so that it can be heard. */
const LEAST_SECONDS = 0.03;

/** Sounds what hands play at once, on strips of its own, as loud and as far to one side as the line that they play. */
@Injectable({ providedIn: 'root' })
export class LiveSound {
  private readonly engine = inject(SoundEngine);
  private readonly mixer = inject(Mixer);
  /** True where sound goes: a device may play before anything was clicked, and browsers let nothing sound before that. */
  readonly awake = computed(() => this.engine.state().kind === 'ready');
  /** The frame on which each pitch that sounds was struck. */
  private readonly struck = new Map<MidiNote, number>();
  /** The frame on which each pitch that was let go ends. */
  private readonly ending = new Map<MidiNote, number>();

  /** Has the sounds of a line at hand. @returns false where sound cannot start */
  async prepare(line: LineId): Promise<boolean> {
    this.mixer.live.set(line);
    const families = this.mixer.liveVoices().map(({ instrument }) => instrument.family);
    const there = (await this.engine.start()) && (await this.engine.ensure(families));
    if (there) this.mixer.apply();
    return there;
  }

  /**
   * Ends notes, then strikes others. Pitches are as they are written; drums and octaves of the part are looked up here.
   *
   * @param part  the part that is played; null for the chord line
   */
  sound(ends: readonly MidiNote[], strikes: readonly Strike[], part: Part | null): void {
    const { frame, sampleRate } = this.engine;
    const now: Queued[] = [];
    const soon = new Map<MidiNote, readonly Queued[]>();
    const add = (pitch: MidiNote, events: readonly Queued[]): void => {
      if ((events[0]?.frame ?? 0) <= frame) now.push(...events);
      else soon.set(pitch, [...(soon.get(pitch) ?? []), ...events]);
    };
    const end = (pitch: MidiNote, at: number): void => {
      this.ending.set(pitch, at);
      add(pitch, this.events(EVENT.noteOff, pitch, at, 0, part));
    };
    for (const pitch of ends) {
      // Strings that were to be struck yet end after that.
      const begun = this.struck.get(pitch) ?? frame;
      this.struck.delete(pitch);
      end(pitch, Math.max(frame, begun + Math.round(LEAST_SECONDS * sampleRate)));
    }
    for (const { pitch, velocity, after, lasts } of strikes) {
      if ((this.ending.get(pitch) ?? 0) > frame) {
        this.cancel(pitch, part);
        soon.delete(pitch);
        now.push(...this.events(EVENT.noteOff, pitch, frame, 0, part));
      }
      const at = frame + Math.round(after * sampleRate);
      add(pitch, this.events(EVENT.noteOn, pitch, at, velocity, part));
      if (lasts === null) this.struck.set(pitch, at);
      else end(pitch, at + Math.round(lasts * sampleRate));
    }
    if (now.length > 0) this.engine.send({ kind: 'now', events: pack(now) });
    if (soon.size > 0) this.engine.send({ kind: 'block', events: pack([...soon.values()].flat()) });
  }

  /** Bends what hands let sound. @param cents  up or down */
  bend(cents: number): void {
    this.say(EVENT.bend, bendValue(cents, BEND_RANGE), 0);
  }

  /** Lets what hands sound waver. @param depth  in % */
  waver(depth: number): void {
    this.say(EVENT.controller, WAVERING, Math.round((127 * depth) / 100));
  }

  private say(kind: number, a: number, b: number): void {
    const channels = [...this.mixer.liveStrips().values()];
    if (channels.length > 0)
      this.engine.send({ kind: 'now', events: pack(channels.map((channel) => ({ frame: 0, kind, channel, a, b }))) });
  }

  /** Ends everything that hands let sound. */
  quiet(): void {
    this.struck.clear();
    this.ending.clear();
    const releases = [...this.mixer.liveStrips().values()].map((channel): Queued => ({
      frame: 0,
      kind: EVENT.release,
      channel,
      a: 0,
      b: 0,
    }));
    for (const { channel } of releases)
      this.engine.send({ kind: 'switch', channel, frame: 0, events: new Float64Array(0) });
    if (releases.length > 0) this.engine.send({ kind: 'now', events: pack(releases) });
  }

  /** What is struck again before it has ended begins anew. */
  private cancel(pitch: MidiNote, part: Part | null): void {
    for (const { channel, a } of this.events(EVENT.noteOff, pitch, 0, 0, part))
      this.engine.send({ kind: 'cancel', channel, pitch: a });
  }

  private events(kind: number, written: MidiNote, frame: number, b: number, part: Part | null): readonly Queued[] {
    return this.mixer.liveVoices().flatMap(({ id, octave }) => {
      const channel = this.mixer.liveStrips().get(id);
      const a = (own(part?.swaps ?? {}, String(written)) ?? written) + 12 * octave;
      return channel === undefined || a < 0 || a > 127 ? [] : [{ frame, kind, channel, a, b }];
    });
  }
}

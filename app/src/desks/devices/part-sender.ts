import { computed, effect, inject, Injectable, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import { writeMessage, type MidiMessage } from '@fendro/core/live/midi-message';
import type { LineId } from '@fendro/core/song/schema';
import { voicesOf } from '@fendro/core/sounding/setup';
import type { MidiNote } from '@fendro/core/theory/units';
import { ALL_CHANNELS, BEND_RANGE, EVENT, EVENT_SIZE, type ToProcessor } from '../../../worklets/protocol';
import type { MidiOut } from '../../devices/ports';
import { SoundEngine } from '../../sound/engine';
import { Mixer } from '../../sound/mixer';
import { stripsFor } from '../../sound/strips';
import { selectOwnScore } from '../../store/selectors';
import { DeviceDesk } from './device-desk';
import { everyMoment, lookAhead } from './every-moment';
import { Routes } from './routes';

/** An event as it was sent to the audio thread. */
interface Event {
  readonly frame: number;
  readonly kind: number;
  readonly strip: number;
  readonly a: number;
  readonly b: number;
}

/** MIDI controllers. */
const [LEVEL, PAN] = [7, 10];
/** How far bends go, as the MIDI standard has it said: registered parameter 0, which is closed again. */
const BEND_RANGE_SAID = [
  [101, 0],
  [100, 0],
  [6, BEND_RANGE],
  [38, 0],
  [101, 127],
  [100, 127],
] as const;

/** A way out that is there: the line, its port and channel, and what sounds on it. */
interface Way {
  readonly line: LineId;
  readonly output: MidiOut;
  readonly channel: number;
  /** Each with the moment at which it was sent to begin. */
  readonly sounding: Map<MidiNote, number>;
}

/** Sends parts to devices as they sound: what goes to the audio thread goes out as well, each event at its moment. */
@Injectable({ providedIn: 'root' })
export class PartSender {
  private readonly engine = inject(SoundEngine);
  private readonly mixer = inject(Mixer);
  private readonly desk = inject(DeviceDesk);
  private readonly routes = inject(Routes);
  private readonly score = inject(Store).selectSignal(selectOwnScore);
  private readonly quiet = computed((): ReadonlySet<LineId> => {
    const score = this.score();
    if (!score) return new Set();
    const sounds = this.mixer.sounds(score);
    return new Set(score.parts.filter((part) => !sounds(part)).map(({ id }): LineId => id));
  });
  /** What is still to be sent, in any order. */
  private waiting: readonly Event[] = [];
  private ways: readonly Way[] = [];

  constructor() {
    const ways = computed(() => this.waysOut());
    effect(() => {
      const now = ways();
      untracked(() => {
        this.silence(this.ways);
        this.ways = now;
        for (const way of now) this.introduce(way);
      });
    });
    // Who is made quiet falls silent there, too.
    effect(() => {
      const lines = this.quiet();
      untracked(() => {
        this.silence(this.ways.filter(({ line }) => lines.has(line)));
      });
    });
    effect(() => {
      const there = new Set(ways().map(({ line }) => line));
      this.mixer.away.set(new Set([...this.routes.away()].filter((line) => there.has(line))));
    });
    // Who closes the page leaves nothing sounding elsewhere.
    globalThis.addEventListener('pagehide', () => {
      this.silence(this.ways);
    });
    this.engine.tap((message) => {
      this.hear(message);
    });
    everyMoment(
      computed(() => ways().length > 0),
      () => {
        this.send();
      },
    );
  }

  private waysOut(): readonly Way[] {
    const outputs = this.desk.outputs();
    return this.routes.all().flatMap(({ line, port, channel }) => {
      const output = outputs.find(({ name }) => name === port);
      return output ? [{ line, output, channel, sounding: new Map<MidiNote, number>() }] : [];
    });
  }

  private hear(message: ToProcessor): void {
    if (this.ways.length === 0) return;
    switch (message.kind) {
      case 'block':
        this.waiting = [...this.waiting, ...eventsIn(message.events)];
        return;
      case 'switch': {
        const { channel, frame } = message;
        const stays = (event: Event): boolean =>
          event.frame < frame || (channel !== ALL_CHANNELS && event.strip !== channel);
        this.waiting = [...this.waiting.filter(stays), ...eventsIn(message.events)];
        return;
      }
      case 'now':
        for (const event of eventsIn(message.events)) this.sendEvent(event);
        return;
      case 'cancel':
        this.waiting = this.waiting.filter(({ strip, a }) => strip !== message.channel || a !== message.pitch);
        return;
      case 'stop':
        this.waiting = [];
        this.silence(this.ways);
        return;
      default:
    }
  }

  /** Sends what is due in the next moment. */
  private send(): void {
    const until = this.engine.frame + (lookAhead() / 1000) * this.engine.sampleRate;
    const due = this.waiting.filter(({ frame }) => frame < until);
    if (due.length === 0) return;
    this.waiting = this.waiting.filter(({ frame }) => frame >= until);
    for (const event of due.sort((a, b) => a.frame - b.frame)) this.sendEvent(event, this.engine.heardAt(event.frame));
  }

  private sendEvent(event: Event, at = performance.now()): void {
    for (const way of this.ways) {
      if (event.strip !== ALL_CHANNELS && !this.stripsOf(way.line).includes(event.strip)) continue;
      if (event.kind === EVENT.release) endAll(way, at);
      else if (event.kind === EVENT.noteOff) end(way, event.a, at);
      else {
        const message = this.messageOf(event, way, at);
        if (message) way.output.send(writeMessage(message), at);
      }
    }
  }

  /** Strips of a line, and those on which hands play it. */
  private stripsOf(line: LineId): readonly number[] {
    const byHand = this.mixer.live() === line ? [...this.mixer.liveStrips().values()] : [];
    return [...stripsFor(this.mixer.strips(), line), ...byHand];
  }

  private messageOf({ kind, a, b }: Event, { line, channel, sounding }: Way, at: number): MidiMessage | null {
    switch (kind) {
      case EVENT.noteOn:
        if (this.quiet().has(line)) return null;
        sounding.set(a, at);
        return { says: 'note on', channel, pitch: a, velocity: b };
      case EVENT.controller:
        return { says: 'control', channel, controller: a, value: b };
      case EVENT.program:
        return { says: 'program', channel, program: a };
      case EVENT.bend:
        return { says: 'bend', channel, value: a - 8192 };
      default:
        return null;
    }
  }

  /** Tells a channel what it plays, how loud and where, and how far bends go here. */
  private introduce({ line, output, channel }: Way): void {
    const score = this.score();
    const voice = score && voicesOf(score).find((each) => each.line === line);
    if (voice) output.send(writeMessage({ says: 'program', channel, program: voice.instrument.program }));
    const levels = voice
      ? ([
          [LEVEL, voice.level],
          [PAN, voice.pan],
        ] as const)
      : [];
    for (const [controller, value] of [...levels, ...BEND_RANGE_SAID])
      output.send(writeMessage({ says: 'control', channel, controller, value }));
  }

  private silence(ways: readonly Way[]): void {
    for (const way of ways) endAll(way, performance.now());
  }
}

/** Ends a note; one that was sent to begin later, since it was sent ahead, ends after that. */
function end({ output, channel, sounding }: Way, pitch: MidiNote, at: number): void {
  const begins = sounding.get(pitch);
  if (begins === undefined) return;
  sounding.delete(pitch);
  output.send(writeMessage({ says: 'note off', channel, pitch }), Math.max(at, begins + 1));
}

function endAll(way: Way, at: number): void {
  for (const pitch of [...way.sounding.keys()]) end(way, pitch, at);
}

function eventsIn(flat: Float64Array): readonly Event[] {
  const events: Event[] = [];
  for (let at = 0; at < flat.length; at += EVENT_SIZE) {
    const [frame = 0, kind = 0, strip = 0, a = 0, b = 0] = flat.subarray(at, at + EVENT_SIZE);
    events.push({ frame, kind, strip, a, b });
  }
  return events;
}

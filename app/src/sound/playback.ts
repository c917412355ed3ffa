import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import { songTicks } from '@fendro/core/song/resolve';
import type { ChordSetting, Note, Score, Section } from '@fendro/core/song/schema';
import { channelsOf } from '@fendro/core/sounding/channels';
import { instrumentOf, type Family, type Instrument } from '@fendro/core/sounding/instruments';
import { barLines, groundAt, groundSpans, secondsPerTick } from '@fendro/core/sounding/tempo';
import { clicks, timeline, type SoundingNote, type Span } from '@fendro/core/sounding/timeline';
import { barTicks, beatsOf } from '@fendro/core/theory/metre';
import type { Ticks } from '@fendro/core/theory/units';
import { ALL_CHANNELS, EVENT } from '../../worklets/protocol';
import { selectChordSetting, selectSection, selectSession, selectSong } from '../state/selectors';
import type { SwitchAt } from '../state/session';
import { changedParts, contentsOf, lostParts, type Contents } from './contents';
import { CLICK_CHANNEL, GUIDE_CHANNEL, SoundEngine } from './engine';
import { GUIDE, GUIDE_INSTRUMENTS, guideLine, guideNotes, guideSounds } from './guide';
import { applyMix } from './mix';
import { PlayedMusic } from './played-music';
import { PositionWatch } from './position-watch';
import {
  clickEvents,
  endFrame,
  frameAt,
  nextMoment,
  noteEvents,
  pack,
  tickAt,
  timelineEvents,
  type Pass,
  type Queued,
} from './schedule';
import { Standstill } from './standstill';

/** A change while playing takes effect no sooner than this, so that it reaches the audio thread in time. */
const MARGIN_SECONDS = 0.03;
/** Time between pressing play and the first frame. */
const LEAD_SECONDS = 0.04;
/** A pass that is longer is queued in pieces. */
const LONGEST_PASS_BARS = 16;
const LOOK_EVERY_MS = 200;
const GUIDE_CHANNELS: ReadonlyMap<string, number> = new Map([[GUIDE, GUIDE_CHANNEL]]);
const CHANNELS = Array.from({ length: 16 }, (_, channel) => channel);

/** The transport: plays the song or a loop, follows every change at the bar, and tells where it is. */
@Injectable({ providedIn: 'root' })
export class Playback {
  private readonly store = inject(Store);
  private readonly engine = inject(SoundEngine);
  private readonly music = inject(PlayedMusic);
  readonly guest = this.music.guest;
  private readonly score = this.music.score;
  private readonly takes = this.music.takes;
  private readonly heard = this.music.heard;
  private readonly placed = this.music.placed;
  readonly span = this.music.span;
  private readonly viewed = this.store.selectSignal(selectSection);
  private readonly chordSetting = this.store.selectSignal(selectChordSetting);
  private readonly session = this.store.selectSignal(selectSession);
  private readonly song = this.store.selectSignal(selectSong);

  readonly playing = signal(false);
  /** True from the click until the first sound, when sounds must be loaded first. */
  readonly waiting = signal(false);
  readonly soundState = this.engine.state;
  private passes: Pass[] = [];
  private loop: Span | null = null;
  private readonly standstill = new Standstill();
  private timer: ReturnType<typeof setInterval> | undefined;
  // A guest has no place in the song that is on the page.
  private readonly positions = new PositionWatch(this.playing, () => (this.guest() ? null : this.position()));
  /** What each part sounded when it was last queued; other contents mean a switch. */
  private queuedContents: Contents = new Map();

  constructor() {
    const alone = computed(() => this.session().alone);
    const metronome = computed(() => this.session().metronome);
    const line = computed(() => this.session().line);
    effect(() => {
      const score = this.score();
      alone();
      if (score)
        untracked(() => {
          this.mix(score);
        });
    });
    effect(() => {
      const score = this.score();
      this.heard();
      this.takes();
      this.chordSetting();
      line();
      if (score)
        untracked(() => {
          this.follow(score);
        });
    });
    effect(() => {
      metronome();
      untracked(() => {
        if (this.playing())
          void this.engine.ensure(['drums']).then(() => {
            this.requeue(CLICK_CHANNEL);
          });
      });
    });
    // Without sound there is nothing that plays.
    effect(() => {
      if (this.engine.state().kind === 'failed')
        untracked(() => {
          if (this.playing() || this.waiting()) this.stop();
        });
    });
    const song = computed(() => this.song().open?.id);
    effect(() => {
      song();
      // Another song begins in silence.
      untracked(() => {
        if (this.playing() || this.waiting()) this.stop();
      });
    });
    // These cannot be switched part by part: the place is kept, the queue made anew.
    const shape = computed(() => {
      const score = this.score();
      const looping = this.session().looping;
      const order = this.placed().map(({ section, length }) => [section.id, length]);
      const grounds = score
        ? groundSpans(score, this.placed()).map(({ ground: { tempo, metre, swing, style, feel } }) => [
            tempo,
            metre,
            swing,
            style,
            feel,
          ])
        : [];
      return JSON.stringify([
        score?.energy,
        score?.parts.map(({ brief }) => brief.follows),
        grounds,
        looping,
        looping ? this.span() : null,
        order,
      ]);
    });
    let last = '';
    effect(() => {
      const now = shape();
      if (last !== '' && now !== last)
        untracked(() => {
          if (this.playing()) this.reshape();
        });
      last = now;
    });
  }

  private framesPerTick(score: Score, at: Ticks): number {
    return secondsPerTick(groundAt(score, at, this.placed()).tempo) * this.engine.sampleRate;
  }

  async toggle(): Promise<void> {
    if (this.playing() || this.waiting()) this.stop();
    else await this.play();
  }

  /** Plays the loop or, when looping is off, the song from the place in view. */
  async play(from?: Ticks): Promise<void> {
    const score = this.score();
    const span = this.span();
    if (!score || !span) return;
    this.waiting.set(true);
    const ready = (await this.engine.start()) && (await this.engine.ensure(this.neededFor(score, span)));
    if (!ready || !this.waiting()) {
      this.waiting.set(false);
      return;
    }
    // What plays later is fetched while the music goes on.
    void this.engine.ensure(score.parts.map(({ instrument }) => instrumentOf(instrument).family));
    this.waiting.set(false);
    this.mix(score);
    this.begin(from !== undefined && from >= span.from && from < span.to ? from : span.from);
  }

  /** The sounds that must be there before the first note. */
  private neededFor(score: Score, span: Span): Family[] {
    const needed = this.familiesIn(score, span);
    return this.session().metronome ? [...needed, 'drums'] : needed;
  }

  /** The sounds that the first bars of a span need. */
  familiesIn(score: Score, span: Span): Family[] {
    const soon = {
      from: span.from,
      to: Math.min(span.to, span.from + LONGEST_PASS_BARS * barTicks(groundAt(score, span.from, this.placed()).metre)),
    };
    const sounding = new Set(timeline(score, this.takes(), this.heard(), soon).notes.map(({ part }) => part));
    const families = score.parts
      .filter(({ id }) => sounding.has(id))
      .map(({ instrument }) => instrumentOf(instrument).family);
    return this.guide(score, soon).length > 0 ? [...families, this.guideInstrument().family] : families;
  }

  /** Starts anew at a tick; whatever sounded is released. */
  private begin(from: Ticks): void {
    const score = this.score();
    const span = this.span();
    if (!score || !span) return;
    this.engine.stop();
    this.loop = this.session().looping ? span : null;
    this.rememberContents(score);
    // Everything is computed first, from frame 0: only then the clock is read, so that long songs begin in time too.
    const pass = this.passFrom(score, 0, from, span.to);
    const events = this.events(score, pass, null, true);
    const frame = this.engine.frame + Math.round(LEAD_SECONDS * this.engine.sampleRate);
    this.passes = [{ ...pass, frame }];
    this.engine.send({
      kind: 'block',
      events: pack(events.map((event) => ({ ...event, frame: event.frame + frame }))),
    });
    this.standstill.start();
    this.playing.set(true);
    clearInterval(this.timer);
    this.timer = setInterval(() => {
      this.fill();
    }, LOOK_EVERY_MS);
    this.fill();
    this.positions.start();
  }

  /**
   * Another tempo, metre, swing, loop or order: the queue is made anew from the next bar line, or at once where the new
   * loop does not hold the place that sounds.
   */
  private reshape(): void {
    const [score, span, tick] = [this.score(), this.span(), this.position()];
    if (!score || !span) return;
    this.loop = this.session().looping ? span : null;
    const moment = this.switchMoment(score, 'bar');
    if (!moment || tick === null) {
      this.begin(span.from);
      return;
    }
    const inside = moment.tick >= span.from && moment.tick < span.to;
    const frame = frameAt(moment.pass, moment.tick);
    const kept = this.passes
      .filter((pass) => pass.frame < frame)
      .map((pass) => (pass === moment.pass ? { ...pass, to: moment.tick } : pass));
    const pass = this.passFrom(score, frame, inside ? moment.tick : span.from, span.to);
    this.passes = [...kept, pass];
    this.rememberContents(score);
    const releases = CHANNELS.map((channel): Queued => ({ frame, kind: EVENT.release, channel, a: 0, b: 0 }));
    this.engine.send({
      kind: 'switch',
      channel: ALL_CHANNELS,
      frame,
      events: pack([...releases, ...this.events(score, pass, null, true)]),
    });
    this.fill();
  }

  stop(): void {
    clearInterval(this.timer);
    this.waiting.set(false);
    this.playing.set(false);
    this.engine.stop();
    this.passes = [];
    this.positions.tell(null);
  }

  /** A pass as long as may be queued at once. */
  private passFrom(score: Score, frame: number, from: Ticks, to: Ticks): Pass {
    const spans = groundSpans(score, this.placed());
    const { tempo, metre } = groundAt(score, from, this.placed());
    // A pass has one tempo: it ends where the tempo changes.
    const change = spans.find((span) => span.start > from && span.ground.tempo !== tempo)?.start ?? to;
    return {
      frame,
      from,
      to: Math.min(to, change, from + LONGEST_PASS_BARS * barTicks(metre)),
      framesPerTick: this.framesPerTick(score, from),
    };
  }

  /** Keeps the present pass and the next one queued; ends the song after its last sound. */
  private fill(): void {
    const score = this.score();
    const last = this.passes.at(-1);
    if (!score || !last) return;
    const now = this.engine.frame;
    if (this.standstill.sees(now)) {
      this.engine.giveUp('The sound stands still. Check that a device is connected, then press play again.');
      return;
    }
    this.passes = this.passes.filter((pass, index) => index >= this.passes.length - 3 || endFrame(pass) > now);
    if (last.frame > now) return;
    const end = this.loop?.to ?? songTicks(score);
    if (last.to < end) this.queue(this.passFrom(score, endFrame(last), last.to, end));
    else if (this.loop) this.queue(this.passFrom(score, endFrame(last), this.loop.from, this.loop.to));
    else if (now > endFrame(last) + this.engine.sampleRate) this.stop();
  }

  private queue(pass: Pass): void {
    const score = this.score();
    if (!score || pass.to <= pass.from) return;
    this.passes.push(pass);
    this.engine.send({ kind: 'block', events: pack(this.events(score, pass, null, false)) });
  }

  /**
   * Events of one pass, of all channels or one; notes that began earlier are chased only where sound begins or
   * switches.
   */
  private events(score: Score, pass: Pass, channel: number | null, chased: boolean): Queued[] {
    const all = channelsOf(score);
    const channels = channel === null ? all : new Map([...all].filter(([, own]) => own === channel));
    const sounding = timeline(score, this.takes(), this.heard(), pass);
    const guided =
      channel === null || channel === GUIDE_CHANNEL
        ? this.guide(score, pass).filter(({ start }) => chased || start >= pass.from)
        : [];
    const events = [
      ...timelineEvents(chased ? sounding : { notes: sounding.notes, chase: [] }, pass, channels, this.loop !== null),
      ...noteEvents(guided, pass, GUIDE_CHANNELS, this.loop !== null),
    ];
    const wantsClicks = this.session().metronome && (channel === null || channel === CLICK_CHANNEL);
    return wantsClicks ? [...events, ...clickEvents(clicks(score, pass), pass, CLICK_CHANNEL)] : events;
  }

  /** The chord line's own notes, where they are heard. */
  private guide(score: Score, span: Span): SoundingNote[] {
    if (this.guest()) return [];
    const { line, looping } = this.session();
    const sounds = (section: Section): boolean =>
      guideSounds(section, score, this.takes(), this.heard(), line, looping);
    return guideNotes(
      this.placed(),
      score,
      sounds,
      (section) => this.settingOf(section),
      this.takes(),
      this.heard(),
      span,
    );
  }

  /** What is being tried counts for the section in view. */
  private settingOf(section: Section): ChordSetting {
    return section.id === this.viewed()?.id ? this.chordSetting() : section.chordSetting;
  }

  private guideInstrument(): Instrument {
    return instrumentOf(GUIDE_INSTRUMENTS[this.chordSetting().family]);
  }

  /** Switches what one channel plays from the next bar, beat or loop start on, on the exact frame. */
  private requeue(channel: number): void {
    const score = this.score();
    if (!score || this.passes.length === 0) return;
    const moment = this.switchMoment(score, this.session().switchAt);
    if (!moment) return;
    const { pass, tick } = moment;
    const from: Pass = { ...pass, frame: frameAt(pass, tick), from: tick };
    const later = this.passes.filter((other) => other.frame > pass.frame);
    const release = { frame: from.frame, kind: EVENT.release, channel, a: 0, b: 0 };
    const events = [
      release,
      ...this.events(score, from, channel, true),
      ...later.flatMap((other) => this.events(score, other, channel, false)),
    ];
    this.engine.send({ kind: 'switch', channel, frame: from.frame, events: pack(events) });
  }

  /** The next bar line (or beat, or start of the loop) that can still be reached in time. */
  private switchMoment(score: Score, switchAt: SwitchAt): { pass: Pass; tick: Ticks } | null {
    const soonest = this.engine.frame + Math.round(MARGIN_SECONDS * this.engine.sampleRate);
    const lines = barLines(score, this.placed());
    const beats = (line: Ticks): Ticks[] =>
      beatsOf(groundAt(score, line, this.placed()).metre).map(({ at }) => line + at);
    const places = { top: [], beat: lines.flatMap(beats), bar: lines }[switchAt];
    for (const pass of this.passes) {
      const tick = endFrame(pass) > soonest ? nextMoment(pass, places, soonest) : null;
      if (tick !== null) return { pass, tick };
    }
    const last = this.passes.at(-1);
    return last ? { pass: last, tick: last.to } : null;
  }

  private rememberContents(score: Score): void {
    const { line, looping } = this.session();
    const [takes, heard] = [this.takes(), this.heard()];
    const guideIn = (section: Section): readonly Note[] | null =>
      guideSounds(section, score, takes, heard, line, looping)
        ? guideLine(score, section, takes, heard, this.settingOf(section))
        : null;
    this.queuedContents = contentsOf(score, this.placed(), takes, heard, guideIn);
  }

  /** Compares what is queued with what should sound and switches the parts that differ. */
  private follow(score: Score): void {
    if (!this.playing()) return;
    const before = this.queuedContents;
    this.rememberContents(score);
    if (lostParts(before, this.queuedContents)) {
      this.reshape();
      return;
    }
    const channels = channelsOf(score);
    const changed = new Set(
      changedParts(before, this.queuedContents).map((part) =>
        part === GUIDE ? GUIDE_CHANNEL : (channels.get(part) ?? -1),
      ),
    );
    if (changed.size === 0) return;
    const families = score.parts.map(({ instrument }) => instrumentOf(instrument).family);
    void this.engine.ensure([...families, this.guideInstrument().family]).then(() => {
      this.mix(score);
      if (this.playing())
        changed.forEach((channel) => {
          this.requeue(channel);
        });
    });
  }

  /** Music from elsewhere has parts of its own: hearing parts of the song alone must not silence it. */
  private mix(score: Score): void {
    // Who was heard alone and has gone silences nobody.
    if (this.engine.state().kind === 'ready')
      applyMix(
        this.engine,
        score,
        this.guest() ? [] : this.session().alone.filter((id) => score.parts.some((part) => part.id === id)),
        this.guideInstrument(),
      );
  }

  /** The tick that is heard now; null while nothing plays. */
  position(): Ticks | null {
    return this.playing() ? tickAt(this.passes, this.engine.heardFrame) : null;
  }

  /**
   * Calls back on every picture while playing, and once with null when it stops. For moving marks, outside change
   * detection.
   */
  watch(watcher: (tick: Ticks | null) => void): () => void {
    return this.positions.add(watcher);
  }

  /** The peak of a part since the last report, 0–1. */
  levelOf(part: string): number {
    const score = this.score();
    const channel = score ? channelsOf(score).get(part) : undefined;
    return channel === undefined ? 0 : (this.engine.levels[channel] ?? 0);
  }
}

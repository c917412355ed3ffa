import { computed, effect, inject, Injectable, linkedSignal, signal, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import { groundOf } from '@fendro/core/song/ground';
import type { Music } from '@fendro/core/song/resolve';
import type { ChordSetting, Score, Section, LineId, PartId } from '@fendro/core/song/schema';
import {
  barLines,
  beatLines,
  clicks,
  courseFrom,
  groundAt,
  loopCourse,
  tempoOf,
  type Course,
  type Span,
} from '@fendro/core/sounding/course';
import { instrumentOf, type Family } from '@fendro/core/sounding/instruments';
import { perform, pickUpOf, type Performance } from '@fendro/core/sounding/performance';
import { chordInstrument, voicesOf } from '@fendro/core/sounding/setup';
import { barTicks } from '@fendro/core/theory/metre';
import type { Ticks } from '@fendro/core/theory/units';
import { selectChordSetting, selectLine, selectSection, selectSession, selectSong } from '../store/selectors';
import { chordsGuide } from './chord-guide';
import { changedLines, contentsOf, goneLines, type Contents } from './contents';
import { SoundEngine } from './engine';
import { applyMix } from './mix';
import { PassQueue } from './pass-queue';
import { PlayedMusic } from './played-music';
import { PositionWatch } from './position-watch';
import { clickEvents, performedEvents, type Pass, type Queued } from './schedule';
import { Standstill } from './standstill';
import { CLICK_STRIP, stripsOf, type Strips } from './strips';

/** A pass that is longer is queued in pieces. */
const LONGEST_PASS_BARS = 16;
const LOOK_EVERY_MS = 200;

/** The transport: plays the song or a loop, follows every change at the bar, and tells where it is. */
@Injectable({ providedIn: 'root' })
export class Playback {
  private readonly store = inject(Store);
  private readonly engine = inject(SoundEngine);
  private readonly played = inject(PlayedMusic);
  readonly guest = this.played.guest;
  readonly triedInstrument = this.played.tried;
  private readonly music = this.played.music;
  private readonly placed = this.played.placed;
  readonly span = this.played.span;
  private readonly viewed = this.store.selectSignal(selectSection);
  private readonly chordSetting = this.store.selectSignal(selectChordSetting);
  private readonly session = this.store.selectSignal(selectSession);
  private readonly line = this.store.selectSignal(selectLine);
  private readonly song = this.store.selectSignal(selectSong);

  readonly playing = signal(false);
  /** True from the click until the first sound, when sounds must be loaded first. */
  readonly waiting = signal(false);
  readonly soundState = this.engine.state;
  private readonly queue = new PassQueue(this.engine, (pass, strip, chased) => this.events(pass, strip, chased));
  private loop: Span | null = null;
  /** Where the song was begun: nothing of what stands before is played. */
  private begun: Ticks = 0;
  private readonly standstill = new Standstill();
  private timer: ReturnType<typeof setInterval> | undefined;
  // A guest has no place in the song that is on the page.
  private readonly positions = new PositionWatch(this.playing, () => (this.guest() ? null : this.position()));
  /** What each line sounded when it was last queued; other contents mean a switch. */
  private queuedContents: Contents = new Map();
  private readonly strips = linkedSignal<Music | null, Strips>({
    source: this.music,
    computation: (music, before) => (music ? stripsOf(music.score, before?.value) : new Map()),
  });
  /** The strips that what is queued sounds on. */
  private queuedStrips: Strips = new Map();

  constructor() {
    const alone = computed(() => this.session().alone);
    const metronome = computed(() => this.session().metronome);
    effect(() => {
      this.music();
      alone();
      untracked(() => {
        this.mix();
      });
    });
    effect(() => {
      this.music();
      this.chordSetting();
      this.line();
      untracked(() => {
        this.follow();
      });
    });
    effect(() => {
      metronome();
      untracked(() => {
        if (this.playing())
          void this.engine.ensure(['drums']).then(() => {
            this.requeue(CLICK_STRIP);
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
    // These cannot be switched line by line: the place is kept, the queue made anew.
    const shape = computed(() => {
      const score = this.music()?.score;
      const looping = this.session().looping;
      const order = this.placed().map(({ section, length }) => {
        const { tempo, metre, swing, style, feel } = score ? groundOf(score, section) : {};
        return [section.id, length, tempo, metre, swing, style, feel];
      });
      return JSON.stringify([score?.energy, looping, looping ? this.span() : null, order]);
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

  async toggle(): Promise<void> {
    if (this.playing() || this.waiting()) this.stop();
    else await this.play();
  }

  /** Starts playing where it stands still; what plays goes on. */
  playIfStopped(from?: Ticks): void {
    if (!this.playing() && !this.waiting()) void this.play(from);
  }

  /** Plays the loop or, when looping is off, the song from the place in view. */
  async play(from?: Ticks): Promise<void> {
    const score = this.music()?.score;
    const span = this.span();
    if (!score || !span) return;
    this.waiting.set(true);
    const ready = (await this.engine.start()) && (await this.engine.ensure(this.neededFor(span)));
    if (!ready || !this.waiting()) {
      this.waiting.set(false);
      return;
    }
    // What plays later is fetched while the music goes on.
    void this.engine.ensure(score.parts.map(({ instrument }) => instrumentOf(instrument).family));
    this.waiting.set(false);
    this.mix();
    this.begin(from !== undefined && from >= span.from && from < span.to ? from : span.from);
  }

  /** The sounds that must be there before the first note. */
  private neededFor(span: Span): Family[] {
    const needed = this.familiesIn(span);
    return this.session().metronome ? [...needed, 'drums'] : needed;
  }

  /** The sounds that the first bars of a span need. */
  familiesIn(span: Span): Family[] {
    const music = this.music();
    if (!music) return [];
    const course = courseFrom(music.score, span.from, this.placed());
    const bar = barTicks(groundAt(course, span.from, music.score).metre);
    const soon = { from: span.from - bar, to: Math.min(span.to, span.from + LONGEST_PASS_BARS * bar) };
    const { setup, events } = this.performance(course, soon, () => true);
    const sounding = new Set(events.map(({ voice }) => voice));
    return setup.filter(({ id }) => sounding.has(id)).map(({ instrument }) => instrument.family);
  }

  /** What is played: the loop, round and round, or the song from where it was begun. */
  private course(score: Score): Course {
    return this.loop ? loopCourse(score, this.loop, this.placed()) : courseFrom(score, this.begun, this.placed());
  }

  private performance(course: Course, span: Span, only: (line: LineId) => boolean): Performance {
    const music = this.music();
    if (!music) return { setup: [], events: [], chase: [] };
    return perform({ music, course, span, only, chordLine: (section) => this.chordLine(section) });
  }

  /** Starts anew at a tick, with the pick-up of what begins there; whatever sounded is released. */
  private begin(from: Ticks): void {
    const music = this.music();
    const span = this.span();
    if (!music || !span) return;
    this.engine.stop();
    this.loop = this.session().looping ? span : null;
    this.begun = from;
    this.rememberContents();
    const course = this.course(music.score);
    const [first] = course;
    const alone = this.alone(music.score);
    const sounds = ({ id, muted }: { id: string; muted: boolean }): boolean =>
      !muted && (alone.length === 0 || alone.includes(id));
    const lead = first && from === first.start + first.part.from ? pickUpOf(music, course, sounds) : 0;
    this.queue.begin(this.passFrom(music.score, from - lead, span.to));
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
    const [score, span, tick] = [this.music()?.score, this.span(), this.position()];
    if (!score || !span) return;
    const moment = this.queue.momentFor(barLines(this.course(score)));
    this.loop = this.session().looping ? span : null;
    if (!moment || tick === null) {
      this.begin(span.from);
      return;
    }
    const inside = moment.tick >= span.from && moment.tick < span.to;
    const from = inside ? moment.tick : span.from;
    this.begun = inside ? 0 : span.from;
    this.rememberContents();
    this.queue.replaceFrom(moment, this.passFrom(score, from, span.to));
    this.fill();
  }

  stop(): void {
    clearInterval(this.timer);
    this.waiting.set(false);
    this.playing.set(false);
    this.engine.stop();
    this.queue.clear();
    this.positions.tell(null);
  }

  /** A pass as long as may be queued at once. */
  private passFrom(score: Score, from: Ticks, to: Ticks): Omit<Pass, 'frame'> {
    const course = this.course(score);
    const longest = LONGEST_PASS_BARS * barTicks(groundAt(course, from, score).metre);
    return { from, to: Math.min(to, from + longest), tempo: tempoOf(course, score), rate: this.engine.sampleRate };
  }

  /** Keeps the present pass and the next one queued; ends the song after its last sound. */
  private fill(): void {
    const score = this.music()?.score;
    const { last } = this.queue;
    if (!score || !last) return;
    const now = this.engine.frame;
    if (this.standstill.sees(now)) {
      this.engine.giveUp('The sound stands still. Check that a device is connected, then press play again.');
      return;
    }
    this.queue.prune(now);
    if (last.frame > now) return;
    const end = this.loop?.to ?? this.songEnd(score);
    if (last.to < end) this.queue.add(this.passFrom(score, last.to, end));
    else if (this.loop) this.queue.add(this.passFrom(score, this.loop.from, this.loop.to));
    else if (now > this.queue.over + this.engine.sampleRate) this.stop();
  }

  private songEnd(score: Score): Ticks {
    return barLines(this.course(score)).at(-1) ?? 0;
  }

  /** Events of one pass, of all strips or one. */
  private events(pass: Pass, strip: number | null, chased: boolean): Queued[] {
    const score = this.music()?.score;
    if (!score) return [];
    const course = this.course(score);
    const strips = this.strips();
    const wanted = (line: LineId): boolean => strip === null || strips.get(line) === strip;
    const events = performedEvents(this.performance(course, pass, wanted), pass, strips, chased);
    const clicking = this.session().metronome && (strip === null || strip === CLICK_STRIP);
    return clicking ? [...events, ...clickEvents(clicks(course, pass), pass, CLICK_STRIP)] : events;
  }

  /** How the chords of a section sound by themselves; what is being tried counts for the section in view. */
  private chordLine(section: Section): ChordSetting | null {
    const music = this.music();
    const [line, { looping }] = [this.line(), this.session()];
    if (!music || this.guest() || !chordsGuide(music, section, line, looping)) return null;
    return section.id === this.viewed()?.id ? this.chordSetting() : section.chordSetting;
  }

  /** Switches what one strip plays from the next bar, beat or loop start on, on the exact frame. */
  private requeue(strip: number): void {
    const score = this.music()?.score;
    if (!score) return;
    const course = this.course(score);
    const places = { top: () => [], beat: () => beatLines(course), bar: () => barLines(course) };
    const moment = this.queue.momentFor(places[this.session().switchAt]());
    if (moment) this.queue.requeue(strip, moment);
  }

  private rememberContents(): void {
    const music = this.music();
    this.queuedStrips = this.strips();
    if (music) this.queuedContents = contentsOf(music, this.course(music.score), (section) => this.chordLine(section));
  }

  /** Compares what is queued with what should sound and switches the lines that differ. */
  private follow(): void {
    const score = this.music()?.score;
    if (!this.playing() || !score) return;
    const [before, had] = [this.queuedContents, this.queuedStrips];
    this.rememberContents();
    const [now, has] = [this.queuedContents, this.queuedStrips];
    const changed = [
      ...changedLines(before, now).flatMap((line) => has.get(line) ?? []),
      ...goneLines(before, now).flatMap((line) => had.get(line) ?? []),
    ];
    if (changed.length === 0) return;
    const families = score.parts.map(({ instrument }) => instrumentOf(instrument).family);
    void this.engine.ensure([...families, chordInstrument(this.chordSetting().family).family]).then(() => {
      this.mix();
      if (this.playing())
        changed.forEach((strip) => {
          this.requeue(strip);
        });
    });
  }

  /** The parts that are heard by themselves. Who was heard alone and has gone silences nobody. */
  private alone(score: Score): readonly string[] {
    // Music from elsewhere has parts of its own: hearing parts of the song alone must not silence it.
    if (this.guest()) return [];
    return this.session().alone.filter((id) => score.parts.some((part) => part.id === id));
  }

  private mix(): void {
    const score = this.music()?.score;
    if (!score || this.engine.state().kind !== 'ready') return;
    applyMix(
      this.engine,
      this.strips(),
      voicesOf(score, chordInstrument(this.chordSetting().family)),
      this.alone(score),
    );
  }

  /** The tick that is heard now, the first bar's start while its pick-up sounds; null while nothing plays. */
  position(): Ticks | null {
    const tick = this.playing() ? this.queue.tickAt(this.engine.heardFrame) : null;
    return tick === null ? null : Math.max(tick, this.loop?.from ?? this.begun);
  }

  /**
   * Calls back on every picture while playing, and once with null when it stops. For moving marks, outside change
   * detection.
   */
  watch(watcher: (tick: Ticks | null) => void): () => void {
    return this.positions.add(watcher);
  }

  /** The peak of a part since the last report, 0–1. */
  levelOf(part: PartId): number {
    const strip = this.strips().get(part);
    return strip === undefined ? 0 : (this.engine.levels[strip] ?? 0);
  }
}

import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import { groundOf } from '@fendro/core/song/ground';
import { instrumentOf } from '@fendro/core/sounding/instruments';
import type { Span } from '@fendro/core/sounding/course';
import { chordInstrument, voicesOf } from '@fendro/core/sounding/setup';
import type { Score } from '@fendro/core/song/schema';
import type { Ticks } from '@fendro/core/theory/units';
import { selectChordSetting, selectLine } from '../store/selectors';
import { SessionActions, sessionFeature } from '../store/session';
import { songFeature } from '../store/song.reducer';
import { changedLines, goneLines, type Contents } from './contents';
import { SoundEngine } from './engine';
import { Mixer } from './mixer';
import { JOIN_SECONDS, paced, type Pace } from './pace';
import { PassQueue } from './pass-queue';
import { Passes, type LivePlace } from './passes';
import { PlayedMusic } from './played-music';
import { PositionWatch, type Watcher } from './position-watch';
import { Standstill } from './standstill';
import { endFrame, type Pass, type PlayedMoment } from './schedule';
import { CLICK_STRIP, stripsFor, type Strips } from './strips';

const LOOK_EVERY_MS = 200;

/** The transport: plays the song or a loop, follows every change at the bar, and tells where it is. */
@Injectable({ providedIn: 'root' })
export class Playback {
  private readonly store = inject(Store);
  private readonly engine = inject(SoundEngine);
  private readonly mixer = inject(Mixer);
  private readonly passes = inject(Passes);
  private readonly played = inject(PlayedMusic);
  readonly guest = this.played.guest;
  readonly triedInstrument = this.played.tried;
  readonly span = this.played.span;
  private readonly music = this.played.music;
  private readonly chordSetting = this.store.selectSignal(selectChordSetting);
  private readonly looping = this.store.selectSignal(sessionFeature.selectLooping);
  private readonly metronome = this.store.selectSignal(sessionFeature.selectMetronome);
  private readonly line = this.store.selectSignal(selectLine);
  private readonly song = this.store.selectSignal(songFeature.selectOpen);
  private readonly told = this.store.selectSignal(sessionFeature.selectPasses);

  readonly playing = signal(false);
  /** True from the click until the first sound, when sounds must be loaded first. */
  readonly waiting = signal(false);
  readonly soundState = this.engine.state;
  private readonly queue = new PassQueue(this.engine, (...wish) => this.passes.events(...wish));
  private readonly standstill = new Standstill();
  /** How often playing has begun anew. */
  readonly beginnings = signal(0);
  /** The tempo of another's clock that is followed, in BPM; null where none is. */
  readonly ledTempo = this.passes.ledTempo.asReadonly();
  private pace: Pace | null = null;
  private timer: ReturnType<typeof setInterval> | undefined;
  // A guest has no place in the song that is on the page.
  private readonly positions = new PositionWatch(this.playing, (ahead) => (this.guest() ? null : this.position(ahead)));
  /** What each line sounded when it was last queued, and on which strips. */
  private queuedContents: Contents = new Map();
  private queuedStrips: Strips = new Map();

  constructor() {
    this.positions.add(() => {
      this.tellPass();
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
      this.metronome();
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
    effect(() => {
      this.song();
      // Another song begins in silence.
      untracked(() => {
        if (this.playing() || this.waiting()) this.stop();
      });
    });
    this.reshapeWhenNeeded();
  }

  /** What cannot be switched line by line keeps the place and makes the queue anew. */
  private reshapeWhenNeeded(): void {
    const shape = computed(() => {
      const score = this.music()?.score;
      const looping = this.looping();
      const order = this.played.placed().map(({ section, length }) => {
        const { tempo, metre, swing, style, feel } = score ? groundOf(score, section) : {};
        return [length, tempo, section.tempos, metre, swing, style, feel];
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

  /**
   * Plays the loop or, when looping is off, the song from the place in view.
   *
   * @param countIn  bars that are counted before
   */
  async play(from?: Ticks, countIn = 0): Promise<void> {
    const score = this.music()?.score;
    const span = this.span();
    if (!score || !span) return;
    if (!(await this.ready(score, span, countIn > 0))) return;
    this.begin(from !== undefined && from >= span.from && from < span.to ? from : span.from, countIn);
  }

  /** Has the sounds of a span at hand. @returns false where sound cannot start, or nobody waits for it any more */
  private async ready(score: Score, span: Span, counts = false): Promise<boolean> {
    this.waiting.set(true);
    const families = [...this.passes.familiesIn(span), ...(counts ? (['drums'] as const) : [])];
    const there = (await this.engine.start()) && (await this.engine.ensure(families)) && this.waiting();
    this.waiting.set(false);
    if (!there) return false;
    // What plays later is fetched while the music goes on.
    void this.engine.ensure(score.parts.map(({ instrument }) => instrumentOf(instrument).family));
    this.mixer.apply();
    return true;
  }

  /** Starts anew at a tick, with the pick-up of what begins there; whatever sounded is released. */
  private begin(from: Ticks, countIn = 0): void {
    const [music, span] = [this.music(), this.span()];
    if (!music || !span) return;
    this.engine.stop();
    this.ownPace();
    this.passes.from(from);
    this.rememberContents();
    this.queue.begin(this.passes.opening(music, from, span.to), this.passes.countIn(music.score, from, countIn));
    this.begun();
  }

  /**
   * Plays along with another's clock from where it is: the loop, counted from its start, or the song.
   *
   * @returns false where there is nothing to play there, or sound cannot start
   */
  async playWith(pace: Pace): Promise<boolean> {
    const [score, span] = [this.music()?.score, this.span()];
    return score !== undefined && span !== null && (await this.ready(score, span)) && this.join(pace);
  }

  /** Begins where another's clock will be in a moment. */
  private join(pace: Pace): boolean {
    const [score, span] = [this.music()?.score, this.span()];
    const frame = this.engine.frame + Math.round(JOIN_SECONDS * this.engine.sampleRate);
    const led = Math.max(0, Math.round(pace.tickAt(this.engine.heardAt(frame))));
    const from = span && this.looping() ? span.from + (led % (span.to - span.from)) : led;
    const end = this.looping() ? span?.to : this.passes.barLines().at(-1);
    if (!score || end === undefined || from >= end) return false;
    this.engine.stop();
    this.pace = pace;
    this.passes.ledTempo.set(pace.tempo());
    this.passes.from(from);
    this.rememberContents();
    const pass = { ...this.passes.pass(score, from), led };
    this.queue.begin(paced(pass, pace, this.engine.heardAt(frame)) ?? pass, undefined, frame);
    this.begun();
    return true;
  }

  /** What is queued begins to be played. */
  private begun(): void {
    this.beginnings.update((count) => count + 1);
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
    const moment = this.queue.momentFor(this.passes.barLines());
    if (this.pace) {
      if (!this.join(this.pace)) this.stop();
      return;
    }
    if (!moment || tick === null) {
      this.begin(span.from);
      return;
    }
    const inside = moment.tick >= span.from && moment.tick < span.to;
    // What goes on by itself goes on; it begins again where play does.
    if (inside) this.passes.from(0, moment.pass.round);
    else this.passes.from(span.from);
    this.rememberContents();
    this.queue.replaceFrom(moment, this.passes.pass(score, inside ? moment.tick : span.from, span.to));
    this.fill();
  }

  /** Follows no other clock any more. */
  private ownPace(): void {
    this.pace = null;
    this.passes.ledTempo.set(null);
  }

  stop(): void {
    clearInterval(this.timer);
    this.ownPace();
    this.waiting.set(false);
    this.playing.set(false);
    this.engine.stop();
    this.mixer.settle();
    this.queue.clear();
    this.positions.stop();
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
    const next = this.next(score, last);
    if (next) this.queue.add(next);
    else if (now > this.queue.over + this.engine.sampleRate) this.stop();
  }

  /** What comes after a pass; where another's clock is followed, at the tempo at which it is met. */
  private next(score: Score, last: Pass): Omit<Pass, 'frame'> | null {
    const after = this.passes.after(score, last);
    const { pace } = this;
    if (!after || !pace || last.led === undefined) return after;
    this.passes.ledTempo.set(pace.tempo());
    const next = paced({ ...after, led: last.led + last.to - last.from }, pace, this.engine.heardAt(endFrame(last)));
    // Whoever jumped away is joined where it is now.
    if (!next) this.join(pace);
    return next;
  }

  /** Switches what one strip plays from the next bar, beat or loop start on, on the exact frame. */
  private requeue(strip: number): void {
    const moment = this.queue.momentFor(this.passes.moments());
    if (moment) this.queue.requeue(strip, moment);
  }

  private rememberContents(): void {
    this.queuedStrips = this.mixer.strips();
    this.queuedContents = this.passes.contents();
  }

  /** Compares what is queued with what should sound and switches the lines that differ. */
  private follow(): void {
    const score = this.music()?.score;
    if (!this.playing() || !score) return;
    const [before, had] = [this.queuedContents, this.queuedStrips];
    this.rememberContents();
    const [now, has] = [this.queuedContents, this.queuedStrips];
    const changed = [
      ...changedLines(before, now).flatMap((line) => [...new Set([...stripsFor(has, line), ...stripsFor(had, line)])]),
      ...goneLines(before, now).flatMap((line) => stripsFor(had, line)),
    ];
    if (changed.length === 0) return;
    const voices = voicesOf(score, chordInstrument(this.chordSetting().family));
    void this.engine.ensure(voices.map(({ instrument }) => instrument.family)).then(() => {
      this.mixer.apply();
      if (this.playing())
        changed.forEach((strip) => {
          this.requeue(strip);
        });
    });
  }

  /**
   * The tick that is heard, the first bar's start while its pick-up sounds; null while nothing plays.
   *
   * @param ahead  how long from now, in ms
   */
  position(ahead = 0): Ticks | null {
    const moment = this.moment(ahead);
    return moment === null ? null : Math.max(moment.tick, this.passes.start);
  }

  private moment(ahead: number): PlayedMoment | null {
    const { heardFrame, sampleRate } = this.engine;
    return this.playing() ? this.queue.momentAt(heardFrame + (ahead / 1000) * sampleRate) : null;
  }

  /**
   * Where in the song what is heard lies; null while nothing plays, or while it is counted in.
   *
   * @param ahead  how long from now, in ms
   */
  placeAt(ahead = 0): LivePlace | null {
    const moment = this.guest() ? null : this.moment(ahead);
    return moment && this.passes.placeAt(moment);
  }

  /** Tells when a section begins to sound once more. */
  private tellPass(): void {
    const moment = this.guest() ? null : this.moment(0);
    const sounding = moment && this.passes.soundingAt(moment);
    if (sounding && sounding.pass !== this.told()[sounding.section])
      this.store.dispatch(SessionActions.passBegun(sounding));
  }

  /** What has been queued, in its order, with what was played last. */
  get queued(): readonly Pass[] {
    return this.queue.all;
  }

  /** Calls back some times a second while playing, and once with null when it stops: for what moves, outside change detection. */
  watch(watcher: Watcher): () => void {
    return this.positions.add(watcher);
  }
}

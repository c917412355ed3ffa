import { inject, Injectable, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import type { Music } from '@fendro/core/song/resolve';
import type { ChordSetting, Ground, LineId, Score, Section, SectionId } from '@fendro/core/song/schema';
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
import type { Family } from '@fendro/core/sounding/instruments';
import { perform, pickUpOf, type Performance } from '@fendro/core/sounding/performance';
import type { LiveMoment } from '@fendro/core/live/capture';
import { secondsPerTick, tempoMap } from '@fendro/core/sounding/tempo-map';
import { barTicks, beatsOf } from '@fendro/core/theory/metre';
import { range, type Ticks } from '@fendro/core/theory/units';
import { selectChordSetting, selectLine, selectSection } from '../store/selectors';
import { sessionFeature } from '../store/session';
import { chordsGuide } from './chord-guide';
import { contentsOf, type Contents } from './contents';
import { SoundEngine } from './engine';
import { Mixer } from './mixer';
import type { CountIn } from './pass-queue';
import { PlayedMusic } from './played-music';
import { EVENT, EXPRESSION } from '../../worklets/protocol';
import { LevelMatch } from './level-match';
import {
  clickEvents,
  frameAt,
  LONGEST_PASS_BARS,
  performedEvents,
  type Pass,
  type PlayedMoment,
  type Queued,
} from './schedule';
import { CLICK_STRIP, stripsFor, type Strips } from './strips';

/** A place in the music, and what holds there. */
export type LivePlace = LiveMoment & { readonly ground: Ground };

/** Where another's clock is followed, each piece of a pass meets it anew. */
const LONGEST_LED_BARS = 2;

/** What there is to play: the loop, round and round, or the song from where it was begun, in passes with their events. */
@Injectable({ providedIn: 'root' })
export class Passes {
  private readonly store = inject(Store);
  private readonly engine = inject(SoundEngine);
  private readonly mixer = inject(Mixer);
  private readonly played = inject(PlayedMusic);
  private readonly levels = inject(LevelMatch);
  private readonly viewed = this.store.selectSignal(selectSection);
  private readonly chordSetting = this.store.selectSignal(selectChordSetting);
  private readonly line = this.store.selectSignal(selectLine);
  private readonly looping = this.store.selectSignal(sessionFeature.selectLooping);
  private readonly metronome = this.store.selectSignal(sessionFeature.selectMetronome);
  private readonly switchAt = this.store.selectSignal(sessionFeature.selectSwitchAt);
  private readonly running = this.store.selectSignal(sessionFeature.selectRunning);
  /** The tempo of another's clock that the music goes by, in BPM; null where it goes by its own. */
  readonly ledTempo = signal<number | null>(null);
  private loop: Span | null = null;
  /** Where the song was begun: nothing of what stands before is played. */
  private begun: Ticks = 0;
  /** How often the loop has come round since play was pressed. */
  private round = 0;

  /**
   * Plays the loop, or the song from a tick on.
   *
   * @param round  how often the loop has come round, where one plays on
   */
  from(begun: Ticks, round = 0): void {
    this.loop = this.looping() ? this.played.span() : null;
    this.begun = begun;
    this.round = this.loop ? round : 0;
  }

  /** The first tick that is played. */
  get start(): Ticks {
    return this.loop?.from ?? this.begun;
  }

  private course(): Course {
    const score = this.played.music()?.score;
    if (!score) return [];
    const placed = this.played.placed();
    return this.loop ? loopCourse(score, this.loop, placed) : courseFrom(score, this.begun, placed);
  }

  /** Which section sounds at a moment, and how often it was played before; null where none does. */
  soundingAt({ tick, round }: PlayedMoment): { readonly section: SectionId; readonly pass: number } | null {
    const passage = this.course().find(({ start, part }) => start + part.from <= tick && tick < start + part.to);
    return passage ? { section: passage.section.id, pass: passage.pass + round } : null;
  }

  /** Where in the music a moment lies; null where none sounds. */
  placeAt({ tick, round }: PlayedMoment): LivePlace | null {
    const passage = this.course().find(({ start, part }) => start + part.from <= tick && tick < start + part.to);
    const occurrence = passage?.place?.id;
    if (!passage || occurrence === undefined) return null;
    const ground = { ...passage.ground, tempo: this.ledTempo() ?? passage.ground.tempo };
    return { section: passage.section.id, occurrence, round, at: tick - passage.start, ground };
  }

  /**
   * Bars that are counted before what begins at a tick, in its metre and tempo.
   *
   * @param bars  0 where none is counted
   */
  countIn(score: Score, from: Ticks, bars: number): CountIn {
    const { metre, tempo } = groundAt(this.course(), from, score);
    const rate = this.engine.sampleRate;
    const bar = barTicks(metre);
    const to = bars * bar;
    const even = tempoMap([{ start: 0, end: Math.max(1, to), tempo }]);
    const beats = range(bars).flatMap((line) =>
      beatsOf(metre).map(({ at }, beat) => ({ at: line * bar + at, strong: beat === 0 })),
    );
    return {
      seconds: to * secondsPerTick(tempo),
      clicks: clickEvents(beats, { frame: 0, from: 0, to, tempo: even, rate, round: 0 }, CLICK_STRIP),
    };
  }

  /** The end of the loop or of the song. */
  private end(): Ticks {
    return this.loop?.to ?? this.barLines().at(-1) ?? 0;
  }

  barLines(): readonly Ticks[] {
    return barLines(this.course());
  }

  /** Where another take may come in, besides the start of a pass. */
  moments(): readonly Ticks[] {
    const course = this.course();
    // Takes that come in by themselves come in on the bar line that they are sent for.
    const at = this.running() === null ? this.switchAt() : 'bar';
    return { top: () => [], beat: () => beatLines(course), bar: () => barLines(course) }[at]();
  }

  /** A pass as long as may be queued at once. */
  pass(score: Score, from: Ticks, to = this.end(), round = this.round): Omit<Pass, 'frame'> {
    const course = this.course();
    const bars = this.ledTempo() === null ? LONGEST_PASS_BARS : LONGEST_LED_BARS;
    const longest = bars * barTicks(groundAt(course, from, score).metre);
    return {
      from,
      to: Math.min(to, from + longest),
      tempo: tempoOf(course, score),
      rate: this.engine.sampleRate,
      round,
    };
  }

  /** What begins at a tick, with its pick-up. */
  opening(music: Music, from: Ticks, to: Ticks): Omit<Pass, 'frame'> {
    const course = this.course();
    const [first] = course;
    const begins = first !== undefined && from === first.start + first.part.from;
    return this.pass(music.score, from - (begins ? pickUpOf(music, course, this.mixer.sounds(music.score)) : 0), to);
  }

  /** The pass after one that is over; null at the end of the song. */
  after(score: Score, last: Pick<Pass, 'to' | 'round'>): Omit<Pass, 'frame'> | null {
    if (last.to < this.end()) return this.pass(score, last.to);
    if (!this.loop) return null;
    this.round = last.round + 1;
    return this.pass(score, this.loop.from);
  }

  private performance(course: Course, span: Span, only: (line: LineId) => boolean, round = 0): Performance {
    const music = this.played.music();
    if (!music) return { setup: [], events: [], chase: [] };
    return perform({ music, course, span, only, chordLine: (section) => this.chordLine(section), round });
  }

  /** Events of one pass, of all strips or one. */
  events(pass: Pass, strip: number | null, chased: boolean): Queued[] {
    const course = this.course();
    const strips = this.mixer.strips();
    const wanted = (line: LineId): boolean => strip === null || stripsFor(strips, line).includes(strip);
    const asked: Strips = strip === null ? strips : new Map([...strips].filter(([, own]) => own === strip));
    const performed = performedEvents(this.performance(course, pass, wanted, pass.round), pass, asked, chased);
    const events = this.atLevel(performed, strips);
    // Where a compared take comes in, it comes in at its own level.
    const matched = chased ? this.matched(pass, asked) : [];
    const clicking = this.metronome() && (strip === null || strip === CLICK_STRIP);
    return [...matched, ...events, ...(clicking ? clickEvents(clicks(course, pass), pass, CLICK_STRIP) : [])];
  }

  /** Swells of a part that is compared, at the level at which it is compared. */
  private atLevel(events: readonly Queued[], strips: Strips): readonly Queued[] {
    const expression = this.levels.expression();
    if (!expression) return events;
    const own = stripsFor(strips, expression.part);
    return events.map((event) =>
      event.kind === EVENT.controller && own.includes(event.channel) && event.a === EXPRESSION
        ? { ...event, b: Math.round((event.b * expression.value) / 127) }
        : event,
    );
  }

  private matched(pass: Pass, strips: Strips): Queued[] {
    const expression = this.levels.expression();
    if (!expression) return [];
    const frame = frameAt(pass, pass.from);
    return stripsFor(strips, expression.part).map((channel) => ({
      frame,
      kind: EVENT.controller,
      channel,
      a: EXPRESSION,
      b: expression.value,
    }));
  }

  /** What each line sounds; other contents mean a switch. */
  contents(): Contents {
    const music = this.played.music();
    return music ? contentsOf(music, this.course(), (section) => this.chordLine(section)) : new Map();
  }

  /** How the chords of a section sound by themselves; what is being tried counts for the section in view. */
  private chordLine(section: Section): ChordSetting | null {
    const music = this.played.music();
    if (!music || this.played.guest() || !chordsGuide(music, section, this.line(), this.looping())) return null;
    return section.id === this.viewed()?.id ? this.chordSetting() : section.chordSetting;
  }

  /** The sounds that the first bars of a span need. */
  familiesIn(span: Span): Family[] {
    const music = this.played.music();
    if (!music) return [];
    const course = courseFrom(music.score, span.from, this.played.placed());
    const bar = barTicks(groundAt(course, span.from, music.score).metre);
    const soon = { from: span.from - bar, to: Math.min(span.to, span.from + LONGEST_PASS_BARS * bar) };
    const { setup, events } = this.performance(course, soon, () => true);
    const sounding = new Set(events.map(({ voice }) => voice));
    const needed = setup.filter(({ id }) => sounding.has(id)).map(({ instrument }) => instrument.family);
    return this.metronome() ? [...needed, 'drums'] : needed;
  }
}

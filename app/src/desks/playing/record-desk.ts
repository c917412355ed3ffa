import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import { curvesOf, since, type LiveMoment, type PlayedNote } from '@fendro/core/live/capture';
import { foundPulse } from '@fendro/core/live/pulse';
import { freelyPlaced, roundsOf, type PlacedNote, type Round } from '@fendro/core/live/rounds';
import { groundOf } from '@fendro/core/song/ground';
import { sectionOf, sectionTicks } from '@fendro/core/song/resolve';
import { HARMONY, type LineId, type Take } from '@fendro/core/song/schema';
import { secondsPerTick } from '@fendro/core/sounding/tempo-map';
import { clamp, type Ticks } from '@fendro/core/theory/units';
import { Mixer } from '../../sound/mixer';
import { Playback } from '../../sound/playback';
import { News } from '../../store/news';
import { Notices } from '../../store/notices';
import { selectBar, selectLine, selectMusic, selectSection, selectView } from '../../store/selectors';
import { SessionActions, sessionFeature } from '../../store/session';
import { Undecided } from '../undecided';
import { Captured } from './captured';
import { PlayedTakes, type Stretch } from './played-takes';
import type { PlayActs } from './play-port';
import { RecordingSettings } from './record-settings';

/** Silence after which what is played freely begins anew, in seconds. */
const PAUSE_SECONDS = 8;

/** No hand is further ahead of the music than this, in ms. */
const SOON_MS = 500;

type Ended = PlayedNote & { readonly to: number };

/** One recording, from when it was begun. */
interface Recording {
  readonly line: LineId;
  readonly stretch: Stretch;
  /** In seconds of the page's clock. */
  readonly from: number;
  readonly clicked: boolean;
  /** Where the music was when it was begun; null where it was counted in. */
  readonly begun: LiveMoment | null;
  /** Rounds that are takes already. */
  readonly made: ReadonlySet<string>;
}

const roundName = ({ occurrence, round }: Pick<LiveMoment, 'occurrence' | 'round'>): string => `${occurrence} ${round}`;

const now = (): number => performance.now() / 1000;

/** Records what is played by hand, and makes takes of what was played though nothing was recorded. */
@Injectable({ providedIn: 'root' })
export class RecordDesk implements PlayActs {
  private readonly store = inject(Store);
  private readonly playback = inject(Playback);
  private readonly mixer = inject(Mixer);
  private readonly captured = inject(Captured);
  private readonly takes = inject(PlayedTakes);
  private readonly settings = inject(RecordingSettings);
  private readonly undecided = inject(Undecided);
  private readonly news = inject(News);
  private readonly notices = inject(Notices);
  private readonly music = this.store.selectSignal(selectMusic);
  private readonly section = this.store.selectSignal(selectSection);
  private readonly view = this.store.selectSignal(selectView);
  private readonly line = this.store.selectSignal(selectLine);
  private readonly bars = this.store.selectSignal(sessionFeature.selectBars);
  private readonly bar = this.store.selectSignal(selectBar);
  private readonly metronome = this.store.selectSignal(sessionFeature.selectMetronome);
  private readonly run = signal<Recording | null>(null);
  /** Where the music was when it was looked at last. */
  private here: LiveMoment | null = null;
  /** True until the first moment of what is recorded sounds. */
  readonly counting = signal(false);
  readonly recording = computed(() => this.run() !== null);
  /** What was played until then has been taken, as notes and as chords; in seconds of the page's clock. */
  private readonly taken = signal({ notes: 0, chords: 0 });
  readonly remembers = computed(() => {
    const [line, taken] = [this.line(), this.taken().notes];
    return this.captured.notes().some((note) => note.line === line && note.from > taken);
  });

  constructor() {
    this.playback.watch((position) => {
      if (position !== null) this.heard();
    });
    // Where nothing plays any more, nothing is recorded; another line in focus is not what was begun.
    const goes = computed(() => this.playback.playing() || this.playback.waiting());
    effect(() => {
      const over = !goes() || this.line() !== this.run()?.line;
      untracked(() => {
        if (this.run() && over) this.end();
      });
    });
  }

  record(): void {
    if (this.run()) this.end();
    else this.begin();
  }

  private begin(): void {
    if (this.undecided.told() || !this.section()) return;
    const { countIn, clicks, rounds } = this.settings.now();
    const bars = this.bars();
    this.here = null;
    const clicked = clicks && !this.metronome();
    if (clicked) this.store.dispatch(SessionActions.metronomeToggled());
    this.run.set({
      line: this.line(),
      stretch: bars && { from: bars.from * this.bar(), to: bars.to * this.bar() },
      from: now(),
      clicked,
      begun: this.playback.placeAt(),
      made: new Set(),
    });
    this.mixer.givesWay.set(rounds === 'over it' ? null : this.line());
    if (this.playback.playing()) {
      this.news.say('Recording');
      return;
    }
    this.counting.set(true);
    void this.playback.play(undefined, countIn);
    this.news.say(countIn === 0 ? 'Recording' : 'Counting in');
  }

  /** Ends the recording; the round that was begun becomes a take too. What plays goes on. */
  private end(): void {
    const run = this.run();
    if (!run) return;
    const made = this.finish(run, true);
    this.run.set(null);
    this.counting.set(false);
    this.mixer.givesWay.set(null);
    if (run.clicked && this.metronome()) this.store.dispatch(SessionActions.metronomeToggled());
    this.taken.set({ notes: now(), chords: this.line() === HARMONY ? now() : this.taken().chords });
    if (made.size === 0) this.notices.say('Nothing was played: arm the play desk, then play while it records.');
  }

  /** Called while the music moves: rounds that are over become takes. */
  private heard(): void {
    const run = this.run();
    this.here = this.playback.placeAt() ?? this.here;
    if (!run || this.playback.placeAt() === null) return;
    this.counting.set(false);
    const made = this.finish(run, false);
    if (made.size > run.made.size) this.run.set({ ...run, made });
  }

  /** @param all  whether the round that sounds now is over as well. @returns what has been made so far */
  private finish(run: Recording, all: boolean): ReadonlySet<string> {
    const here = this.playback.placeAt() ?? this.here;
    // What was struck a little early belongs to the round that comes: that one is not over either.
    const going = [here, this.playback.placeAt(SOON_MS)].map((place) => place && roundName(place));
    const rounds = roundsOf(this.placed(this.since(run.from, run.line)));
    const made = new Set(run.made);
    for (const round of rounds) {
      const name = roundName(round);
      if (made.has(name) || (!all && going.includes(name))) continue;
      made.add(name);
      const stretch = this.stretchOf(round, run, here);
      const take = this.takeOf(round, run.line, stretch, this.settings.now().rounds === 'over it');
      if (!take) continue;
      this.takes.hear([take]);
      this.news.say(`Recorded round ${round.round + 1}`);
    }
    return made;
  }

  /** What of a round is played anew: from where it was begun, to where it ended, in the bars that were selected. */
  private stretchOf(round: Round, { stretch, begun }: Recording, here: LiveMoment | null): Stretch {
    const score = this.music()?.score;
    const section = score && sectionOf(score, round.section);
    if (!section) return stretch;
    const { step } = this.settings.now();
    const name = roundName(round);
    const { from, to } = stretch ?? { from: 0, to: sectionTicks(score, section) };
    const line = (at: Ticks): Ticks => Math.floor(at / step) * step;
    return {
      from: begun && roundName(begun) === name ? clamp(line(begun.at), from, to - 1) : from,
      // The line that the last notes may be meant for belongs to it.
      to: here && roundName(here) === name ? clamp(line(here.at) + step + 1, from + 1, to) : to,
    };
  }

  /** Makes takes of what was played since the last ones; the last of them is heard. */
  take(): void {
    if (this.undecided.told()) return;
    const notes = this.lately(this.since(this.taken().notes, this.line()));
    this.takeRounds(notes, this.line());
    this.taken.update((taken) => ({ ...taken, notes: now() }));
  }

  takeChords(): void {
    if (this.undecided.told()) return;
    const notes = this.lately(this.since(this.taken().chords));
    this.takeRounds(notes, HARMONY);
    this.taken.update((taken) => ({ ...taken, chords: now() }));
  }

  /** What was played since a moment. @param line  who was played; whoever it was where nobody is named */
  private since(from: number, line?: LineId): readonly Ended[] {
    const notes = since(this.captured.notes(), from, now());
    return line === undefined ? notes : notes.filter((note) => note.line === line);
  }

  /** Where notes belong: to the music where it played, else freely since the last long pause. */
  private lately(notes: readonly Ended[]): { readonly notes: readonly PlacedNote[]; readonly tempo: number | null } {
    const [music, view] = [this.music(), this.view()];
    if (notes.at(-1)?.moment !== null || !music || !view) return { notes: this.placed(notes), tempo: null };
    const free = sinceThePause(notes.slice(notes.findLastIndex(({ moment }) => moment !== null) + 1));
    const onsets = free.map((note) => note.from);
    const { tempo, ticksAt } = foundPulse(onsets, groundOf(music.score, view.section).tempo);
    const place = {
      section: view.section.id,
      occurrence: view.occurrence.id,
      length: sectionTicks(music.score, view.section),
    };
    return { notes: freelyPlaced(free, ticksAt, place), tempo };
  }

  private takeRounds(
    { notes, tempo }: { readonly notes: readonly PlacedNote[]; readonly tempo: number | null },
    line: LineId,
  ): void {
    const takes = roundsOf(notes).flatMap((round) => this.takeOf(round, line, null, false) ?? []);
    for (const section of new Set(takes.map((take) => take.section)))
      this.takes.hear(takes.filter((take) => take.section === section));
    if (takes.length > 0) this.playback.playIfStopped();
    this.notices.say(sayTaken(takes, tempo, line === HARMONY));
  }

  private takeOf(round: Round, line: LineId, stretch: Stretch, over: boolean): Take | null {
    if (line === HARMONY) return this.takes.ofChords(round, stretch);
    const part = this.music()?.score.parts.find(({ id }) => id === line);
    return part ? this.takes.ofPart(round, part, stretch, over) : null;
  }

  /** Notes that were played to the music, with how long they lasted there. */
  private placed(notes: readonly Ended[]): readonly PlacedNote[] {
    const score = this.music()?.score;
    return notes.flatMap((note) => {
      const { moment } = note;
      const section = score && moment ? sectionOf(score, moment.section) : undefined;
      if (!score || !section || !moment) return [];
      const tick = secondsPerTick(this.playback.ledTempo() ?? groundOf(score, section).tempo);
      const ticksAt = (seconds: number): Ticks => Math.round((seconds - note.from) / tick);
      return [{ ...note, moment, duration: Math.max(1, ticksAt(note.to)), curves: curvesOf(note, ticksAt) }];
    });
  }
}

/** What was played after the last long silence. */
function sinceThePause(notes: readonly Ended[]): readonly Ended[] {
  const pauses = notes.slice(1).map((note, index) => note.from - (notes[index]?.to ?? note.from));
  return notes.slice(pauses.findLastIndex((pause) => pause > PAUSE_SECONDS) + 1);
}

function sayTaken(takes: readonly Take[], tempo: number | null, chords: boolean): string {
  if (takes.length === 0)
    return chords ? 'No chord was played lately: hold chords while you play.' : 'Nothing was played lately.';
  const what = chords ? 'Chords' : 'Notes';
  const count =
    takes.length === 1
      ? `${what} of what you played are a take`
      : `Each round you played is a take, ${takes.length} in all`;
  return `${count}${tempo === null ? '' : `, found at ${tempo} BPM`}. The last is heard: choose it, or go back with Escape.`;
}

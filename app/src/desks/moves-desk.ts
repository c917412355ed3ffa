import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import {
  drawMove,
  fadeOut,
  recordMove,
  standing,
  withoutMovesOf,
  type MoveKind,
  type Sample,
} from '@fendro/core/song/moves';
import { capitalised } from '@fendro/core/song/limits';
import { layOut } from '@fendro/core/song/resolve';
import type { OccurrenceId, Part, PartId, Score } from '@fendro/core/song/schema';
import { Mixer } from '../sound/mixer';
import { Playback } from '../sound/playback';
import { News } from '../store/news';
import { selectBar, selectOwnScore, selectPart, selectPlaced, selectView } from '../store/selectors';
import { ScoreActions } from '../store/song.actions';
import { sessionFeature } from '../store/session';

/** What the band over the running order shows and takes: the energy, the tempo, or how the part in focus moves. */
export type OrderLine = 'energy' | 'tempo' | MoveKind;

/** Those of the whole song. */
export const isOfSong = (line: OrderLine): line is 'energy' | 'tempo' => line === 'energy' || line === 'tempo';

/** “Level”. */
export const nameOfLine = (line: OrderLine): string => capitalised(line);

/** Over how many bars a song fades out where none are selected. */
const FADE_BARS = 4;

interface Recorded {
  readonly part: PartId;
  readonly kind: MoveKind;
  readonly samples: Map<number, number>;
}

/** Parts that move in the mix over the running order: drawn, recorded from the sliders while the music plays, faded. */
@Injectable({ providedIn: 'root' })
export class MovesDesk {
  private readonly store = inject(Store);
  private readonly playback = inject(Playback);
  private readonly mixer = inject(Mixer);
  private readonly news = inject(News);
  private readonly score = this.store.selectSignal(selectOwnScore);
  private readonly placed = this.store.selectSignal(selectPlaced);
  private readonly view = this.store.selectSignal(selectView);
  private readonly part = this.store.selectSignal(selectPart);
  private readonly bar = this.store.selectSignal(selectBar);
  private readonly bars = this.store.selectSignal(sessionFeature.selectBars);
  /** True while sliders are recorded as the music plays. */
  readonly recording = signal(false);
  readonly line = signal<OrderLine>('energy');
  private readonly taken = new Map<string, Recorded>();

  /** Where sliders were moved to while they are recorded. */
  private readonly held = signal<Readonly<Record<string, number>>>({});

  /** How a part stands as its slider shows it. */
  live(part: Part, kind: MoveKind): number {
    return this.held()[`${kind} ${part.id}`] ?? standing(part, kind);
  }

  readonly canFade = computed(() => this.part() !== null && this.view() !== null);

  constructor() {
    // What was recorded is the song's when the music stops.
    effect(() => {
      if (!this.playback.playing())
        untracked(() => {
          this.keep();
        });
    });
  }

  toggleRecording(): void {
    if (this.recording()) this.keep();
    this.recording.update((on) => !on);
    this.news.say(this.recording() ? 'Sliders are recorded while the music plays' : 'Sliders set the mix again');
  }

  /** Takes a slider as a move where that is recorded now. @returns whether it was */
  moved(part: Part, kind: MoveKind, value: number): boolean {
    const tick = this.recording() && this.playback.playing() ? this.playback.position() : null;
    if (tick === null) return false;
    const name = `${kind} ${part.id}`;
    const recorded = this.taken.get(name) ?? { part: part.id, kind, samples: new Map<number, number>() };
    recorded.samples.set(Math.round(tick), Math.round(value));
    this.taken.set(name, recorded);
    this.held.update((held) => ({ ...held, [name]: value }));
    this.mixer.move(part.id, kind, value);
    return true;
  }

  /** Writes what was recorded into the song, as one step. */
  private keep(): void {
    const score = this.score();
    const recorded = [...this.taken.values()];
    this.taken.clear();
    this.mixer.letGo();
    this.held.set({});
    if (!score || recorded.length === 0) return;
    const moved = recorded.reduce((song, { part, kind, samples }) => {
      const own = song.parts.find(({ id }) => id === part);
      const list = [...samples].map(([tick, value]): Sample => ({ tick, value })).sort((a, b) => a.tick - b.tick);
      return own ? recordMove(song, own, kind, list) : song;
    }, score);
    this.revise('record moves', moved);
    this.news.say('Recorded');
  }

  /** Draws how the part in focus moves in a place; no points let it stand as it does in the mix. */
  draw(place: OccurrenceId, kind: MoveKind, points: readonly { at: number; value: number }[], gesture?: string): void {
    const [score, part] = [this.score(), this.part()];
    if (score && part) this.revise(`draw the ${kind}`, drawMove(score, place, part.id, kind, points), gesture);
  }

  /** Fades the part in focus out over the selected bars, or over the last bars of the place in view. */
  fade(): void {
    const [score, view, part] = [this.score(), this.view(), this.part()];
    if (!score || !view || !part) return;
    const { from, to } = this.bars() ?? { from: Math.max(0, view.section.bars - FADE_BARS), to: view.section.bars };
    const name = `fade ${part.name} out`;
    this.revise(name, fadeOut(score, view.occurrence, [part], from * this.bar(), to * this.bar()));
    this.news.say(`${part.name} fades out in bars ${from + 1} to ${to}`);
  }

  /** Fades the whole band out over the last bars of the song. */
  fadeSong(): void {
    const score = this.score();
    const last = score && layOut(score).at(-1);
    if (!score || !last) return;
    const bar = last.length / last.section.bars;
    const from = Math.max(0, last.section.bars - FADE_BARS) * bar;
    this.revise('fade the song out', fadeOut(score, last.occurrence, score.parts, from, last.length));
    this.news.say('The song fades out');
  }

  /** Lets the part in focus stand as it does in the mix, wherever it moved. */
  clear(): void {
    const [score, part] = [this.score(), this.part()];
    if (!score || !part) return;
    const order = score.order.map((place) => withoutMovesOf(place, part.id));
    this.revise(`take the moves off ${part.name}`, { ...score, order });
    this.news.say(`${part.name} stands as in the mix`);
  }

  readonly moves = computed(() => {
    const part = this.part();
    return part !== null && this.placed().some(({ occurrence }) => occurrence.moves?.[part.id] !== undefined);
  });

  private revise(name: string, score: Score, gesture?: string): void {
    this.store.dispatch(
      ScoreActions.revised({ name, score, takes: [], released: [], ...(gesture === undefined ? {} : { gesture }) }),
    );
  }
}

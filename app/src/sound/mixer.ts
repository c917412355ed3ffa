import { computed, effect, inject, Injectable, linkedSignal, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import type { Music } from '@fendro/core/song/resolve';
import type { MoveKind } from '@fendro/core/song/moves';
import type { PartId, Score } from '@fendro/core/song/schema';
import { chordInstrument, levelController, panController, voicesOf } from '@fendro/core/sounding/setup';
import { selectChordSetting } from '../store/selectors';
import { sessionFeature } from '../store/session';
import { SoundEngine } from './engine';
import { FULL, LevelMatch } from './level-match';
import { applyMix, LEVEL, PAN } from './mix';
import { PlayedMusic } from './played-music';
import { stripsOf, type Strips } from './strips';

/** The strips of what is played: who sounds on which, how loud, and how loud it was. */
@Injectable({ providedIn: 'root' })
export class Mixer {
  private readonly store = inject(Store);
  private readonly engine = inject(SoundEngine);
  private readonly played = inject(PlayedMusic);
  private readonly levels = inject(LevelMatch);
  private readonly chordSetting = this.store.selectSignal(selectChordSetting);
  private readonly alone = this.store.selectSignal(sessionFeature.selectAlone);
  readonly strips = linkedSignal<Music | null, Strips>({
    source: this.played.music,
    computation: (music, before) => (music ? stripsOf(music.score, before?.value) : new Map()),
  });
  private readonly family = computed(() => this.chordSetting().family);

  constructor() {
    let matched: PartId | null = null;
    // What was measured counts at once; a take that comes in later brings its level along.
    effect(() => {
      this.levels.decibels();
      const pair = this.levels.pair();
      untracked(() => {
        const expression = this.levels.expression();
        if (matched !== null && matched !== pair?.part) this.express(matched, FULL);
        matched = pair?.part ?? null;
        if (expression) this.express(expression.part, expression.value);
      });
    });
    effect(() => {
      this.played.music();
      this.alone();
      untracked(() => {
        this.apply();
      });
    });
  }

  private express(part: PartId, value: number): void {
    const strip = this.strips().get(part);
    if (strip !== undefined && this.engine.state().kind === 'ready') this.engine.expression(strip, value);
  }

  /** The parts that are heard by themselves. Who was heard alone and has gone silences nobody. */
  private aloneIn(score: Score): readonly string[] {
    // Music from elsewhere has parts of its own: hearing parts of the song alone must not silence it.
    if (this.played.guest()) return [];
    return this.alone().filter((id) => score.parts.some((part) => part.id === id));
  }

  /** True for parts that can be heard: neither muted nor silenced by others that are heard alone. */
  sounds(score: Score): (part: { readonly id: string; readonly muted: boolean }) => boolean {
    const alone = this.aloneIn(score);
    return ({ id, muted }) => !muted && (alone.length === 0 || alone.includes(id));
  }

  /** Sets instruments, levels and pans as the music says now. */
  apply(): void {
    const score = this.played.music()?.score;
    if (!score || this.engine.state().kind !== 'ready') return;
    const setup = voicesOf(score, chordInstrument(this.family()));
    const moving = new Set(score.order.flatMap(({ moves = {} }) => Object.keys(moves)));
    applyMix(this.engine, this.strips(), setup, this.aloneIn(score), (line) => moving.has(line));
  }

  /** Lets all parts stand as they do in the mix, wherever their moves left them. */
  settle(): void {
    this.engine.forgetControllers();
    this.apply();
  }

  /** Lets a part be heard at another level or pan, while it is moved by hand; the song is unchanged. */
  move(part: PartId, kind: MoveKind, value: number): void {
    const strip = this.strips().get(part);
    if (strip === undefined || this.engine.state().kind !== 'ready') return;
    if (kind === 'level') this.engine.moved(strip, LEVEL, levelController(value));
    else this.engine.moved(strip, PAN, panController(value));
  }

  /** The peak of a part since the last report, 0–1. */
  levelOf(part: PartId): number {
    const strip = this.strips().get(part);
    return strip === undefined ? 0 : (this.engine.levels[strip] ?? 0);
  }
}

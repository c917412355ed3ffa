import { computed, effect, inject, Injectable, linkedSignal, signal, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import type { Music } from '@fendro/core/song/resolve';
import { controlValue } from '@fendro/core/files/midi/midi-expression';
import type { MoveKind } from '@fendro/core/song/moves';
import type { LineId, PartId, Score } from '@fendro/core/song/schema';
import { chordInstrument, voicesOf, type Voice } from '@fendro/core/sounding/setup';
import { selectChordSetting } from '../store/selectors';
import { sessionFeature } from '../store/session';
import { SoundEngine } from './engine';
import { FULL, LevelMatch } from './level-match';
import { applyMix } from './mix';
import { PlayedMusic } from './played-music';
import { liveStripsOf, stripsFor, stripsOf, type Strips } from './strips';

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
  /** The line that is played by hand, on strips of its own; null where none is. */
  readonly live = signal<LineId | null>(null);
  /** The part that is silent while it is played anew by hand. */
  readonly givesWay = signal<LineId | null>(null);
  /** Lines that sound elsewhere, and not here. */
  readonly away = signal<ReadonlySet<LineId>>(new Set());
  /** What the line that is played by hand sounds on, and where. */
  readonly liveVoices = computed((): readonly Voice[] => {
    const score = this.played.music()?.score;
    return score ? this.voices(score).filter(({ line }) => line === this.live()) : [];
  });
  readonly liveStrips = computed((): Strips => liveStripsOf(this.liveVoices()));
  /** Controllers that are moved by hand. */
  private readonly gripped = new Map<string, { readonly strip: number; readonly controller: number }>();
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
      this.live();
      this.givesWay();
      this.away();
      untracked(() => {
        this.apply();
      });
    });
  }

  private readonly voices = (score: Score): readonly Voice[] => voicesOf(score, chordInstrument(this.family()));

  private express(part: PartId, value: number): void {
    if (this.engine.state().kind !== 'ready') return;
    for (const strip of stripsFor(this.strips(), part)) this.engine.expression(strip, value);
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
    const setup = this.voices(score);
    this.engine.master(score.master ?? 100);
    const moving = new Set(score.order.flatMap(({ moves = {} }) => Object.keys(moves)));
    const [gone, away] = [this.givesWay(), this.away()];
    const silent = ({ line }: Voice): boolean => line === gone || away.has(line);
    const heard = setup.map((voice) => (silent(voice) ? { ...voice, muted: true } : voice));
    applyMix(this.engine, this.strips(), heard, this.aloneIn(score), (line) => moving.has(line));
    // Hands are heard, whoever is quiet.
    const byHand = setup.map((voice) => ({ ...voice, muted: away.has(voice.line) }));
    applyMix(this.engine, this.liveStrips(), byHand, []);
  }

  /** Lets all parts stand as they do in the mix, wherever their moves left them. */
  settle(): void {
    this.engine.forgetControllers();
    this.apply();
  }

  /** Lets a part be heard as it is moved by hand; the song is unchanged. */
  move(part: PartId, kind: MoveKind, value: number): void {
    const score = this.played.music()?.score;
    if (!score || this.engine.state().kind !== 'ready') return;
    for (const { id, line, share } of voicesOf(score)) {
      const strip = this.strips().get(id);
      const own = kind === 'level' ? (value * share) / 100 : value;
      const said = controlValue({ control: kind, value: own }, null);
      if (line !== part || strip === undefined || said.kind !== 'controller') continue;
      const name = `${strip} ${said.controller}`;
      if (!this.gripped.has(name)) this.engine.grip(strip, said.controller, true);
      this.gripped.set(name, { strip, controller: said.controller });
      this.engine.moved(strip, said.controller, said.value);
    }
  }

  /** What was moved by hand goes by the music again. */
  letGo(): void {
    for (const { strip, controller } of this.gripped.values()) this.engine.grip(strip, controller, false);
    this.gripped.clear();
  }

  /** The peak of a part since the last report, 0–1. */
  levelOf(part: PartId): number {
    return Math.max(0, ...stripsFor(this.strips(), part).map((strip) => this.engine.levels[strip] ?? 0));
  }

  /** The peak of the whole mix since the last report, 0–1, and by how many dB it was turned down to stay there. */
  get whole(): { readonly level: number; readonly reduced: number } {
    const { levels, reduction } = this.engine;
    return { level: levels.at(-1) ?? 0, reduced: -20 * Math.log10(reduction) };
  }
}

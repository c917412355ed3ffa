import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import { own } from '@fendro/core/song/look-up';
import { sectionOf, soundingId } from '@fendro/core/song/resolve';
import type { PartId, SectionId, TakeId } from '@fendro/core/song/schema';
import { levelled } from '@fendro/core/sounding/loudness';
import { selectMusic } from '../store/selectors';
import { TakeLoudness } from './take-loudness';

/** Two takes of a part that are compared. */
export interface Pair {
  readonly section: SectionId;
  readonly part: PartId;
  readonly takes: readonly [TakeId, TakeId];
}

/** Full expression. */
export const FULL = 127;
/** The dB that lie between full expression and a tenth of it: it goes by the square, as General MIDI has it. */
const PER_TENTH = 40;

/** The value of MIDI's expression (controller 11) that turns a line down by so many dB. */
export const expressionFor = (decibels: number): number =>
  Math.max(1, Math.min(FULL, Math.round(FULL * 10 ** (decibels / PER_TENTH))));

/** Lets two takes be heard at the same level while they are compared: the louder one is turned down to the softer. */
@Injectable({ providedIn: 'root' })
export class LevelMatch {
  private readonly store = inject(Store);
  private readonly takes = inject(TakeLoudness);
  private readonly music = this.store.selectSignal(selectMusic);
  /** What is compared; null while nothing is. */
  readonly pair = signal<Pair | null>(null);
  /** How far each of the two is turned down, in dB. */
  readonly decibels = signal<ReadonlyMap<TakeId, number>>(new Map());

  constructor() {
    effect(() => {
      const pair = this.pair();
      untracked(() => {
        this.decibels.set(new Map());
        if (pair) void this.match(pair);
      });
    });
  }

  /** The expression of the part that is compared, as its sounding take wants it; null where nothing is matched. */
  readonly expression = computed((): { readonly part: PartId; readonly value: number } | null => {
    const [pair, music, decibels] = [this.pair(), this.music(), this.decibels()];
    const section = pair && music ? sectionOf(music.score, pair.section) : undefined;
    if (!pair || !music || !section) return null;
    const sounding = soundingId(section, pair.part, music.heard);
    return { part: pair.part, value: expressionFor(decibels.get(sounding ?? '') ?? 0) };
  });

  private async match(pair: Pair): Promise<void> {
    const [a, b] = await Promise.all(pair.takes.map((take) => this.loudness(pair, take)));
    if (this.pair() !== pair) return;
    const [first, second] = levelled(a ?? null, b ?? null);
    this.decibels.set(
      new Map([
        [pair.takes[0], first],
        [pair.takes[1], second],
      ]),
    );
  }

  /** How loud a take is by itself in its section. */
  private loudness({ section: id, part: line }: Pair, take: TakeId): Promise<number | null> {
    const music = this.music();
    const section = music ? sectionOf(music.score, id) : undefined;
    const part = music?.score.parts.find((candidate) => candidate.id === line);
    if (!music || !section || !part) return Promise.resolve(null);
    const heard = { ...music.heard, [id]: { ...own(music.heard, id), [line]: take } };
    return this.takes.of({ ...music, heard }, section, part);
  }
}

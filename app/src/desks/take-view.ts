import { computed, inject, Injectable, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { nameOf, verdictOf } from '@fendro/core/song/edit';
import { sectionOf } from '@fendro/core/song/resolve';
import { nameApart } from '@fendro/core/song/version-words';
import type { Take, TakeId, Verdict } from '@fendro/core/song/schema';
import { inTakeOrder, type TakeOrder } from '@fendro/core/study/take-order';
import {
  selectBar,
  selectEveryNumber,
  selectEveryTake,
  selectLineNumbers,
  selectLineTakes,
  selectMusic,
  selectScore,
  selectSounding,
  selectTakes,
} from '../store/selectors';
import { madeOf } from '../ui/take-words';
import { wordsIn } from '../ui/words';

/** How the takes of the line in focus are looked at: what they are called, which are listed, and in which order. */
@Injectable({ providedIn: 'root' })
export class TakeView {
  private readonly store = inject(Store);
  private readonly score = this.store.selectSignal(selectScore);
  private readonly ledger = this.store.selectSignal(selectTakes);
  private readonly music = this.store.selectSignal(selectMusic);
  private readonly here = this.store.selectSignal(selectLineTakes);
  private readonly inEvery = this.store.selectSignal(selectEveryTake);
  private readonly hereNumbers = this.store.selectSignal(selectLineNumbers);
  private readonly everyNumber = this.store.selectSignal(selectEveryNumber);
  /** Whether the takes of the line are listed over all sections, or those of the section in view. */
  readonly everywhere = signal(false);
  private readonly all = computed(() => (this.everywhere() ? this.inEvery() : this.here()));
  private readonly sounding = this.store.selectSignal(selectSounding);
  private readonly bar = this.store.selectSignal(selectBar);
  private readonly numbers = computed(() => (this.everywhere() ? this.everyNumber() : this.hereNumbers()));
  /** Discarded takes are folded away until they are asked for. */
  readonly discardedShown = signal(false);
  /** Whether the takes lie on a field beside the list, like near like. */
  readonly asField = signal(false);
  /** Words that a take must have in what it is called, made of or judged; all of them. */
  readonly query = signal('');
  readonly order = signal<TakeOrder>('as drafted');
  /** The take that the others are more or less like, where they are ordered by that. */
  private readonly like = signal<TakeId | null>(null);

  readonly discardedCount = computed(() => this.all().filter(({ id }) => this.verdictOf(id) === 'discarded').length);
  /** Takes that have been drafted or brought in for this line so far. */
  readonly count = computed(() => [...this.numbers().values()].reduce((most, number) => Math.max(most, number), 0));

  /** Edits, and patterns, that others were made of since: steps on the way, which nobody judged or named. */
  private readonly steps = computed((): ReadonlySet<TakeId> => {
    const made = (how: Take['origin']['how']): Take[] => this.all().filter(({ origin }) => origin.how === how);
    const edited = made('edited');
    // The first parent was edited again; from others something was taken, and they stay rivals.
    const parents = new Set(edited.flatMap(({ origin }) => origin.parents.slice(0, 1)));
    // Of a pattern that was drawn on and on, the last stands for all.
    const last = new Map(made('drawn').map(({ id }) => [this.numberOf(id), id]));
    return new Set([
      ...edited.filter(({ id }) => parents.has(id)).map(({ id }) => id),
      ...made('drawn').flatMap(({ id }) => (last.get(this.numberOf(id)) === id ? [] : [id])),
    ]);
  });

  /** The takes that are listed. */
  readonly shown = computed((): readonly Take[] => {
    const words = wordsIn(this.query());
    const listed = this.all().filter(
      (take) => take.id === this.sounding() || (this.isOpen(take) && this.has(take, words)),
    );
    const like = this.like();
    return inTakeOrder(listed, this.order(), {
      bar: this.bar(),
      verdictOf: ({ id }) => this.verdictOf(id),
      like: like === null ? null : (this.ledger()[like] ?? null),
    });
  });

  private isOpen({ id }: Take): boolean {
    const score = this.score();
    if (this.steps().has(id) && this.verdictOf(id) === null && !(score && nameOf(score, id))) return false;
    return this.discardedShown() || this.verdictOf(id) !== 'discarded';
  }

  private has(take: Take, words: readonly string[]): boolean {
    if (words.length === 0) return true;
    const text = [this.nameOf(take.id), this.captionOf(take), this.verdictOf(take.id) ?? ''].join(' ').toLowerCase();
    return words.every((word) => text.includes(word));
  }

  /** Orders the takes; by likeness, to the one that sounds now. */
  sort(order: TakeOrder): void {
    this.like.set(order === 'like one' ? this.sounding() : null);
    this.order.set(order);
  }

  /** Lists all takes again, as they came. */
  plain(): void {
    this.everywhere.set(false);
    this.sort('as drafted');
    this.query.set('');
  }

  /** What the order goes by, in words. */
  readonly ordered = computed(() => {
    const [order, like] = [this.order(), this.like()];
    return order === 'like one' && like !== null ? `like ${this.nameOf(like)}` : order;
  });

  /** What a take of this line is called by; null where it has no number. */
  readonly numberOf = (id: TakeId): number | null => this.numbers().get(id) ?? null;

  /** A take by its name, else by its number. */
  readonly nameOf = (id: TakeId): string => {
    const score = this.score();
    const number = this.numberOf(id);
    return (score && nameOf(score, id)) ?? (number === null ? 'an earlier take' : `take ${number}`);
  };

  /** Its name, and what it was made of, in a few words; empty where there is nothing to say. */
  captionOf(take: Take): string {
    const score = this.score();
    const name = score && nameOf(score, take.id);
    const music = this.music();
    const section = this.everywhere() && music ? sectionOf(music.score, take.section) : undefined;
    const where = section && music ? nameApart(music, section) : '';
    return [where, name, madeOf(take, this.nameOf)].filter(Boolean).join(': ');
  }

  verdictOf(id: TakeId): Verdict | null {
    const score = this.score();
    return score ? verdictOf(score, id) : null;
  }
}

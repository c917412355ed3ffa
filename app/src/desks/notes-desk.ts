import { computed, inject, Injectable, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { keyOf, groundOf } from '@fendro/core/song/ground';
import { holdersIn, holdsOf } from '@fendro/core/song/holds';
import { isDrumRole } from '@fendro/core/song/roles';
import type { TakeId, TakeNote } from '@fendro/core/song/schema';
import { News } from '../store/news';
import { selectBar, selectMusic, selectPart, selectSection } from '../store/selectors';
import { SessionActions, sessionFeature } from '../store/session';
import { sayNote } from '../ui/spoken';
import { TakeEdits } from './take-edits';

/** The note that keys go on from, and those that were gathered beside it. */
interface Picked {
  /** The takes that the ids are of: one, and those that were made of it since. */
  readonly takes: ReadonlySet<TakeId>;
  readonly cursor: number;
  readonly gathered: readonly number[];
}

const NONE: readonly number[] = [];

/** Single notes of the part in focus: gone over one by one, and gathered for what is done to several. */
@Injectable({ providedIn: 'root' })
export class NotesDesk {
  private readonly store = inject(Store);
  private readonly news = inject(News);
  private readonly edits = inject(TakeEdits);
  private readonly music = this.store.selectSignal(selectMusic);
  private readonly section = this.store.selectSignal(selectSection);
  private readonly part = this.store.selectSignal(selectPart);
  private readonly bar = this.store.selectSignal(selectBar);
  private readonly barCursor = this.store.selectSignal(sessionFeature.selectCursor);
  private readonly picked = signal<Picked | null>(null);

  readonly take = this.edits.take;
  private readonly notes = this.edits.notes;
  /** What is picked of the take that sounds; of another take it is nothing. */
  private readonly present = computed((): Picked | null => {
    const [picked, take] = [this.picked(), this.edits.soundingId()];
    if (!picked || take === null || !picked.takes.has(take)) return null;
    const there = new Set(this.notes().map(({ id }) => id));
    const gathered = picked.gathered.filter((id) => there.has(id));
    if (there.has(picked.cursor)) return { ...picked, gathered };
    const [first] = gathered;
    return first === undefined ? null : { ...picked, gathered, cursor: first };
  });
  /** The ids of the notes that keys mean: those that were gathered, else the one that was gone to. */
  readonly ids = computed((): readonly number[] => {
    const present = this.present();
    if (!present) return NONE;
    return present.gathered.length > 0 ? present.gathered : [present.cursor];
  });
  readonly meant = computed((): ReadonlySet<number> => new Set(this.ids()));
  readonly any = computed(() => this.ids().length > 0);
  readonly cursor = computed(() => this.present()?.cursor ?? null);
  /** The note that keys go on from. */
  readonly note = computed(() => this.notes().find(({ id }) => id === this.cursor()) ?? null);

  /** Goes to the note before or after; from the bar that the cursor is on where no note was gone to. */
  step(by: 1 | -1, gather = false): void {
    const [notes, cursor] = [this.notes(), this.cursor()];
    if (notes.length === 0) return;
    const at = notes.findIndex(({ id }) => id === cursor);
    const from = this.barCursor() * this.bar();
    const first = notes.findIndex(({ start }) => start >= from);
    const wanted = at < 0 ? (by > 0 ? first : notes.findLastIndex(({ start }) => start < from + this.bar())) : at + by;
    const note = notes[wanted < 0 ? (at < 0 ? notes.length - 1 : 0) : Math.min(wanted, notes.length - 1)];
    if (!note) return;
    if (gather) this.goTo(note, [...new Set([...this.ids(), note.id])]);
    else this.goTo(note, this.present()?.gathered ?? NONE);
  }

  /** Goes to the note before or after and means it alone. */
  stepAlone(by: 1 | -1): void {
    const present = this.present();
    if (present) this.picked.set({ ...present, gathered: NONE });
    this.step(by);
  }

  /** Puts the note that was gone to with the gathered ones, or takes it from them. */
  gather(): void {
    const present = this.present();
    if (!present) return;
    const { cursor, gathered } = present;
    const out = gathered.includes(cursor);
    this.picked.set({ ...present, gathered: out ? gathered.filter((id) => id !== cursor) : [...gathered, cursor] });
    this.news.say(out ? 'Let go' : `${gathered.length + 1} notes picked`);
  }

  /** Picks a note alone, or with those that were picked before. */
  pick(id: number, more: boolean): void {
    const note = this.notes().find((own) => own.id === id);
    if (!note) return;
    const before = more ? this.ids() : NONE;
    const gathered = before.includes(id) ? before.filter((own) => own !== id) : [...before, id];
    this.goTo(note, more ? gathered : NONE);
  }

  /** Picks several at once. */
  pickAll(ids: Iterable<number>): void {
    const [take, wanted] = [this.edits.soundingId(), new Set(ids)];
    const meant = this.notes().filter(({ id }) => wanted.has(id));
    const [first] = meant;
    if (take === null || !first) {
      this.picked.set(null);
      return;
    }
    this.set(take, first.id, meant.length > 1 ? meant.map(({ id }) => id) : NONE);
    this.news.say(meant.length === 1 ? this.said(first) : `${meant.length} notes picked`);
  }

  /**
   * Goes on meaning notes in a take that was made of another.
   *
   * @param before  the other; null where there was none
   */
  follow(take: TakeId, before: TakeId | null, ids: Iterable<number>): void {
    const meant = [...ids];
    const picked = this.picked();
    const family = picked && before !== null && picked.takes.has(before) ? picked : null;
    const cursor = family && meant.includes(family.cursor) ? family.cursor : meant[0];
    if (cursor === undefined) this.picked.set(null);
    else this.set(take, cursor, meant.length > 1 ? meant : NONE, family);
  }

  private set(take: TakeId, cursor: number, gathered: readonly number[], family: Picked | null = this.present()): void {
    this.picked.set({ takes: new Set([...(family?.takes ?? []), take]), cursor, gathered });
  }

  /** @returns whether anything was picked */
  letGo(): boolean {
    const any = this.any();
    this.picked.set(null);
    return any;
  }

  private goTo(note: TakeNote, gathered: readonly number[]): void {
    const take = this.edits.soundingId();
    if (take === null) return;
    this.set(take, note.id, gathered);
    const bar = Math.max(0, Math.floor(note.start / this.bar()));
    if (bar !== this.barCursor()) this.store.dispatch(SessionActions.cursorMoved({ bar }));
    this.sayNow(note);
  }

  /** Says a note aloud. */
  sayNow(note: TakeNote): void {
    this.news.say(this.said(note));
  }

  private said(note: TakeNote): string {
    const [score, section, part, take] = [this.music()?.score, this.section(), this.part(), this.take()];
    if (!score || !section) return '';
    const ground = groundOf(score, section);
    const held = part !== null && take !== null && holdersIn(holdsOf(section, part.id), take).has(note.id);
    const said = sayNote(note, ground.metre, keyOf(ground), isDrumRole(part?.role ?? 'pad'));
    return held ? `${said}, held` : said;
  }
}

import { computed, inject, Injectable, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { fittedNotes } from '@fendro/core/song/follow-chords';
import { keyOf, groundOf } from '@fendro/core/song/ground';
import { holdersIn, holdsOf } from '@fendro/core/song/holds';
import { partTake, soundingId } from '@fendro/core/song/resolve';
import { isDrumRole } from '@fendro/core/song/roles';
import type { PartTake, TakeId, TakeNote } from '@fendro/core/song/schema';
import { News } from '../store/news';
import { selectBar, selectMusic, selectPart, selectSection } from '../store/selectors';
import { SessionActions, sessionFeature } from '../store/session';
import { sayNote } from '../ui/spoken';

/** The note that keys go on from, and those that were gathered beside it. */
interface Picked {
  readonly take: TakeId;
  readonly cursor: number;
  readonly gathered: readonly number[];
}

const NONE: readonly number[] = [];

/** Single notes of the part in focus: gone over one by one, and gathered for what is done to several. */
@Injectable({ providedIn: 'root' })
export class NotesDesk {
  private readonly store = inject(Store);
  private readonly news = inject(News);
  private readonly music = this.store.selectSignal(selectMusic);
  private readonly section = this.store.selectSignal(selectSection);
  private readonly part = this.store.selectSignal(selectPart);
  private readonly bar = this.store.selectSignal(selectBar);
  private readonly barCursor = this.store.selectSignal(sessionFeature.selectCursor);
  private readonly picked = signal<Picked | null>(null);

  readonly take = computed((): PartTake | null => {
    const [music, section, part] = [this.music(), this.section(), this.part()];
    return music && section && part ? partTake(music.takes, soundingId(section, part.id, music.heard)) : null;
  });
  private readonly notes = computed((): readonly TakeNote[] => {
    const [music, section, take] = [this.music(), this.section(), this.take()];
    if (!music || !section || !take) return [];
    return [...fittedNotes(music, section, take)].sort((a, b) => a.start - b.start || a.pitch - b.pitch);
  });
  /** What is picked of the take that sounds; of another take it is nothing. */
  private readonly present = computed((): Picked | null => {
    const picked = this.picked();
    return picked?.take === this.take()?.id ? picked : null;
  });
  /** The ids of the notes that keys mean: those that were gathered, else the one that was gone to. */
  readonly ids = computed((): readonly number[] => {
    const present = this.present();
    if (!present) return NONE;
    return present.gathered.length > 0 ? present.gathered : [present.cursor];
  });
  readonly any = computed(() => this.ids().length > 0);
  readonly cursor = computed(() => this.present()?.cursor ?? null);

  /** Goes to the note before or after; from the bar that the cursor is on where no note was gone to. */
  step(by: 1 | -1): void {
    const [notes, take, cursor] = [this.notes(), this.take(), this.cursor()];
    if (!take || notes.length === 0) return;
    const at = notes.findIndex(({ id }) => id === cursor);
    const from = this.barCursor() * this.bar();
    const first = notes.findIndex(({ start }) => start >= from);
    const wanted = at < 0 ? (by > 0 ? first : notes.findLastIndex(({ start }) => start < from + this.bar())) : at + by;
    const note = notes[wanted < 0 ? (at < 0 ? notes.length - 1 : 0) : Math.min(wanted, notes.length - 1)];
    if (note) this.goTo(take.id, note, this.present()?.gathered ?? NONE);
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
    const [take, note] = [this.take(), this.notes().find((own) => own.id === id)];
    if (!take || !note) return;
    const before = more ? this.ids() : NONE;
    const gathered = before.includes(id) ? before.filter((own) => own !== id) : [...before, id];
    this.goTo(take.id, note, more ? gathered : NONE);
  }

  /** @returns whether anything was picked */
  letGo(): boolean {
    const any = this.any();
    this.picked.set(null);
    return any;
  }

  private goTo(take: TakeId, note: TakeNote, gathered: readonly number[]): void {
    this.picked.set({ take, cursor: note.id, gathered });
    const bar = Math.max(0, Math.floor(note.start / this.bar()));
    if (bar !== this.barCursor()) this.store.dispatch(SessionActions.cursorMoved({ bar }));
    this.news.say(this.said(note));
  }

  private said(note: TakeNote): string {
    const [score, section, part, take] = [this.music()?.score, this.section(), this.part(), this.take()];
    if (!score || !section || !part || !take) return '';
    const ground = groundOf(score, section);
    const held = holdersIn(holdsOf(section, part.id), take).has(note.id);
    const said = sayNote(note, ground.metre, keyOf(ground), isDrumRole(part.role));
    return held ? `${said}, held` : said;
  }
}

import { computed, inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import { groundOf, keyOf } from '@fendro/core/song/ground';
import type { Note } from '@fendro/core/song/schema';
import { ofPitch, startingIn } from '@fendro/core/shaping/pick';
import {
  added,
  endsMoved,
  joined,
  moved,
  movedByDegrees,
  removed,
  split,
  startsMoved,
  type Edited,
} from '@fendro/core/shaping/place';
import { meant, type Ids, type Notes, type Room } from '@fendro/core/shaping/room';
import { endsQuantised, legato, quantised, reversed } from '@fendro/core/shaping/time';
import { chanceSet, loudnessMoved, stemsMoved, strikesSet } from '@fendro/core/shaping/touch';
import { swung } from '@fendro/core/sounding/groove';
import { clamp, type Percent, type Ticks } from '@fendro/core/theory/units';
import { Touch } from '../sound/touch';
import { News } from '../store/news';
import { Notices } from '../store/notices';
import { selectBar, selectMusic, selectPart, selectSection } from '../store/selectors';
import { sessionFeature } from '../store/session';
import { CloseUpView } from './close-up-view';
import { NotesDesk } from './notes-desk';
import { TakeEdits, type Edit } from './take-edits';

/** By how much velocity a key makes notes louder or softer. */
const LOUDER_BY = 6;
/** How loud the first note of an empty line is. */
const USUAL_VELOCITY = 84;

/** What is done in the close-up to the notes that are picked. */
@Injectable({ providedIn: 'root' })
export class CloseUpDesk {
  private readonly store = inject(Store);
  private readonly edits = inject(TakeEdits);
  private readonly picks = inject(NotesDesk);
  private readonly view = inject(CloseUpView);
  private readonly touch = inject(Touch);
  private readonly news = inject(News);
  private readonly notices = inject(Notices);
  private readonly music = this.store.selectSignal(selectMusic);
  private readonly section = this.store.selectSignal(selectSection);
  private readonly part = this.store.selectSignal(selectPart);
  private readonly bar = this.store.selectSignal(selectBar);
  private readonly barCursor = this.store.selectSignal(sessionFeature.selectCursor);

  readonly notes = this.edits.notes;
  readonly ids = this.picks.meant;
  readonly any = this.picks.any;
  readonly drums = computed(() => this.edits.player()?.drums ?? false);
  /** Who plays the line in focus; null where there is none. */
  readonly player = this.edits.player;
  /** True where there is a part to edit. */
  readonly open = computed(() => this.room() !== null);

  /** Where notes may lie. */
  readonly room = this.edits.room;

  private readonly ground = computed(() => {
    const [music, section] = [this.music(), this.section()];
    return music && section ? groundOf(music.score, section) : null;
  });

  /** Makes an edit and goes on meaning its notes. */
  commit(edit: Omit<Edit, 'ids'>, change: (notes: Notes, room: Room, ids: Ids) => Edited | Notes | null): void {
    const [room, before] = [this.room(), this.edits.soundingId()];
    if (!room) return;
    const made = this.edits.edit({ ...edit, ids: this.ids() }, (notes, ids) => {
      const result = change(notes, room, ids);
      if (result === null) return null;
      return 'picked' in result ? result : { notes: result, picked: ids };
    });
    if (made) this.picks.follow(made.id, before, made.picked);
  }

  /** An edit by steps of a key. */
  private step(
    name: string,
    kind: string,
    by: number,
    change: (notes: Notes, room: Room, total: number, ids: Ids) => Notes | null,
  ): void {
    const [room, ids, before] = [this.room(), this.ids(), this.edits.soundingId()];
    if (!room || ids.size === 0) return;
    const made = this.edits.step({ name, kind, ids }, by, (notes, total, own) => change(notes, room, total, own));
    if (!made) return;
    this.picks.follow(made.id, before, made.picked);
    this.tell();
  }

  /** Sounds the picked notes and says the one that keys go on from. */
  tell(): void {
    const [player, note] = [this.player(), this.picks.note()];
    if (!player || !note) return;
    const together = meant(this.notes(), this.ids()).filter(({ start }) => start === note.start);
    void this.touch.strike(player, together.length > 0 ? together : [note]);
    this.picks.sayNow(note);
    this.view.reveal(note.start, note.start + note.duration);
  }

  /** Sounds something that is about to be. */
  sound(notes: readonly Note[]): void {
    const player = this.player();
    if (player) void this.touch.strike(player, notes);
  }

  goTo(by: 1 | -1, gather: boolean): void {
    if (gather) this.picks.step(by, true);
    else this.picks.stepAlone(by);
    this.tell();
  }

  pickAll(): void {
    this.picks.pickAll(this.notes().map(({ id }) => id));
  }

  /** Picks all notes of the bar that the cursor is on. */
  pickBar(): void {
    const from = this.barCursor() * this.bar();
    this.picks.pickAll(startingIn(this.notes(), from, from + this.bar()));
  }

  /** Picks all notes of the pitches that are picked. */
  pickPitch(): void {
    const pitches = new Set(meant(this.notes(), this.ids()).map(({ pitch }) => pitch));
    this.picks.pickAll(ofPitch(this.notes(), pitches));
  }

  earlier(by: 1 | -1): void {
    this.step('move notes in time', 'time', by * this.view.nudge(), (notes, room, ticks, ids) =>
      moved(notes, ids, { ticks, semitones: 0 }, room),
    );
  }

  /** Moves the picked notes by steps of the scale; drums by one drum. */
  degrees(by: 1 | -1): void {
    const ground = this.ground();
    if (!ground) return;
    if (this.drums()) this.semitones(by);
    else
      this.step('move notes by steps', 'degrees', by, (notes, room, steps, ids) =>
        movedByDegrees(notes, ids, steps, keyOf(ground), room),
      );
  }

  semitones(by: number): void {
    const octave = Math.abs(by) === 12;
    this.step(
      octave ? 'move notes by octaves' : 'move notes by semitones',
      'semitones',
      by,
      (notes, room, total, ids) => {
        const pitches = meant(notes, ids).map(({ pitch }) => pitch + total);
        // An octave is an octave, or nothing.
        if (pitches.every((pitch) => pitch >= room.low && pitch <= room.high))
          return moved(notes, ids, { ticks: 0, semitones: total }, room);
        this.news.say(`${this.player()?.instrument.name} does not reach further`);
        return null;
      },
    );
  }

  longer(by: 1 | -1): void {
    this.step(
      by > 0 ? 'make notes longer' : 'make notes shorter',
      'length',
      by * this.view.nudge(),
      (notes, room, total, ids) => endsMoved(notes, ids, total, room),
    );
  }

  beginLater(by: 1 | -1): void {
    this.step('move where notes begin', 'starts', by * this.view.nudge(), (notes, room, total, ids) =>
      startsMoved(notes, ids, total, room),
    );
  }

  louder(by: 1 | -1): void {
    this.step(by > 0 ? 'make notes louder' : 'make notes softer', 'loudness', by, (notes, _room, steps, ids) =>
      loudnessMoved(notes, ids, steps * LOUDER_BY),
    );
  }

  /** Adds a note after the one that keys go on from, as long and as high; in an empty bar, where it begins. */
  addAfter(): void {
    const [last, ground] = [this.picks.note(), this.ground()];
    if (!ground) return;
    const length = last?.duration ?? (this.view.snap() || 240);
    const start = last ? last.start + last.duration : this.barCursor() * this.bar();
    const near = last ?? this.notes().findLast((note) => note.start <= start) ?? this.notes()[0];
    this.add({
      start,
      duration: length,
      pitch: near?.pitch ?? this.middle(),
      velocity: near?.velocity ?? USUAL_VELOCITY,
    });
    this.tell();
  }

  /** The middle of what the part is asked to play. */
  private middle(): number {
    const brief = this.part()?.brief;
    if (this.drums()) return 38;
    return brief ? Math.round((brief.low + brief.high) / 2) : 60;
  }

  add(note: Note): void {
    const room = this.room();
    if (!room) return;
    if (note.start >= room.to) {
      this.news.say('The section ends here.');
      return;
    }
    this.commit({ name: 'add a note' }, (notes, own) => added(notes, note, own));
  }

  remove(): void {
    const ids = this.ids();
    if (ids.size === 0) return;
    const next = this.notes().find(({ id, start }) => !ids.has(id) && start >= (this.picks.note()?.start ?? 0));
    this.commit({ name: ids.size === 1 ? 'delete a note' : 'delete notes' }, (notes) => ({
      notes: removed(notes, ids),
      picked: new Set(next ? [next.id] : []),
    }));
    this.news.say(ids.size === 1 ? 'Note deleted' : `${ids.size} notes deleted`);
  }

  split(at?: Ticks): void {
    const ids = this.ids();
    this.commit({ name: 'split notes' }, (notes, room) => split(notes, ids, room, at));
  }

  join(): void {
    const ids = this.ids();
    const pitches = meant(this.notes(), ids).map(({ pitch }) => pitch);
    if (new Set(pitches).size === pitches.length) {
      this.notices.say('Notes of one pitch are joined: pick two or more of them first.');
      return;
    }
    this.commit({ name: 'join notes' }, (notes, room) => joined(notes, ids, room));
  }

  quantise(strength: Percent): void {
    const [ids, ground, step] = [this.ids(), this.ground(), this.view.snap()];
    if (!ground) return;
    if (step === 0) {
      this.notices.say('Notes may lie anywhere now. Choose what they snap to first.');
      return;
    }
    this.commit({ name: `quantise notes by ${strength} %` }, (notes, room) =>
      quantised(notes, ids, step, strength, room, (at) => swung(at, ground.swing, ground.metre)),
    );
  }

  quantiseEnds(): void {
    const [ids, step] = [this.ids(), this.view.snap() || 120];
    this.commit({ name: 'quantise where notes end' }, (notes, room) => endsQuantised(notes, ids, step, 100, room));
  }

  legato(): void {
    const ids = this.ids();
    this.commit({ name: 'make notes legato' }, (notes, room) => legato(notes, ids, room));
  }

  reverse(): void {
    const ids = this.ids();
    this.commit({ name: 'turn notes round' }, (notes, room) => reversed(notes, ids, room));
  }

  chance(chance: Percent): void {
    this.commit({ name: 'set the chance of notes', kind: 'chance' }, (notes, _room, ids) =>
      chanceSet(notes, ids, chance),
    );
  }

  /** Makes the picked notes likelier or rarer by so much. */
  likelier(by: Percent): void {
    this.step('set the chance of notes', 'chance', by, (notes, _room, total, ids) =>
      stemsMoved(notes, ids, 'chance', total),
    );
    this.news.say(`Chance ${this.picks.note()?.chance ?? 100} %`);
  }

  strikeMore(by: 1 | -1): void {
    this.strikes(clamp((this.picks.note()?.strikes ?? 1) + by, 1, 16));
    this.news.say(`Struck ${this.picks.note()?.strikes ?? 1} times`);
  }

  strikes(strikes: number): void {
    this.commit({ name: 'strike notes again', kind: 'strikes' }, (notes, _room, ids) =>
      strikesSet(notes, ids, strikes),
    );
    this.tell();
  }
}

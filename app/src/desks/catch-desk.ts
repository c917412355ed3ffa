import { computed, inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import { overOf, passNotes, patternNotes } from '@fendro/core/patterns/pass';
import { chooseMadeOf, remark } from '@fendro/core/song/edit';
import { groundOf } from '@fendro/core/song/ground';
import { capitalised } from '@fendro/core/song/limits';
import { harmonyTake, soundingId, type Music } from '@fendro/core/song/resolve';
import {
  HARMONY,
  type LineId,
  type Note,
  type Part,
  type PartTake,
  type Section,
  type TakeId,
} from '@fendro/core/song/schema';
import { behindTreatments, caughtTake } from '@fendro/core/song/take';
import { sounds } from '@fendro/core/sounding/strokes';
import { isTreated, treatedNotes } from '@fendro/core/treat/treated';
import { newId } from '../store/ids';
import { News } from '../store/news';
import { Notices } from '../store/notices';
import { selectMusic, selectOwnScore, selectPass, selectSection } from '../store/selectors';
import { ScoreActions, TakeActions } from '../store/song.actions';
import { sayPass } from '../ui/say-bars';
import { TakeEdits } from './take-edits';
import { TakeView } from './take-view';
import { Undecided } from './undecided';

/** What sounded in a pass, note for note, without what chance left out. */
const soundedNotes = (line: LineId, notes: readonly Note[], pass: number): readonly Note[] =>
  notes.filter((note) => sounds(note, line, pass)).map(({ chance: _chance, ...note }) => note);

/** True where two takes were made of the same, over the same chords, and play the same notes. */
const sameTake = (a: PartTake, b: PartTake): boolean =>
  a.section === b.section &&
  a.origin.how === b.origin.how &&
  a.notes.length === b.notes.length &&
  JSON.stringify([a.origin, a.over, a.notes, a.treated]) === JSON.stringify([b.origin, b.over, b.notes, b.treated]);

/** Catching: what just sounded becomes a take, note for note, while what made it goes on. */
@Injectable({ providedIn: 'root' })
export class CatchDesk {
  private readonly store = inject(Store);
  private readonly edits = inject(TakeEdits);
  private readonly view = inject(TakeView);
  private readonly undecided = inject(Undecided);
  private readonly news = inject(News);
  private readonly notices = inject(Notices);
  private readonly ownScore = this.store.selectSignal(selectOwnScore);
  private readonly music = this.store.selectSignal(selectMusic);
  private readonly section = this.store.selectSignal(selectSection);
  /** Which pass of the section in view sounded last. */
  readonly pass = this.store.selectSignal(selectPass);
  /** True where the line in focus sounds otherwise than it is written, or otherwise from pass to pass. */
  readonly ready = computed(() => {
    const take = this.edits.take();
    if (take === null) return false;
    const chance = take.notes.some((note) => note.chance !== undefined);
    return take.pattern !== undefined || chance || isTreated(this.partOf(take), take);
  });

  private partOf(take: PartTake): Part | undefined {
    return this.music()?.score.parts.find(({ id }) => id === take.part);
  }

  /** Catches what the line in focus sounded in its last pass. */
  catchLast(): void {
    const [music, section, take] = [this.music(), this.section(), this.edits.take()];
    if (!this.ready() || !music || !section || !take) return;
    this.keep(this.made(music, section, take, this.pass()), take);
  }

  /** Lets the line in focus play what it sounded in its last pass as notes, which its treatments pass by. */
  write(): void {
    const [score, music, section, take] = [this.ownScore(), this.music(), this.section(), this.edits.take()];
    if (this.undecided.told() || !score || !music || !section || !take) return;
    const made = this.made(music, section, take, this.pass());
    this.store.dispatch(
      ScoreActions.revised({
        name: 'write treatments into notes',
        score: chooseMadeOf(score, section.id, take.part, take.id, made.id),
        takes: [made],
        released: [{ section: section.id, line: take.part }],
      }),
    );
    this.notices.say(
      `${this.view.nameOf(made.id)} has them as ${made.notes.length} notes. The part’s treatments stay.`,
    );
  }

  /**
   * Where the line in focus goes on by itself, its last pass is heard in its place from here on: what is held of it, or
   * drafted from it, are the notes that sounded, before the treatments of the part: what is drafted goes through those too.
   *
   * @returns null where nothing went on by itself
   */
  standStill(): PartTake | null {
    const [music, section, take] = [this.music(), this.section(), this.edits.take()];
    if (!take?.pattern || !music || !section || this.undecided.told()) return null;
    const { notes, caught } = this.source(music, section, take, this.pass());
    const pass = this.known(music, caught(notes));
    const place = { take: pass.id, section: section.id, line: take.part };
    this.store.dispatch(TakeActions.madeAndHeard({ takes: [pass], ...place }));
    this.news.say(`${capitalised(sayPass(this.pass()))} of ${this.view.nameOf(take.id)} stands still`);
    return pass;
  }

  /**
   * What a take sounded in a pass, as a take of its own; the one that was made of it before, where there is one.
   *
   * @param harmony  the chords that it sounded over; those that sound now where nothing is said
   */
  made(music: Music, section: Section, take: PartTake, pass: number, harmony?: TakeId): PartTake {
    const part = this.partOf(take);
    const { notes, chords, caught } = this.source(music, section, take, pass, harmony);
    if (!isTreated(part, take)) return this.known(music, caught(notes));
    const treated = treatedNotes(notes, take, part, { music, section, pass, ...(chords && { chords }) });
    return this.known(music, behindTreatments(caught(treated)));
  }

  /** The notes of a pass before the treatments of the part, the chords that they lie over, and what makes a take of them. */
  private source(music: Music, section: Section, take: PartTake, pass: number, harmony?: TakeId) {
    const under = harmonyTake(music.takes, harmony ?? soundingId(section, HARMONY, music.heard));
    const over = overOf(music, section, pass);
    const notes = take.pattern
      ? patternNotes(take.pattern, under ? { ...over, chords: under.chords } : over)
      : passNotes(music, section, take, pass);
    const caught = (sounding: readonly Note[]): PartTake =>
      caughtTake(newId('take'), take, soundedNotes(take.part, sounding, pass), {
        from: sayPass(pass),
        harmony: under?.id ?? null,
        ground: groundOf(music.score, section),
      });
    return { notes, chords: under?.chords, caught };
  }

  private known(music: Music, made: PartTake): PartTake {
    const known = Object.values(music.takes).find((other) => other.of === 'part' && sameTake(other, made));
    return known?.of === 'part' ? known : made;
  }

  /** Keeps what was caught among the takes; what sounds goes on. */
  keep(made: PartTake, before: PartTake): void {
    const score = this.ownScore();
    if (this.undecided.told() || !score) return;
    this.store.dispatch(
      ScoreActions.revised({
        name: 'catch a pass',
        score: remark(score, made.id, { verdict: 'kept' }),
        takes: [made],
        released: [],
      }),
    );
    const [from, of, as] = [made.origin.from ?? 'it', this.view.nameOf(before.id), this.view.nameOf(made.id)];
    this.notices.say(`Caught ${from} of ${of}: ${as}, ${made.notes.length} notes. What plays goes on.`);
  }
}

import { computed, inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import { chooseMadeOf } from '@fendro/core/song/edit';
import { fittedNotes } from '@fendro/core/song/follow-chords';
import { groundOf } from '@fendro/core/song/ground';
import { partTake, sectionTicks, soundingId } from '@fendro/core/song/resolve';
import { chosenId } from '@fendro/core/song/section';
import { HARMONY, type Note, type PartTake, type Take, type TakeId } from '@fendro/core/song/schema';
import { editedTake, fittedTake, looseTake } from '@fendro/core/song/take';
import type { Notes, Room } from '@fendro/core/shaping/room';
import { isDrumRole } from '@fendro/core/song/roles';
import { instrumentOf } from '@fendro/core/sounding/instruments';
import { newId } from '../store/ids';
import { selectBar, selectMusic, selectOwnScore, selectPart, selectSection } from '../store/selectors';
import { ScoreActions } from '../store/song.actions';
import { Undecided } from './undecided';

const NOTHING: Notes = [];

/** Many small edits of one kind that follow each other: one step of undo and one take, made of the same notes. */
interface Run {
  readonly kind: string;
  /** What is edited all along, and its notes; null where the line was empty. */
  readonly take: PartTake | null;
  readonly notes: Notes;
  readonly made: TakeId;
  /** How far all of them went together, for edits by steps. */
  readonly total: number;
}

export interface Edit {
  /** “move notes”: what undo calls it. */
  readonly name: string;
  /** Edits of one kind that follow each other are one, made of what was there before the first. */
  readonly kind?: string;
}

/** The one way in which the notes of the part in focus are edited: each edit makes a take whose parent is named. */
@Injectable({ providedIn: 'root' })
export class TakeEdits {
  private readonly store = inject(Store);
  private readonly undecided = inject(Undecided);
  private readonly ownScore = this.store.selectSignal(selectOwnScore);
  private readonly music = this.store.selectSignal(selectMusic);
  private readonly section = this.store.selectSignal(selectSection);
  private readonly part = this.store.selectSignal(selectPart);
  private readonly bar = this.store.selectSignal(selectBar);
  private run: Run | null = null;

  /** The take that sounds. */
  readonly take = computed((): PartTake | null => {
    const [music, section, part] = [this.music(), this.section(), this.part()];
    return music && section && part ? partTake(music.takes, soundingId(section, part.id, music.heard)) : null;
  });
  /** Its notes over the chords that sound, in order. */
  readonly notes = computed((): Notes => {
    const [music, section, take] = [this.music(), this.section(), this.take()];
    if (!music || !section || !take) return NOTHING;
    return [...fittedNotes(music, section, take)].sort((a, b) => a.start - b.start || a.pitch - b.pitch);
  });

  private going(kind: string): Run | null {
    return this.run?.kind === kind && this.run.made === this.take()?.id ? this.run : null;
  }

  /**
   * An edit by steps, such as a note that is moved by a key that is held down: what lies in its way is not lost, since the
   * notes go the whole way at once each time.
   *
   * @param change  from the notes before the first step, by the sum of all steps
   */
  step(
    edit: Required<Edit>,
    by: number,
    change: (notes: Notes, total: number) => readonly Note[] | null,
  ): PartTake | null {
    const total = (this.going(edit.kind)?.total ?? 0) + by;
    const made = this.edit(edit, (notes) => change(notes, total));
    if (made && this.run) this.run = { ...this.run, total };
    return made;
  }

  /** Where notes may lie: the section with a bar before it, and what the instrument plays. */
  readonly room = computed((): Room | null => {
    const [music, section, part] = [this.music(), this.section(), this.part()];
    if (!music || !section || !part) return null;
    const reach = isDrumRole(part.role) ? { low: 0, high: 127 } : instrumentOf(part.instrument);
    const pitches = this.notes().map(({ pitch }) => pitch);
    return {
      from: -this.bar(),
      to: sectionTicks(music.score, section),
      // What lies beyond the instrument's reach already stays editable.
      low: Math.min(reach.low, ...pitches),
      high: Math.max(reach.high, ...pitches),
    };
  });

  /** The chosen take while another one is heard in its place; null where there is none. */
  readonly rival = computed((): PartTake | null => {
    const [music, section, part, heard] = [this.music(), this.section(), this.part(), this.take()];
    const chosen = music && section && part ? partTake(music.takes, chosenId(section, part.id)) : null;
    return chosen && heard && chosen.id !== heard.id ? chosen : null;
  });

  /**
   * Makes a take of the chosen one with something of the heard one, and chooses it: both are its parents.
   *
   * @param change  from the notes of the chosen and of the heard take, both over the chords that sound
   */
  mergeHeard(name: string, change: (chosen: Notes, heard: Notes) => readonly Note[]): PartTake | null {
    const [score, music, section, part] = [this.ownScore(), this.music(), this.section(), this.part()];
    const [chosen, heard] = [this.rival(), this.take()];
    if (this.undecided.told() || !score || !music || !section || !part || !chosen || !heard) return null;
    const notes = change(fittedNotes(music, section, chosen), this.notes());
    const made = editedTake(newId('take'), chosen, notes, undefined, [heard.id]);
    this.store.dispatch(
      ScoreActions.revised({
        name,
        score: chooseMadeOf(score, section.id, part.id, chosen.id, made.id),
        takes: [made],
        released: [{ section: section.id, line: part.id }],
      }),
    );
    return made;
  }

  /**
   * Makes a take of other notes and chooses it.
   *
   * @param change  from the notes that the edit starts from to those that it gives; the same list changes nothing, nor does null
   * @returns the take; null where nothing was changed
   */
  edit({ name, kind }: Edit, change: (notes: Notes) => readonly Note[] | null): PartTake | null {
    if (this.undecided.told()) return null;
    const [score, music, section, part] = [this.ownScore(), this.music(), this.section(), this.part()];
    if (!score || !music || !section || !part) return null;
    const run = kind === undefined ? null : this.going(kind);
    const before = run ? run.take : this.take();
    const start = run ? run.notes : this.notes();
    const notes = change(start);
    if (notes === null || (notes === start && !run)) return null;
    const takes: Take[] = [];
    let base = before;
    const harmony = soundingId(section, HARMONY, music.heard);
    // What follows the chords is edited as it sounds over them now.
    if (before?.over && harmony !== null && fittedNotes(music, section, before) !== before.notes) {
      const { tonic, scale } = groundOf(music.score, section);
      base = fittedTake(newId('take'), before, start, { ...before.over, harmony, tonic, scale });
      takes.push(base);
    }
    const id = newId('take');
    const length = sectionTicks(music.score, section);
    const made = base
      ? editedTake(id, base, notes)
      : looseTake({ id, section: section.id, length }, part.id, notes, { how: 'typed' });
    this.run = kind === undefined ? null : { kind, take: before, notes: start, made: id, total: 0 };
    this.store.dispatch(
      ScoreActions.revised({
        name,
        score: chooseMadeOf(score, section.id, part.id, run?.made ?? before?.id ?? null, id),
        takes: [...takes, made],
        released: [{ section: section.id, line: part.id }],
        ...(kind === undefined ? {} : { gesture: `${kind} ${before?.id} ${section.id} ${part.id}` }),
        ...(run ? { dropped: [run.made] } : {}),
      }),
    );
    return made;
  }
}

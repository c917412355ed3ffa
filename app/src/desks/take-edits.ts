import { computed, inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import { passNotes } from '@fendro/core/patterns/pass';
import { chooseMadeOf } from '@fendro/core/song/edit';
import { groundOf, keyOf } from '@fendro/core/song/ground';
import { partTake, sectionTicks, soundingId, type Music } from '@fendro/core/song/resolve';
import { isDrumRole } from '@fendro/core/song/roles';
import { chosenId } from '@fendro/core/song/section';
import { HARMONY, type ChordSpan, type Note, type PartTake, type Section, type TakeId } from '@fendro/core/song/schema';
import { caughtTake, editedTake, fittedTake, looseTake, withNoteIds } from '@fendro/core/song/take';
import { chordsWithNotes } from '@fendro/core/shaping/chord-notes';
import type { Ids, Notes, Room } from '@fendro/core/shaping/room';
import { chordLineNotes } from '@fendro/core/sounding/chord-line';
import { instrumentOf } from '@fendro/core/sounding/instruments';
import { chordInstrument } from '@fendro/core/sounding/setup';
import { newId } from '../store/ids';
import {
  selectBar,
  selectChords,
  selectChordSetting,
  selectLine,
  selectMusic,
  selectOwnScore,
  selectPart,
  selectPass,
  selectSection,
} from '../store/selectors';
import { ScoreActions } from '../store/song.actions';
import type { Player } from '../sound/touch';
import { sayPass } from '../ui/say-bars';
import { HarmonyDesk } from './harmony-desk';
import { Undecided } from './undecided';

const NOTHING: Notes = [];
const NOBODY: Ids = new Set();

/** Many small edits of one kind that follow each other: one step of undo and one take, made of the same notes. */
interface Run {
  readonly kind: string;
  /** What is edited all along, and its notes; null where the line was empty. */
  readonly take: PartTake | null;
  readonly chords: readonly ChordSpan[];
  readonly notes: Notes;
  /** The notes that are meant, by their ids before the first edit and in what was made. */
  readonly ids: Ids;
  readonly now: Ids;
  readonly made: TakeId;
  /** How far all of them went together, for edits by steps. */
  readonly total: number;
}

export interface Edit {
  /** “move notes”: what undo calls it. */
  readonly name: string;
  /** Edits of one kind, of the same notes, that follow each other are one, made of what was there before the first. */
  readonly kind?: string;
  /** The notes that are meant. */
  readonly ids?: Ids;
}

/** What an edit makes of notes. */
export interface Change {
  readonly notes: readonly Note[];
  /** The notes that are meant after it. */
  readonly picked: Ids;
}

/** What an edit made: the take, and the notes that are meant in it. */
export interface Made {
  readonly id: TakeId;
  readonly picked: Ids;
}

const same = (a: Ids, b: Ids): boolean => a.size === b.size && [...a].every((id) => b.has(id));

/** True where two lists hold the same notes: an edit that comes to nothing makes no take. */
const unchanged = (a: readonly Note[], b: readonly Note[]): boolean =>
  a.length === b.length &&
  a.every((note, index) => note === b[index] || JSON.stringify(note) === JSON.stringify(b[index]));

/**
 * The one way in which the notes of the line in focus are edited: each edit makes a take whose parent is named. The chord
 * line is edited as it is struck; what changes is kept with its chords.
 */
@Injectable({ providedIn: 'root' })
export class TakeEdits {
  private readonly store = inject(Store);
  private readonly undecided = inject(Undecided);
  private readonly harmony = inject(HarmonyDesk);
  private readonly ownScore = this.store.selectSignal(selectOwnScore);
  private readonly music = this.store.selectSignal(selectMusic);
  private readonly section = this.store.selectSignal(selectSection);
  private readonly part = this.store.selectSignal(selectPart);
  private readonly line = this.store.selectSignal(selectLine);
  private readonly chords = this.store.selectSignal(selectChords);
  private readonly chordSetting = this.store.selectSignal(selectChordSetting);
  private readonly bar = this.store.selectSignal(selectBar);
  private readonly pass = this.store.selectSignal(selectPass);
  private run: Run | null = null;
  /** What was last made in between, of which notes. */
  private fitted: { readonly of: TakeId; readonly notes: Notes; readonly take: PartTake } | null = null;

  /** True where the line in focus is the chords. */
  readonly ofChords = computed(() => this.line() === HARMONY);
  /** The part's take that sounds; null for the chords. */
  readonly take = computed((): PartTake | null => {
    const [music, section, part] = [this.music(), this.section(), this.part()];
    return music && section && part ? partTake(music.takes, soundingId(section, part.id, music.heard)) : null;
  });
  /** The take of the line that sounds, by its id. */
  readonly soundingId = computed((): TakeId | null => {
    const [music, section] = [this.music(), this.section()];
    return music && section ? soundingId(section, this.line(), music.heard) : null;
  });
  /** Its notes over the chords that sound, in order; of the chords, as they are struck. */
  readonly notes = computed((): Notes => {
    const [music, section, take] = [this.music(), this.section(), this.take()];
    if (!music || !section) return NOTHING;
    if (this.ofChords()) return withNoteIds(chordLineNotes(music, section, this.chordSetting()));
    if (!take) return NOTHING;
    return [...passNotes(music, section, take, this.pass())].sort((a, b) => a.start - b.start || a.pitch - b.pitch);
  });
  /** Who plays the line in focus. */
  readonly player = computed((): Player | null => {
    const part = this.part();
    if (part)
      return {
        id: part.id,
        name: part.name,
        instrument: instrumentOf(part.instrument),
        drums: isDrumRole(part.role),
        colour: part.colour,
        swaps: part.swaps,
      };
    if (!this.ofChords() || !this.section()) return null;
    const instrument = chordInstrument(this.chordSetting().family);
    return { id: HARMONY, name: 'Chords', instrument, drums: false, colour: 4, swaps: {} };
  });
  /** Where notes may lie: the section with a bar before it, and what the instrument plays. */
  readonly room = computed((): Room | null => {
    const [music, section, player] = [this.music(), this.section(), this.player()];
    if (!music || !section || !player) return null;
    const reach = player.drums ? { low: 0, high: 127 } : player.instrument;
    const pitches = this.notes().map(({ pitch }) => pitch);
    return {
      from: this.ofChords() ? 0 : -this.bar(),
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

  private going({ kind, ids = NOBODY }: Edit): Run | null {
    const { run } = this;
    return run && run.kind === kind && run.made === this.soundingId() && same(run.now, ids) ? run : null;
  }

  /**
   * Makes a take of the chosen one with something of the heard one, and chooses it: both are its parents.
   *
   * @param change  from the notes of the chosen and of the heard take, both over the chords that sound
   */
  mergeHeard(name: string, change: (chosen: Notes, heard: Notes) => readonly Note[]): PartTake | null {
    const [score, music, section, part] = [this.ownScore(), this.music(), this.section(), this.part()];
    const [chosen, heard] = [this.rival(), this.take()];
    if (this.undecided.told() || !score || !music || !section || !part || !chosen || !heard) return null;
    const notes = passNotes(music, section, chosen, this.pass());
    const fitted = this.overWhatSounds(chosen, notes);
    const made = editedTake(newId('take'), fitted ?? chosen, change(notes, this.notes()), undefined, [heard.id]);
    this.store.dispatch(
      ScoreActions.revised({
        name,
        score: chooseMadeOf(score, section.id, part.id, chosen.id, made.id),
        takes: fitted ? [fitted, made] : [made],
        released: [{ section: section.id, line: part.id }],
      }),
    );
    return made;
  }

  /**
   * An edit by steps, such as a note that is moved by a key that is held down: what lies in its way is not lost, since the
   * notes go the whole way at once each time.
   *
   * @param change  from the notes before the first step, by the sum of all steps
   */
  step(
    edit: Edit & { readonly kind: string },
    by: number,
    change: (notes: Notes, total: number, ids: Ids) => readonly Note[] | null,
  ): Made | null {
    const total = (this.going(edit)?.total ?? 0) + by;
    const made = this.edit(edit, (notes, ids) => {
      const changed = change(notes, total, ids);
      return changed && { notes: changed, picked: ids };
    });
    if (made && this.run) this.run = { ...this.run, total };
    return made;
  }

  /**
   * Makes a take of other notes and chooses it.
   *
   * @param change  from the notes that the edit starts from, with the ids of those that are meant; the same notes
   *   change nothing, nor does null
   * @returns null where nothing was changed
   */
  edit(edit: Edit, change: (notes: Notes, ids: Ids) => Change | null): Made | null {
    if (this.undecided.told()) return null;
    const run = edit.kind === undefined ? null : this.going(edit);
    const start = run ? run.notes : this.notes();
    const ids = run ? run.ids : (edit.ids ?? NOBODY);
    const changed = change(start, ids);
    if (changed === null || (!run && unchanged(start, changed.notes))) return null;
    const chords = run ? run.chords : this.chords();
    const take = run ? run.take : this.take();
    const made = this.ofChords()
      ? this.makeChords(edit, chordsWithNotes(chords, start, changed.notes), changed)
      : this.makeTake(edit, take, start, changed, run?.made);
    const { kind } = edit;
    this.run =
      made === null || kind === undefined
        ? null
        : { kind, take, chords, notes: start, ids, now: made.picked, made: made.id, total: 0 };
    return made;
  }

  /** True where a take sounds otherwise than its notes say: over other chords, or going on by itself. */
  private needsFitting(music: Music, section: Section, take: PartTake): boolean {
    if (take.pattern) return true;
    const follows = take.over !== null && soundingId(section, HARMONY, music.heard) !== null;
    return follows && passNotes(music, section, take, this.pass()) !== take.notes;
  }

  /**
   * A take that follows the chords as it sounds over those that sound now, so that its notes and the chords that it names
   * go together, and one that goes on by itself as the pass that is shaped; null where it sounds as it is written. A run
   * of edits of one take shares it.
   */
  private overWhatSounds(take: PartTake, notes: Notes): PartTake | null {
    const [music, section] = [this.music(), this.section()];
    if (!music || !section || !this.needsFitting(music, section, take)) return null;
    const harmony = soundingId(section, HARMONY, music.heard);
    const { fitted } = this;
    const known = fitted?.of === take.id && fitted.notes === notes && fitted.take.over?.harmony === harmony;
    if (known) return fitted.take;
    const ground = groundOf(music.score, section);
    const made = take.pattern
      ? caughtTake(newId('take'), take, notes, { from: sayPass(this.pass()), harmony, ground })
      : fittedTake(
          newId('take'),
          take,
          notes,
          take.over && { ...take.over, ...keyOf(ground), ...(harmony && { harmony }) },
        );
    this.fitted = { of: take.id, notes, take: made };
    return made;
  }

  private makeTake(
    edit: Edit,
    before: PartTake | null,
    start: Notes,
    { notes, picked }: Change,
    passed?: TakeId,
  ): Made | null {
    const [score, music, section, part] = [this.ownScore(), this.music(), this.section(), this.part()];
    if (!score || !music || !section || !part) return null;
    const fitted = before && this.overWhatSounds(before, start);
    const base = fitted ?? before;
    const id = newId('take');
    const length = sectionTicks(music.score, section);
    const made = base
      ? editedTake(id, base, notes)
      : looseTake({ id, section: section.id, length }, part.id, notes, { how: 'typed' });
    const { name, kind } = edit;
    this.store.dispatch(
      ScoreActions.revised({
        name,
        score: chooseMadeOf(score, section.id, part.id, passed ?? before?.id ?? null, id),
        takes: fitted ? [fitted, made] : [made],
        released: [{ section: section.id, line: part.id }],
        ...(kind === undefined ? {} : { gesture: `${kind} ${before?.id} ${section.id} ${part.id}` }),
        ...(passed === undefined ? {} : { dropped: [passed] }),
      }),
    );
    return { id, picked };
  }

  /** Chords with notes of their own; their notes are numbered anew, and those that are meant are found again. */
  private makeChords({ name, kind }: Edit, chords: readonly ChordSpan[], { notes, picked }: Change): Made | null {
    const before = this.soundingId();
    this.harmony.edit(name, chords, kind === undefined ? undefined : `${kind} of chords`);
    const id = this.soundingId();
    if (id === null || id === before) return null;
    const textOf = ({ start, pitch }: Note): string => `${start} ${pitch}`;
    const meant = new Set(
      withNoteIds(notes)
        .filter((note) => picked.has(note.id))
        .map(textOf),
    );
    const found = this.notes().filter((note) => meant.has(textOf(note)));
    return { id, picked: new Set(found.map((note) => note.id)) };
  }
}

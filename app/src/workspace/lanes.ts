import { createSelector, type MemoizedSelector } from '@ngrx/store';
import { clashes as clashesOf } from '@fendro/core/song/fit';
import { heldRuns, holdersIn, holdsOf, type HeldRun } from '@fendro/core/song/holds';
import { partTake, soundingId } from '@fendro/core/song/resolve';
import { isDrumRole, isLine } from '@fendro/core/song/roles';
import type { Note, Part, PartId, TakeNote } from '@fendro/core/song/schema';
import { handsOf } from '@fendro/core/sounding/dealt';
import { instrumentOf } from '@fendro/core/sounding/instruments';
import { writtenNotes } from '@fendro/core/sounding/written';
import { noteRoles, type NoteRole } from '@fendro/core/study/note-roles';
import { metricalWeight, WEIGHT } from '@fendro/core/theory/metre';
import {
  selectChords,
  selectGround,
  selectHeard,
  selectLine,
  selectMusic,
  selectPass,
  selectScore,
  selectSection,
  selectTakes,
} from '../store/selectors';
import { sessionFeature } from '../store/session';
import { shapeOf, type NoteShape } from '../ui/note-shape';

/** What the sheet shows of a part. */
export interface Lane {
  readonly part: Part;
  readonly notes: readonly Note[];
  /** Places in the list of notes that rub against the chords. */
  readonly clashes: readonly number[];
  readonly roles: readonly NoteRole[];
  /** Bars that no draft changes. */
  readonly held: readonly HeldRun[];
  /** Places in the list of notes that no draft changes, each by itself. */
  readonly heldNotes: readonly number[];
  /** True where others play in its place what it has. */
  readonly dealt: boolean;
  /** True while a take is heard that is not chosen. */
  readonly tentative: boolean;
  readonly shape: NoteShape;
  /** Its name. */
  readonly instrument: string;
}

const SILENT: readonly Note[] = [];
/** One and the same empty lists, so that pictures without marks are not drawn again. */
const NO_MARKS: readonly number[] = [];
const NO_ROLES: readonly NoteRole[] = [];
const NOTHING_HELD: readonly HeldRun[] = [];

/**
 * The lane of one part in the section in view. It is worked out anew only when what it shows has changed: neither the
 * focus on another part nor another part's take is anything to it.
 */
export function laneSelector(id: PartId, work = { writtenNotes, noteRoles }): MemoizedSelector<object, Lane | null> {
  const selectPart = createSelector(selectScore, (score) => score?.parts.find((part) => part.id === id) ?? null);
  const selectRole = createSelector(selectPart, (part) => part?.role ?? 'drums');
  const selectNotes = createSelector(selectMusic, selectSection, selectPass, (music, section, pass) =>
    music && section ? work.writtenNotes(music, section, id, pass) : SILENT,
  );
  const selectMetre = createSelector(selectGround, (ground) => ground?.metre ?? null);
  // Only what stays put when chords change can rub against them unasked.
  const selectStays = createSelector(
    selectTakes,
    selectSection,
    selectHeard,
    selectRole,
    (takes, section, heard, role) =>
      !isDrumRole(role) && section !== null && partTake(takes, soundingId(section, id, heard))?.over === null,
  );
  const selectHolds = createSelector(selectSection, (section) => (section ? holdsOf(section, id) : null));
  const selectLength = createSelector(selectSection, (section) => section?.bars ?? 0);
  const selectHeld = createSelector(selectHolds, selectLength, (holds, bars) =>
    holds && holds.length > 0 ? heldRuns(holds, bars) : NOTHING_HELD,
  );
  const selectHeldNotes = createSelector(
    selectHolds,
    selectNotes,
    selectSection,
    selectHeard,
    selectTakes,
    (holds, notes, section, heard, takes) => {
      const take = holds && section ? partTake(takes, soundingId(section, id, heard)) : null;
      const held = holds && take ? holdersIn(holds, take) : null;
      const places = notes.flatMap((note, index) => (held?.has((note as TakeNote).id) ? [index] : []));
      return places.length > 0 ? places : NO_MARKS;
    },
  );
  const selectDealt = createSelector(
    selectMusic,
    selectSection,
    selectPart,
    (music, section, part) =>
      music !== null && section !== null && part !== null && handsOf(music, section, part).length > 0,
  );
  const selectTentative = createSelector(
    selectSection,
    selectHeard,
    (section, heard) => section !== null && heard[section.id]?.[id] !== undefined,
  );
  const selectRolesShown = createSelector(
    sessionFeature.selectRolesShown,
    selectLine,
    selectRole,
    (shown, line, role) => shown && line === id && isLine(role),
  );
  const selectClashes = createSelector(
    selectNotes,
    selectStays,
    selectChords,
    selectMetre,
    (notes, stays, chords, metre) => {
      if (!stays || !metre) return NO_MARKS;
      const marks = clashesOf(notes, chords, (at) => metricalWeight(metre, at) >= WEIGHT.beat);
      return marks.length > 0 ? marks : NO_MARKS;
    },
  );
  const selectRoles = createSelector(
    selectNotes,
    selectRolesShown,
    selectChords,
    selectMetre,
    (notes, shown, chords, metre) => (shown && metre ? work.noteRoles(notes, chords, metre) : NO_ROLES),
  );
  return createSelector(
    selectPart,
    selectNotes,
    selectClashes,
    selectRoles,
    selectHeld,
    selectHeldNotes,
    selectTentative,
    selectDealt,
    (part, notes, clashes, roles, held, single, tentative, dealt): Lane | null =>
      part && {
        part,
        notes,
        clashes,
        roles,
        held,
        heldNotes: single,
        tentative,
        dealt,
        shape: shapeOf(part.colour, isDrumRole(part.role)),
        instrument: instrumentOf(part.instrument).name,
      },
  );
}

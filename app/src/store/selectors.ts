import { createSelector } from '@ngrx/store';
import { followGround } from '@fendro/core/song/follow-ground';
import { groundOf } from '@fendro/core/song/ground';
import { own } from '@fendro/core/song/look-up';
import {
  chordsIn,
  layOut,
  NOTHING_HEARD,
  sectionOf,
  soundingId,
  takesOf,
  type HeardTakes,
  type Music,
  type Takes,
} from '@fendro/core/song/resolve';
import { chosenId } from '@fendro/core/song/section';
import { takeNumbers } from '@fendro/core/song/take-numbers';
import { placedSections } from '@fendro/core/song/versions';
import { PLAIN_CHORDS } from '@fendro/core/song/briefs';
import {
  HARMONY,
  type ChordSetting,
  type Ground,
  type LineId,
  type Score,
  type Section,
  type Take,
  type SectionId,
  type TakeId,
} from '@fendro/core/song/schema';
import { barTicks } from '@fendro/core/theory/metre';
import type { Ticks } from '@fendro/core/theory/units';
import { sessionFeature, type SessionState } from './session';
import { songFeature } from './song.reducer';

export const selectSong = songFeature.selectSongState;
export const selectSession = sessionFeature.selectSessionState;

/** The score as it is stored, whatever is being tried. */
export const selectOwnScore = songFeature.selectScore;
const selectPending = sessionFeature.selectPendingGround;
const selectOwnHeard = sessionFeature.selectHeard;

/** The song as a change of ground that is being tried would make it; everything that shows or sounds reads this. */
const selectTried = createSelector(
  selectOwnScore,
  songFeature.selectTakes,
  selectOwnHeard,
  selectPending,
  (score, takes, heard, pending) => {
    if (!score || !pending) return null;
    let serial = 0;
    const followed = followGround(score, takes, heard, pending, pending.how, () => `tried-${serial++}`);
    return {
      score: followed.score,
      takes: { ...takes, ...Object.fromEntries(followed.takes.map((take) => [take.id, take])) },
    };
  },
);

export const selectScore = createSelector(selectOwnScore, selectTried, (score, tried) => tried?.score ?? score);
export const selectTakes = createSelector(
  songFeature.selectTakes,
  selectTried,
  (takes, tried): Takes => tried?.takes ?? takes,
);
export const selectHeard = createSelector(selectOwnHeard, selectTried, (heard, tried) =>
  tried ? NOTHING_HEARD : heard,
);
/** The line in focus: the chords where its part is gone, as after it was removed, or its adding undone. */
export const selectLine = createSelector(selectScore, sessionFeature.selectLine, (score, line): LineId =>
  score?.parts.some(({ id }) => id === line) ? line : HARMONY,
);

/** Names of what undo and redo would do, or null. */
export const selectUndo = createSelector(songFeature.selectPast, (past) => past.at(-1)?.name ?? null);
export const selectRedo = createSelector(songFeature.selectFuture, (future) => future.at(-1)?.name ?? null);

/** The running order in time. */
export const selectPlaced = createSelector(selectScore, (score) => (score ? layOut(score) : []));

/** The place in view; the first when the one in view has gone. */
export const selectView = createSelector(
  selectPlaced,
  sessionFeature.selectOccurrence,
  (placed, occurrence) => placed.find((place) => place.occurrence.id === occurrence) ?? placed[0] ?? null,
);
export const selectSection = createSelector(selectView, (view): Section | null => view?.section ?? null);

/** Which pass of the section in view sounded last; before any has, the one that comes first in the place in view. */
export const selectPass = createSelector(
  selectPlaced,
  selectView,
  sessionFeature.selectPasses,
  (placed, view, passes): number => {
    if (!view) return 0;
    const before = (): number =>
      placed.filter(({ section, start }) => section.id === view.section.id && start < view.start).length;
    return own(passes, view.section.id) ?? before();
  },
);

/** The ground that the section in view stands on. */
export const selectGround = createSelector(selectScore, selectSection, (score, section): Ground | null =>
  score && section ? groundOf(score, section) : (score?.ground ?? null),
);
/** One bar of the section in view, in ticks. */
export const selectBar = createSelector(selectGround, (ground): Ticks => (ground ? barTicks(ground.metre) : 1920));

/** All that decides what sounds; null while no song is open. */
export const selectMusic = createSelector(
  selectScore,
  selectTakes,
  selectHeard,
  (score, takes, heard): Music | null => score && { score, takes, heard },
);

/** How the chords of the section in view sound: as set, with what is being tried. */
export const selectChordSetting = createSelector(
  selectSection,
  sessionFeature.selectChordTrial,
  (section, chordTrial): ChordSetting => {
    const own = section?.chordSetting ?? PLAIN_CHORDS;
    return chordTrial && chordTrial.section === section?.id ? { ...own, ...chordTrial.setting } : own;
  },
);

export const selectChords = createSelector(selectSection, selectTakes, selectHeard, (section, takes, heard) =>
  section ? chordsIn(section, takes, heard) : [],
);

/** The part in focus; null while the chords are. */
export const selectPart = createSelector(
  selectScore,
  selectLine,
  (score, line) => score?.parts.find((part) => part.id === line) ?? null,
);

const selectSectionId = createSelector(selectSection, (section) => section?.id ?? null);
/** All takes of the line in focus in the section in view: looked for only where there are others, or another line. */
const selectAllOfLine = createSelector(selectTakes, selectSectionId, selectLine, (takes, section, line) =>
  section === null ? [] : takesOf(takes, section, line),
);

/** What they are called by. */
export const selectLineNumbers = createSelector(selectAllOfLine, takeNumbers);

/** Those of them that are listed, in the order in which they came to be. */
export const selectLineTakes = createSelector(
  selectScore,
  selectAllOfLine,
  selectSection,
  selectLine,
  selectHeard,
  (score, takes, section, line, heard) =>
    score && section ? takes.filter((take) => isListed(take, score, section, line, heard)) : [],
);

/** The listed takes of the line in focus in every section that sounds, in the order of the sections. */
export const selectEveryTake = createSelector(
  selectScore,
  selectTakes,
  selectLine,
  selectHeard,
  (score, takes, line, heard) =>
    score
      ? placedSections(score).flatMap((section) =>
          takesOf(takes, section.id, line).filter((take) => isListed(take, score, section, line, heard)),
        )
      : [],
);

/** What the takes of the line in focus are called by, in every section that sounds. */
export const selectEveryNumber = createSelector(
  selectScore,
  selectTakes,
  selectLine,
  (score, takes, line): ReadonlyMap<TakeId, number> =>
    new Map(
      score ? placedSections(score).flatMap((section) => [...takeNumbers(takesOf(takes, section.id, line))]) : [],
    ),
);

/**
 * Steps on the way (typed, edited, fitted or tried) and passes that were looked back at are listed only while they
 * sound or when they were judged; undo and the logbook keep them.
 */
const LISTED: ReadonlySet<Take['origin']['how']> = new Set(['drafted', 'imported', 'drawn', 'played']);

function isListed({ id, origin }: Take, score: Score, section: Section, line: LineId, heard: HeardTakes): boolean {
  if (LISTED.has(origin.how)) return true;
  return (
    id === soundingId(section, line, heard) || id === chosenId(section, line) || own(score.remarks, id) !== undefined
  );
}

/** The take of the line in focus that sounds now. */
export const selectSounding = createSelector(selectSection, selectLine, selectHeard, (section, line, heard) =>
  section ? soundingId(section, line, heard) : null,
);

/** Every heard take that still has its section and its part. */
export const selectHeardChoices = createSelector(selectScore, selectHeard, (score, heard) =>
  score ? heardChoices(score, heard) : [],
);

function heardChoices(
  score: Score,
  heard: SessionState['heard'],
): { section: SectionId; line: LineId; take: TakeId }[] {
  const lines = new Set<LineId>([HARMONY, ...score.parts.map(({ id }) => id)]);
  return Object.entries(heard).flatMap(([section, own]) =>
    sectionOf(score, section)
      ? Object.entries(own).flatMap(([line, take]) => (lines.has(line) ? [{ section, line, take }] : []))
      : [],
  );
}

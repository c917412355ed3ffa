import { createFeature, createReducer, on, type ActionCreator, type ReducerTypes } from '@ngrx/store';
import * as edits from '@fendro/core/song/edit';
import { scoreProblem, takeProblem } from '@fendro/core/song/check';
import type { Heard, Score, Take, TakeId } from '@fendro/core/song/schema';
import { ScoreActions, SongActions, TakeActions } from './song.actions';

/** One undoable step. Scores share all that did not change, so keeping whole ones costs little. */
interface Step {
  readonly name: string;
  readonly before: Score;
  readonly gesture?: string | undefined;
}

export interface SongState {
  /** Null until a song is open. */
  readonly open: { readonly id: string; readonly seed: number } | null;
  readonly score: Score | null;
  readonly takes: Readonly<Record<string, Take>>;
  readonly heard: readonly Heard[];
  readonly past: readonly Step[];
  /** Scores to return to on redo, the nearest last. */
  readonly future: readonly Step[];
  readonly saving: 'saved' | 'changed' | 'failed';
  /** Why the last edit was not made, in plain words; another object each time. */
  readonly refused: { readonly reason: string } | null;
}

export const CLOSED: SongState = {
  open: null,
  score: null,
  takes: {},
  heard: [],
  past: [],
  future: [],
  saving: 'saved',
  refused: null,
};

const LONGEST_PAST = 1000;

interface Gesture {
  readonly gesture?: string;
}

/** What could not be saved stays so until it could. */
const changed = ({ saving }: SongState): SongState['saving'] => (saving === 'failed' ? 'failed' : 'changed');

/**
 * Makes a pure edit undoable under a readable name; the steps of one gesture become one. What could not be opened
 * again is refused.
 */
function edited<P>(name: string, edit: (score: Score, action: P) => Score) {
  return (state: SongState, action: P): SongState => {
    if (!state.score) return state;
    const score = edit(state.score, action);
    if (score === state.score) return state;
    const problem = scoreProblem(score, state.takes, state.score);
    if (problem !== null) return { ...state, refused: { reason: problem } };
    const gesture = (action as Gesture).gesture;
    const last = state.past.at(-1);
    const joins = gesture !== undefined && last?.gesture === gesture;
    const past = joins ? state.past : [...state.past, { name, before: state.score, gesture }].slice(-LONGEST_PAST);
    return { ...state, score, past, future: [], saving: changed(state) };
  };
}

const scoreEdits: ReducerTypes<SongState, readonly ActionCreator[]>[] = [
  on(
    ScoreActions.titleSet,
    edited('rename the song', (score, { title }) => edits.setTitle(score, title)),
  ),
  on(
    ScoreActions.groundSet,
    edited('change the ground', (score, { change }) => edits.setGround(score, change)),
  ),
  on(
    ScoreActions.partAdded,
    edited('add a part', (score, { part }) => edits.addPart(score, part)),
  ),
  on(
    ScoreActions.partRemoved,
    edited('remove a part', (score, { part }) => edits.removePart(score, part)),
  ),
  on(
    ScoreActions.partChanged,
    edited('change a part', (score, { part, change }) => edits.changePart(score, part, change)),
  ),
  on(
    ScoreActions.briefChanged,
    edited('change a brief', (score, { part, change }) => edits.changeBrief(score, part, change)),
  ),
  on(
    ScoreActions.harmonyBriefChanged,
    edited('change the chords’ brief', (score, { section, change }) =>
      edits.changeHarmonyBrief(score, section, change),
    ),
  ),
  on(
    ScoreActions.chordSettingChanged,
    edited('change how the chords sound', (score, { section, change }) =>
      edits.changeChordSetting(score, section, change),
    ),
  ),
  on(
    ScoreActions.energyDrawn,
    edited('draw the energy', (score, { occurrence, points }) => edits.setEnergy(score, occurrence, points)),
  ),
  on(
    ScoreActions.energyShaped,
    edited('shape the energy', (score, { points }) => ({ ...score, energy: points })),
  ),
  on(
    ScoreActions.sectionAdded,
    edited('add a section', (score, { section, occurrence, after }) =>
      edits.addSection(score, section, occurrence, after),
    ),
  ),
  on(
    ScoreActions.sectionChanged,
    edited('change a section', (score, { section, change }) => edits.changeSection(score, section, change)),
  ),
  on(
    ScoreActions.occurrenceAdded,
    edited('repeat a section', (score, { occurrence, after }) => edits.insertOccurrence(score, occurrence, after)),
  ),
  on(
    ScoreActions.occurrenceMoved,
    edited('move a section', (score, { occurrence, to }) => edits.moveOccurrence(score, occurrence, to)),
  ),
  on(
    ScoreActions.occurrenceRemoved,
    edited('take out a section', (score, { occurrence }) => edits.removeOccurrence(score, occurrence)),
  ),
  on(
    TakeActions.chosen,
    edited('choose a take', (score, { section, line, take }) => edits.choose(score, section, line, take)),
  ),
  on(
    TakeActions.allChosen,
    edited('choose all heard takes', (score, { choices }) =>
      choices.reduce((result, { section, line, take }) => edits.choose(result, section, line, take), score),
    ),
  ),
  on(
    TakeActions.judged,
    edited('judge a take', (score, { take, verdict }) => edits.remark(score, take, { verdict })),
  ),
  on(
    TakeActions.named,
    edited('name a take', (score, { take, name }) => edits.nameTake(score, take, name)),
  ),
];

const withTakes = (state: SongState, takes: readonly Take[]): SongState => ({
  ...state,
  takes:
    takes.length === 0 ? state.takes : { ...state.takes, ...Object.fromEntries(takes.map((take) => [take.id, take])) },
});

/** Chords are typed by people; notes come from drafters and files that were checked on their way. */
const takesProblem = (takes: readonly Take[]): string | null =>
  takes.reduce<string | null>((found, take) => found ?? (take.of === 'harmony' ? takeProblem(take) : null), null);

/** An edit that brings takes along: all of it happens or nothing does. */
function revised(
  state: SongState,
  { name, score, takes, gesture, dropped = [] }: ReturnType<typeof ScoreActions.revised>,
): SongState {
  if (!state.score) return state;
  const problem = takesProblem(takes);
  if (problem !== null) return { ...state, refused: { reason: problem } };
  const whole = withTakes(state, takes);
  const next = edited(name, () => score)(whole, gesture === undefined ? {} : { gesture });
  if (next.refused !== state.refused) return { ...state, refused: next.refused };
  return next.past === state.past ? withoutTakes(next, dropped) : next;
}

/** Lets go of takes that a gesture passed on its way; those that were written into the logbook stay. */
function withoutTakes(state: SongState, dropped: readonly TakeId[]): SongState {
  const gone = new Set(dropped);
  for (const { take } of state.heard) gone.delete(take);
  if (gone.size === 0) return state;
  return { ...state, takes: Object.fromEntries(Object.entries(state.takes).filter(([id]) => !gone.has(id))) };
}

export const songReducer = createReducer(
  CLOSED,
  ...(scoreEdits as ReducerTypes<SongState, ActionCreator[]>[]),
  on(ScoreActions.revised, revised),
  on(TakeActions.made, (state, { takes }): SongState =>
    state.score ? { ...withTakes(state, takes), saving: changed(state) } : state,
  ),
  on(TakeActions.cleared, (state, { takes }): SongState => {
    const gone = new Set(takes);
    return {
      ...state,
      takes: Object.fromEntries(Object.entries(state.takes).filter(([id]) => !gone.has(id))),
      saving: changed(state),
    };
  }),
  on(TakeActions.madeAndHeard, TakeActions.bandHeard, (state, { takes = [] }): SongState => {
    const problem = takesProblem(takes);
    if (problem !== null) return { ...state, refused: { reason: problem } };
    return state.score ? { ...withTakes(state, takes), saving: changed(state) } : state;
  }),
  on(TakeActions.logged, (state, { lines }): SongState => ({
    ...state,
    heard: [...state.heard, ...lines],
    saving: changed(state),
  })),
  on(TakeActions.heard, TakeActions.released, (state): SongState => ({ ...state, saving: changed(state) })),
  on(SongActions.opened, (_state, { song }): SongState => ({
    ...CLOSED,
    open: { id: song.id, seed: song.seed },
    score: song.score,
    takes: song.ledger.takes,
    heard: song.ledger.heard,
  })),
  on(SongActions.closed, (): SongState => CLOSED),
  on(SongActions.undone, (state): SongState => {
    const step = state.past.at(-1);
    if (!step || !state.score) return state;
    return {
      ...state,
      score: step.before,
      past: state.past.slice(0, -1),
      future: [...state.future, { name: step.name, before: state.score }],
      saving: changed(state),
    };
  }),
  on(SongActions.redone, (state): SongState => {
    const step = state.future.at(-1);
    if (!step || !state.score) return state;
    return {
      ...state,
      score: step.before,
      future: state.future.slice(0, -1),
      past: [...state.past, { name: step.name, before: state.score }],
      saving: changed(state),
    };
  }),
  on(SongActions.saved, (state, { whole }): SongState => ({ ...state, saving: whole ? 'saved' : 'changed' })),
  on(SongActions.savingFailed, (state): SongState => ({ ...state, saving: 'failed' })),
);

export const songFeature = createFeature({ name: 'song', reducer: songReducer });

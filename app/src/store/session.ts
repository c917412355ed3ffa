import { createActionGroup, createFeature, createReducer, emptyProps, on, props } from '@ngrx/store';
import type { HeardTakes } from '@fendro/core/song/resolve';
import type { Following, GroundChange } from '@fendro/core/song/follow-ground';
import { own } from '@fendro/core/song/look-up';
import { chosenId } from '@fendro/core/song/section';
import {
  HARMONY,
  type ChordSetting,
  type ChordSpan,
  type LineId,
  type Score,
  type OccurrenceId,
  type PartId,
  type SectionId,
} from '@fendro/core/song/schema';
import type { Ticks } from '@fendro/core/theory/units';
import { ScoreActions, SongActions, TakeActions } from './song.actions';

/** When a take that is tried takes over while playing. */
export type SwitchAt = 'bar' | 'beat' | 'top';

export const CHORD_TABS = ['draft', 'next', 'collection', 'voicing', 'rhythm', 'facts'] as const;
export type ChordTab = (typeof CHORD_TABS)[number];

/** Steps in ticks of the places at which chords are typed and moved. */
export const CHORD_GRIDS = { beat: 0, eighth: 240, triplet: 160, sixteenth: 120 } as const;
export type ChordGrid = keyof typeof CHORD_GRIDS;

/** What goes on by itself: new takes one after the other, or two of them in turn. */
export type ByItself = 'run-through' | 'turns';

/** Drawers under the sheet; one is open at a time. */
export type Drawer =
  | 'overview'
  | 'close-up'
  | 'patterns'
  | 'plan'
  | 'logbook'
  | 'mix'
  | 'styles'
  | 'phrases'
  | 'shelf'
  | 'play'
  | 'guide';

/** A change of ground that is heard before it is decided how the music follows. */
export interface PendingGround extends GroundChange {
  readonly how: Following;
}

/** Bars of the section in view, counted from 0; `to` is not included. */
export interface BarSpan {
  readonly from: number;
  readonly to: number;
}

/**
 * How things stand at the desk: what is looked at, heard and looped. Never undone; only what is heard is kept with
 * the song.
 */
export interface SessionState {
  /** The place in the running order that is in view. */
  readonly occurrence: OccurrenceId | null;
  readonly line: LineId;
  readonly heard: HeardTakes;
  /** Which pass of each section sounded last: how often it was played before, since play was pressed. */
  readonly passes: Readonly<Record<SectionId, number>>;
  readonly bars: BarSpan | null;
  /** The bar that keys on the sheet go on from, counted from 0. */
  readonly cursor: number;
  readonly looping: boolean;
  readonly metronome: boolean;
  readonly switchAt: SwitchAt;
  /** What takes come in by while nobody asks for them. */
  readonly running: ByItself | null;
  /** Pictures of lines say what each note does. */
  readonly rolesShown: boolean;
  /** Parts heard alone. */
  readonly alone: readonly string[];
  /** What stands open under the sheet. */
  readonly drawer: Drawer | null;
  /** What the bench shows of the chords. */
  readonly chordTab: ChordTab;
  /** The chord that the bench speaks of: a place in ticks from the section's start. */
  readonly chordAt: Ticks;
  readonly grid: ChordGrid;
  /** Chords that were copied. */
  readonly clip: readonly ChordSpan[] | null;
  /** A change of key or scale that is heard but not decided. */
  readonly pendingGround: PendingGround | null;
  /** A rhythm or setting of the chord line that is heard but not taken. */
  readonly chordTrial: { readonly section: SectionId; readonly setting: Partial<ChordSetting> } | null;
}

export const FRESH: SessionState = {
  occurrence: null,
  line: HARMONY,
  heard: {},
  passes: {},
  bars: null,
  cursor: 0,
  looping: true,
  metronome: false,
  switchAt: 'bar',
  running: null,
  rolesShown: false,
  alone: [],
  drawer: null,
  chordTab: 'draft',
  chordAt: 0,
  grid: 'beat',
  clip: null,
  pendingGround: null,
  chordTrial: null,
};

export const SessionActions = createActionGroup({
  source: 'Session',
  events: {
    /** A place comes into view; with a line and a bar, the focus and the cursor go there too. */
    'Occurrence viewed': props<{ occurrence: OccurrenceId; line?: LineId; bar?: number }>(),
    'Line focused': props<{ line: LineId }>(),
    'Cursor moved': props<{ bar: number }>(),
    'Bars selected': props<{ bars: BarSpan | null }>(),
    /** A section begins to sound once more. */
    'Pass begun': props<{ section: SectionId; pass: number }>(),
    'Loop toggled': emptyProps(),
    'Metronome toggled': emptyProps(),
    'Switch moment set': props<{ switchAt: SwitchAt }>(),
    'Run set': props<{ running: ByItself | null }>(),
    'Alone toggled': props<{ part: PartId }>(),
    'Drawer toggled': props<{ drawer: Drawer }>(),
    'Chord tab opened': props<{ tab: ChordTab }>(),
    'Chord focused': props<{ at: Ticks }>(),
    'Grid set': props<{ grid: ChordGrid }>(),
    'Roles toggled': emptyProps(),
    'Chords copied': props<{ clip: readonly ChordSpan[] }>(),
    'Ground tried': props<{ pending: PendingGround | null }>(),
    'Chord setting tried': props<{ section: SectionId; setting: Partial<ChordSetting> | null }>(),
  },
});

function release(heard: HeardTakes, section: SectionId, line: LineId): HeardTakes {
  const { [line]: _gone, ...lines } = own(heard, section) ?? {};
  const { [section]: _all, ...others } = heard;
  return Object.keys(lines).length === 0 ? others : { ...others, [section]: lines };
}

/** Opens where there is something to hear of the first part; in an empty song, at the chords of its beginning. */
function firstView({ parts, sections, order }: Score): Pick<SessionState, 'occurrence' | 'line'> {
  const line = parts[0]?.id ?? HARMONY;
  const filled = new Set(sections.filter((section) => chosenId(section, line) !== null).map(({ id }) => id));
  const occurrence = order.find(({ section }) => filled.has(section));
  return occurrence ? { occurrence: occurrence.id, line } : { occurrence: order[0]?.id ?? null, line: HARMONY };
}

export const sessionReducer = createReducer(
  FRESH,
  on(SongActions.opened, (state, { song }): SessionState => ({
    ...FRESH,
    metronome: state.metronome,
    switchAt: state.switchAt,
    rolesShown: state.rolesShown,
    grid: state.grid,
    clip: state.clip,
    heard: song.hearing,
    ...firstView(song.score),
  })),
  on(SessionActions.occurrenceViewed, (state, { occurrence, line = state.line, bar }): SessionState => {
    const here = occurrence === state.occurrence;
    if (here && line === state.line && bar === undefined) return state;
    const elsewhere = here ? {} : { occurrence, bars: null, chordAt: 0 };
    return { ...state, ...elsewhere, line, cursor: bar ?? (here ? state.cursor : 0), chordTrial: null };
  }),
  on(SessionActions.lineFocused, (state, { line }): SessionState => ({ ...state, line, chordTrial: null })),
  on(SessionActions.cursorMoved, (state, { bar }): SessionState => ({ ...state, cursor: bar })),
  on(SessionActions.barsSelected, (state, { bars }): SessionState => ({ ...state, bars })),
  on(SessionActions.passBegun, (state, { section, pass }): SessionState =>
    state.passes[section] === pass ? state : { ...state, passes: { ...state.passes, [section]: pass } },
  ),
  on(SessionActions.loopToggled, (state): SessionState => ({ ...state, looping: !state.looping })),
  on(SessionActions.metronomeToggled, (state): SessionState => ({ ...state, metronome: !state.metronome })),
  on(SessionActions.switchMomentSet, (state, { switchAt }): SessionState => ({ ...state, switchAt })),
  on(SessionActions.runSet, (state, { running }): SessionState => ({ ...state, running })),
  on(SessionActions.aloneToggled, (state, { part }): SessionState => ({
    ...state,
    alone: state.alone.includes(part) ? state.alone.filter((other) => other !== part) : [...state.alone, part],
  })),
  on(SessionActions.rolesToggled, (state): SessionState => ({ ...state, rolesShown: !state.rolesShown })),
  on(SessionActions.drawerToggled, (state, { drawer }): SessionState => ({
    ...state,
    drawer: state.drawer === drawer ? null : drawer,
  })),
  on(SessionActions.chordTabOpened, (state, { tab }): SessionState => ({ ...state, chordTab: tab, chordTrial: null })),
  on(SessionActions.chordFocused, (state, { at }): SessionState => ({ ...state, chordAt: at })),
  on(SessionActions.gridSet, (state, { grid }): SessionState => ({ ...state, grid })),
  on(SessionActions.chordsCopied, (state, { clip }): SessionState => ({ ...state, clip })),
  on(SessionActions.groundTried, (state, { pending }): SessionState => ({ ...state, pendingGround: pending })),
  on(SessionActions.chordSettingTried, (state, { section, setting }): SessionState => ({
    ...state,
    chordTrial: setting ? { section, setting } : null,
  })),
  on(ScoreActions.revised, (state, { released, view, focus }): SessionState => ({
    ...state,
    ...(focus === undefined ? {} : { line: focus, chordTrial: null }),
    ...(view === undefined ? {} : { occurrence: view, bars: null, cursor: 0, chordAt: 0 }),
    heard: released.reduce((heard, { section, line }) => release(heard, section, line), state.heard),
    pendingGround: null,
  })),
  on(ScoreActions.sectionAdded, ScoreActions.occurrenceAdded, (state, { occurrence }): SessionState => ({
    ...state,
    bars: null,
    cursor: 0,
    occurrence: typeof occurrence === 'string' ? occurrence : occurrence.id,
  })),
  on(ScoreActions.partAdded, (state, { part }): SessionState => ({ ...state, line: part.id })),
  on(TakeActions.heard, TakeActions.madeAndHeard, (state, { section, line, take }): SessionState => ({
    ...state,
    heard: { ...state.heard, [section]: { ...state.heard[section], [line]: take } },
  })),
  on(TakeActions.bandHeard, (state, { section, band }): SessionState => ({
    ...state,
    heard: { ...state.heard, [section]: { ...state.heard[section], ...band } },
  })),
  on(TakeActions.released, TakeActions.chosen, (state, { section, line }): SessionState => ({
    ...state,
    heard: release(state.heard, section, line),
  })),
  on(TakeActions.allChosen, (state): SessionState => ({ ...state, heard: {} })),
);

/** A selector for each thing of the session: views read what they show, and nothing else. */
export const sessionFeature = createFeature({ name: 'session', reducer: sessionReducer });

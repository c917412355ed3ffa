import { createActionGroup, emptyProps, props } from '@ngrx/store';
import type {
  Brief,
  ChordSetting,
  EnergyPoint,
  Ground,
  HarmonyBrief,
  Heard as HeardLine,
  LineId,
  Occurrence,
  Part,
  Score,
  Section,
  Song,
  Take,
  Verdict,
  OccurrenceId,
  PartId,
  SectionId,
  TakeId,
} from '@fendro/core/song/schema';

/** What the writer does to the score; each is one undo step, named in song.reducer.ts. */
export const ScoreActions = createActionGroup({
  source: 'Score',
  events: {
    'Title set': props<{ title: string }>(),
    'Ground set': props<{ change: Partial<Ground>; gesture?: string }>(),
    'Part added': props<{ part: Part }>(),
    'Part removed': props<{ part: PartId }>(),
    /** `gesture` joins the many small changes of one drag into one step. */
    'Part changed': props<{ part: PartId; change: Partial<Omit<Part, 'id' | 'role'>>; gesture?: string }>(),
    'Brief changed': props<{ part: PartId; change: Partial<Brief>; gesture?: string }>(),
    'Harmony brief changed': props<{ section: SectionId; change: Partial<HarmonyBrief>; gesture?: string }>(),
    'Section added': props<{ section: Section; occurrence: OccurrenceId; after?: string }>(),
    'Section changed': props<{
      section: SectionId;
      change: Partial<Pick<Section, 'name' | 'kind' | 'bars'>>;
      gesture?: string;
    }>(),
    'Occurrence added': props<{ occurrence: Occurrence; after?: string }>(),
    'Occurrence moved': props<{ occurrence: OccurrenceId; to: number }>(),
    'Occurrence removed': props<{ occurrence: OccurrenceId }>(),
    'Chord setting changed': props<{ section: SectionId; change: Partial<ChordSetting>; gesture?: string }>(),
    'Energy drawn': props<{
      occurrence: OccurrenceId;
      points: readonly { at: number; value: number }[];
      gesture?: string;
    }>(),
    'Energy shaped': props<{ points: readonly EnergyPoint[] }>(),
    /**
     * Anything that makes new takes and chooses them in one step, named by what the writer did; heard takes of those
     * lines are let go. `view` is a place of the running order to look at, `focus` a line.
     */
    Revised: props<{
      name: string;
      score: Score;
      takes: readonly Take[];
      released: readonly { section: SectionId; line: LineId }[];
      gesture?: string;
      /** Takes that this step of a gesture made before: nobody will look for them. */
      dropped?: readonly TakeId[];
      view?: string;
      focus?: LineId;
    }>(),
  },
});

export const TakeActions = createActionGroup({
  source: 'Take',
  events: {
    /** Takes came to be. */
    Made: props<{ takes: readonly Take[] }>(),
    /** Takes that nobody has heard, chosen or judged are let go; nothing else ever leaves the ledger. */
    Cleared: props<{ takes: readonly string[] }>(),
    /** Takes came to be and the last of them is heard. */
    'Made and heard': props<{ takes: readonly Take[]; take: TakeId; section: SectionId; line: LineId }>(),
    /** A take sounds in place of the chosen one. */
    Heard: props<{ take: TakeId; section: SectionId; line: LineId }>(),
    /** Several takes of a section sound together in place of the chosen ones; some of them came to be for it. */
    'Band heard': props<{ section: SectionId; band: Readonly<Record<LineId, TakeId>>; takes?: readonly Take[] }>(),
    /** Lines of the logbook: what began to sound. */
    Logged: props<{ lines: readonly HeardLine[] }>(),
    /** Back to the chosen take. */
    Released: props<{ section: SectionId; line: LineId }>(),
    Chosen: props<{ section: SectionId; line: LineId; take: TakeId | null }>(),
    /** Every heard take becomes the chosen one. */
    'All chosen': props<{ choices: readonly { section: SectionId; line: LineId; take: TakeId }[] }>(),
    Judged: props<{ take: TakeId; verdict: Verdict | null }>(),
    Named: props<{ take: TakeId; name: string }>(),
  },
});

export const SongActions = createActionGroup({
  source: 'Song',
  events: {
    Opened: props<{ song: Song }>(),
    Closed: emptyProps(),
    Undone: emptyProps(),
    Redone: emptyProps(),
    /** `whole`: nothing has changed since. */
    Saved: props<{ whole: boolean }>(),
    'Saving failed': emptyProps(),
  },
});

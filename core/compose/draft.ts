import type { Asking, Attempts, ChordSpan, HarmonyBrief, Note, PartTake, Role, Take } from '../song/schema';
import type { Style } from '../song/style';
import { styleOf } from '../styles/styles';
import { draftArpeggio, draftComping, draftPad } from './accompaniment';
import { draftBass } from './bass';
import { contextOf, type DraftContext, type Drafter, type PartContext, type PartDraft, type Unmet } from './context';
import { draftCounter } from './counter';
import { draftDrums, draftPercussion } from './drums';
import { draftEnsemble } from './ensemble';
import { draftPicking, draftStrum } from './guitar';
import { draftProgression, plainHarmony } from './harmony/progression';
import { readingBrief } from './harmony/under-melody';
import { draftMelody } from './melody/melody';
import { chordsFromKin, givenTo } from './given';
import { NOTHING_HELD } from './held';
import { draftLeaning } from './leaning';
import { laidOver } from './held-bars';
import { saidOver } from './said';
import { attemptsAt, streamsOf, type Streams } from './stages';
import { draftOstinato } from './ostinato';
import { withEnergy } from '../song/energy';
import { withProfile } from '../song/profile';

/** An asking together with the music that it names by id. */
export interface DraftRequest {
  readonly asking: Asking;
  readonly seed: number;
  /** The section's chords; null before there are any. */
  readonly chords: readonly ChordSpan[] | null;
  readonly beside: readonly PartTake[];
  /** Takes of the same line that the asking holds something of, or is to be kin to, as they sound over the chords. */
  readonly models?: readonly Take[];
  /** Stages that keep an attempt of their own, whichever is drawn. */
  readonly kept?: Partial<Attempts>;
  /** The asking's style, where it is one of the writer's own and does not ship. */
  readonly style?: Style;
}

export type Content =
  | { readonly of: 'part'; readonly notes: readonly Note[] }
  | { readonly of: 'harmony'; readonly chords: readonly ChordSpan[] };
export type Draft = { readonly ok: true; readonly content: Content } | Unmet;

/** How a role's lines are drafted, and what they keep of what is held: single notes, or bars. */
interface Player {
  readonly draw: Drafter;
  readonly keeps: 'notes' | 'bars';
}

const byNote = (draw: Drafter): Player => ({ keeps: 'notes', draw });

/** What is held is laid over what the drafter gives, which knows nothing of it. */
const byBar = (draw: Drafter): Player => ({
  keeps: 'bars',
  draw: (context, streams) => {
    const result = draw({ ...context, held: NOTHING_HELD }, streams);
    return result.ok ? { ok: true, notes: laidOver(result.notes, context) } : result;
  },
});

const PLAYERS: Readonly<Record<Role, Player>> = {
  melody: byNote(draftMelody),
  solo: byNote(draftMelody),
  counter: byNote(draftCounter),
  ostinato: byBar(draftOstinato),
  comping: byBar(draftComping),
  strum: byBar(draftStrum),
  picking: byBar(draftPicking),
  arpeggio: byBar(draftArpeggio),
  pad: byBar(draftPad),
  ensemble: byNote(draftEnsemble),
  bass: byNote(draftBass),
  drums: byBar(draftDrums),
  percussion: byBar(draftPercussion),
};

/** Whether a role keeps single notes as they are while others are drawn anew around them, or bars. */
export const keepsOf = (role: Role): Player['keeps'] => PLAYERS[role].keeps;

type Bars = NonNullable<Asking['only']>;

/** Some bars of a section by themselves, with the chords that sound there. */
function onlyBars(context: PartContext, { from, to }: Bars): PartContext {
  const last = Math.max(from, Math.min(to, context.bars));
  const [start, end] = [from * context.barTicks, last * context.barTicks];
  const chords = context.chords
    .filter((span) => span.start < end && span.start + span.duration > start)
    .map((span) => ({
      ...span,
      start: Math.max(span.start, start) - start,
      duration: Math.min(span.start + span.duration, end) - Math.max(span.start, start),
    }));
  return { ...context, bars: last - from, length: end - start, chords, beside: [] };
}

function draftPart({ asking, models = [] }: DraftRequest, context: PartContext, streams: Streams): PartDraft {
  const { draw, keeps } = PLAYERS[context.role];
  const first = asking.only?.from ?? 0;
  const stretch = asking.only ? onlyBars(context, asking.only) : context;
  if (stretch.bars === 0) return { ok: true, notes: [] };
  const held = givenTo(asking, models, { first, bars: stretch.bars, barTicks: context.barTicks }, keeps, streams);
  const result = draw({ ...stretch, held }, streams);
  if (!result.ok) return result;
  const from = first * context.barTicks;
  const notes = saidIn(asking, first, result.notes, { ...stretch, held }, streams);
  return { ok: true, notes: notes.map((note) => ({ ...note, start: note.start + from })) };
}

/** What was drafted, with the motif that the writer has said in some bars. */
function saidIn(
  { motif }: Asking,
  first: number,
  notes: Note[],
  context: PartContext,
  streams: Streams,
): readonly Note[] {
  if (!motif?.over) return notes;
  const said = { motif, from: motif.over.from - first, to: motif.over.to - first };
  return saidOver(notes, said, context, streams('pitch', 'said'));
}

function draftHarmony(request: DraftRequest, context: DraftContext, brief: HarmonyBrief, streams: Streams): Draft {
  const { asking, beside, models = [] } = request;
  const melody = brief.under === null ? [] : beside.filter(({ part }) => part === brief.under);
  const kin = chordsFromKin(asking, models, context, streams);
  if (kin.whole) return { ok: true, content: { of: 'harmony', chords: kin.chords } };
  const result = draftProgression(
    { ...context, brief, held: kin.chords, places: kin.places, melody: melody.flatMap(({ notes }) => notes) },
    streams,
  );
  return result.ok ? { ok: true, content: { of: 'harmony', chords: result.chords } } : result;
}

/**
 * Makes one draft. The same request and attempt give the same notes on every machine.
 *
 * @param attempt  counts the draws from this seed, for all stages that the request keeps no attempt of; every draw is
 *                 independent of the others
 */
export function draft(request: DraftRequest, attempt: number): Draft {
  const { asking, seed, chords, beside, style, kept } = request;
  const context = contextOf(asking, style ?? styleOf(asking.ground.style), chords ?? [], beside);
  const attempts = attemptsAt(attempt, kept);
  if (asking.harmonyBrief) {
    const { harmonyBrief: brief } = asking;
    const reading = brief.under === null ? brief : readingBrief(brief, attempts.plan);
    return draftHarmony(request, context, reading, streamsOf(seed, 'harmony', attempts));
  }
  const { brief, role, energy } = asking;
  if (!brief || !role) return { ok: false, reason: 'The asking names neither a part nor the chords.' };
  const sounding = chords ?? plainHarmony(context.key, context.length);
  const inKind = asking.bound ? withProfile(brief, asking.kind, role) : brief;
  const leaned = energy === undefined ? inKind : withEnergy(inKind, energy, role);
  const part: PartContext = { ...context, chords: sounding, role, brief: leaned, held: NOTHING_HELD };
  const result = draftLeaning(request, part, attempts.plan, (asked, own) =>
    draftPart(asked, own, streamsOf(seed, role, attempts)),
  );
  return result.ok ? { ok: true, content: { of: 'part', notes: result.notes } } : result;
}

import type { Asking, ChordSpan, Note, PartTake } from '../song/schema';
import type { Style } from '../song/style';
import { styleOf } from '../styles/styles';
import { draftArpeggio, draftComping, draftPad } from './accompaniment';
import { draftBass } from './bass';
import { contextOf, type PartContext, type PartDraft, type Unmet } from './context';
import { draftCounter } from './counter';
import { draftDrums, draftPercussion } from './drums';
import { draftEnsemble } from './ensemble';
import { draftPicking, draftStrum } from './guitar';
import { draftProgression, plainHarmony } from './harmony/progression';
import { readingBrief } from './harmony/under-melody';
import { draftMelody } from './melody/melody';
import { draftOstinato } from './ostinato';
import { withEnergy } from '../song/energy';
import type { Role } from '../song/schema';

/** An asking together with the music that it names by id. */
export interface DraftRequest {
  readonly asking: Asking;
  readonly seed: number;
  /** The section's chords; null before there are any. */
  readonly chords: readonly ChordSpan[] | null;
  readonly beside: readonly PartTake[];
  /** The asking's style, where it is one of the writer's own and does not ship. */
  readonly style?: Style;
}

export type Content =
  | { readonly of: 'part'; readonly notes: readonly Note[] }
  | { readonly of: 'harmony'; readonly chords: readonly ChordSpan[] };
export type Draft = { readonly ok: true; readonly content: Content } | Unmet;

type Drafter = (context: PartContext, seed: number, attempt: number) => PartDraft;
type Bars = NonNullable<Asking['only']>;

const DRAFTERS: Readonly<Record<Role, Drafter>> = {
  melody: draftMelody,
  solo: draftMelody,
  counter: draftCounter,
  ostinato: draftOstinato,
  comping: draftComping,
  strum: draftStrum,
  picking: draftPicking,
  arpeggio: draftArpeggio,
  pad: draftPad,
  ensemble: draftEnsemble,
  bass: draftBass,
  drums: draftDrums,
  percussion: draftPercussion,
};

/** Drafts some bars of a section by themselves, over the chords that sound there. */
function draftOnly(
  context: PartContext,
  { from, to }: Bars,
  drafter: Drafter,
  seed: number,
  attempt: number,
): PartDraft {
  const last = Math.min(to, context.bars);
  const [start, end] = [from * context.barTicks, last * context.barTicks];
  if (last <= from) return { ok: true, notes: [] };
  const chords = context.chords
    .filter((span) => span.start < end && span.start + span.duration > start)
    .map((span) => ({
      ...span,
      start: Math.max(span.start, start) - start,
      duration: Math.min(span.start + span.duration, end) - Math.max(span.start, start),
    }));
  const result = drafter({ ...context, bars: last - from, length: end - start, chords, beside: [] }, seed, attempt);
  return result.ok ? { ok: true, notes: result.notes.map((note) => ({ ...note, start: note.start + start })) } : result;
}

/**
 * Makes one draft. The same request and attempt give the same notes on every machine.
 *
 * @param attempt  counts the draws from this seed; every draw is independent of the others
 */
export function draft({ asking, seed, chords, beside, style }: DraftRequest, attempt: number): Draft {
  const context = contextOf(asking, style ?? styleOf(asking.ground.style), chords ?? [], beside);
  if (asking.harmonyBrief) {
    const under = asking.harmonyBrief.under;
    const melody = under === null ? [] : beside.filter(({ part }) => part === under).flatMap(({ notes }) => notes);
    const brief = under === null ? asking.harmonyBrief : readingBrief(asking.harmonyBrief, attempt);
    const result = draftProgression({ ...context, brief, held: asking.heldChords ?? [], melody }, seed, attempt);
    return result.ok ? { ok: true, content: { of: 'harmony', chords: result.chords } } : result;
  }
  if (!asking.brief || !asking.role) return { ok: false, reason: 'The asking names neither a part nor the chords.' };
  const sounding = chords ?? plainHarmony(context.key, context.length);
  const brief = asking.energy === undefined ? asking.brief : withEnergy(asking.brief, asking.energy, asking.role);
  const whole: PartContext = { ...context, chords: sounding, role: asking.role, brief };
  const result = asking.only
    ? draftOnly(whole, asking.only, DRAFTERS[asking.role], seed, attempt)
    : DRAFTERS[asking.role](whole, seed, attempt);
  return result.ok ? { ok: true, content: { of: 'part', notes: result.notes } } : result;
}

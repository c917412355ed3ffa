import type { Asking, ChordSpan, Note, PartTake } from '../song/schema';
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

/** Rises whenever a drafter changes, so that a stored take says which engine made it. */
export const ENGINE = 2;

/** An asking together with the music that it names by id. */
export interface DraftRequest {
  readonly asking: Asking;
  readonly seed: number;
  /** The section's chords; null before there are any. */
  readonly chords: readonly ChordSpan[] | null;
  readonly beside: readonly PartTake[];
}

export type Content = { readonly of: 'part'; readonly notes: readonly Note[] } | { readonly of: 'harmony'; readonly chords: readonly ChordSpan[] };
export type Draft = { readonly ok: true; readonly content: Content } | Unmet;

const DRAFTERS: Readonly<Record<Role, (context: PartContext, seed: number, attempt: number) => PartDraft>> = {
  melody: draftMelody,
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

/**
 * Makes one draft. The same request and attempt give the same notes on every machine.
 *
 * @param attempt  counts the draws from this seed; every draw is independent of the others
 */
export function draft({ asking, seed, chords, beside }: DraftRequest, attempt: number): Draft {
  const context = contextOf(asking, styleOf(asking.ground.style), chords ?? [], beside);
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
  const result = DRAFTERS[asking.role]({ ...context, chords: sounding, role: asking.role, brief }, seed, attempt);
  return result.ok ? { ok: true, content: { of: 'part', notes: result.notes } } : result;
}

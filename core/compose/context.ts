import type { Asking, Brief, ChordSpan, HarmonyBrief, Note, PartTake, Role, SectionKind } from '../song/schema';
import type { Held } from './held';
import { degreeWeights } from '../song/ground';
import type { Style } from '../song/style';
import type { Streams } from './stages';
import type { Chord } from '../theory/chord';
import { keyMask, type Key } from '../theory/key';
import { barTicks, type Metre } from '../theory/metre';
import { pitchClassOf } from '../theory/pitch';
import { modulo, type MidiNote, type PitchClass, type PitchClassMask, type Ticks } from '../theory/units';

/** A motif that is said by hand in some bars, `to` not included. */
export interface Said {
  readonly motif: NonNullable<Asking['motif']>;
  readonly from: number;
  readonly to: number;
}

/** What every drafter is given: the asking, with everything looked up that it names. */
export interface DraftContext {
  readonly style: Style;
  readonly key: Key;
  readonly keyMask: PitchClassMask;
  readonly metre: Metre;
  readonly bars: number;
  readonly barTicks: Ticks;
  /** The section's length. */
  readonly length: Ticks;
  readonly kind: SectionKind;
  /** Whether the section leans as its kind does. */
  readonly bound: boolean;
  /** A motif of the song, and what the section does with it. */
  readonly motif: NonNullable<Asking['motif']> | null;
  readonly chords: readonly ChordSpan[];
  /** How likely each degree is taken, by semitones above the tonic, in %; null where all are alike. */
  readonly weights: ReadonlyMap<number, number> | null;
  /** Takes of other parts, to be listened to. */
  readonly beside: readonly PartTake[];
}

export interface PartContext extends DraftContext {
  readonly role: Role;
  readonly brief: Brief;
  /** What is there already and stays. */
  readonly held: Held;
}

export interface HarmonyContext extends DraftContext {
  readonly brief: HarmonyBrief;
  /** Chords that stay exactly as they are. */
  readonly held: readonly ChordSpan[];
  /** Places where a chord stands, whichever is drawn. */
  readonly places: readonly ChordSpan[];
  /** The melody that the chords go under; none when they come first. */
  readonly melody: readonly Note[];
}

/** A setting of a brief that can ask for too much. */
export type Blamed = 'register' | 'anchoring' | 'voices';

/** In plain words what cannot be met, and the setting that causes it where one does. */
export interface Unmet {
  readonly ok: false;
  readonly reason: string;
  readonly setting?: Blamed;
}

/** A drafter's notes, in order of their starts, or what cannot be met. */
export type PartDraft = { readonly ok: true; readonly notes: Note[] } | Unmet;

/** Drafts one line; whatever chance decides comes from the streams. */
export type Drafter = (context: PartContext, streams: Streams) => PartDraft;

export const unmet = (setting: Blamed, reason: string): Unmet => ({ ok: false, reason, setting });

export function contextOf(
  asking: Asking,
  style: Style,
  chords: readonly ChordSpan[],
  beside: readonly PartTake[],
): DraftContext {
  const { ground, bars, kind } = asking;
  const key: Key = { tonic: ground.tonic, scale: ground.scale };
  const bar = barTicks(ground.metre);
  const weights = degreeWeights(ground);
  return {
    style,
    key,
    keyMask: keyMask(key),
    metre: ground.metre,
    bars,
    barTicks: bar,
    length: bar * bars,
    kind,
    bound: asking.bound ?? false,
    // What is said by hand is laid over what the drafter makes, which knows nothing of it.
    motif: asking.motif && !asking.motif.over ? asking.motif : null,
    chords,
    weights,
    beside,
  };
}

/** The chord span that sounds at a moment, if any. */
export function spanAt(chords: readonly ChordSpan[], at: Ticks): ChordSpan | null {
  const span = chords.findLast((candidate) => candidate.start <= at);
  return span && at < span.start + span.duration ? span : null;
}

export const chordAt = (chords: readonly ChordSpan[], at: Ticks): Chord | null => spanAt(chords, at)?.chord ?? null;

/** The next chord after a moment, or the first of the section again: sections turn round. */
export function nextChord(chords: readonly ChordSpan[], at: Ticks): Chord | null {
  const later = chords.find((span) => span.start > at && span.chord !== null);
  return (later ?? chords.find((span) => span.chord !== null))?.chord ?? null;
}

/**
 * The share at which a pitch class is taken, 0–1, by the weight of its degree; notes outside the scale have no weight
 * of their own.
 */
export function degreeShare(
  { weights, key }: Pick<DraftContext, 'weights' | 'key'>,
  pitch: MidiNote | PitchClass,
): number {
  if (!weights) return 1;
  return (weights.get(modulo(pitch - pitchClassOf(key.tonic), 12)) ?? 100) / 100;
}

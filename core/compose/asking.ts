import { meanEnergy } from '../song/energy';
import { notesOver } from '../song/follow-chords';
import { groundOf, keyOf } from '../song/ground';
import { holdsOf } from '../song/holds';
import { own } from '../song/look-up';
import { chordsIn, harmonyTake, partTake, soundingId, type Music, type Takes } from '../song/resolve';
import { motifFor, USES_MOTIFS } from '../song/plan';
import { listenedTo } from '../song/roles';
import {
  ASPECTS,
  HARMONY,
  STAGES,
  type Asking,
  type Aspect,
  type Attempts,
  type HarmonyBrief,
  type Hold,
  type Kin,
  type LineId,
  type MotifUse,
  type Part,
  type PartId,
  type Section,
  type SongMotif,
  type Take,
  type TakeId,
} from '../song/schema';
import { relativesIn } from '../song/take';
import { ownStyleIn } from '../styles/styles';
import { range } from '../theory/units';
import { hashLabels } from '../trellis/random';
import type { DraftRequest } from './draft';
import { ENGINE } from './engine';

/**
 * The only place where an asking is built: what a section's line is to be drafted from, as the song stands.
 *
 * @param seed  the song's
 * @returns null where there is no such part
 */
export function requestFor(music: Music, section: Section, line: LineId, seed: number): DraftRequest | null {
  if (line === HARMONY) return harmonyRequest(music, section, seed);
  const part = music.score.parts.find(({ id }) => id === line);
  return part ? partRequest(music, section, part, seed) : null;
}

/** What every asking says of where it is for. */
export type AskingPlace = Pick<Asking, 'ground' | 'bars' | 'kind'>;

const placeOf = ({ score }: Music, section: Section): AskingPlace => ({
  ground: groundOf(score, section),
  bars: section.bars,
  kind: section.kind,
});

/** An asking for chords. */
export const harmonyAsking = (
  place: AskingPlace,
  harmonyBrief: HarmonyBrief,
  more: Partial<Pick<Asking, 'beside' | 'bound'>> = {},
): Asking => ({ engine: ENGINE, ...place, harmonyBrief, beside: [], ...more });

/** An asking for a part's line. */
export const partAsking = (
  place: AskingPlace,
  { brief, role }: Pick<Part, 'brief' | 'role'>,
  more: Partial<Pick<Asking, 'harmony' | 'beside' | 'only' | 'energy' | 'bound' | 'motif'>> = {},
): Asking => ({ engine: ENGINE, ...place, brief, role, beside: [], ...more });

function harmonyRequest(music: Music, section: Section, seed: number): DraftRequest {
  const { takes, heard } = music;
  const { under } = section.harmonyBrief;
  const melody = under === null ? null : partTake(takes, soundingId(section, under, heard));
  const asking = harmonyAsking(
    placeOf(music, section),
    { ...section.harmonyBrief, under: melody ? under : null },
    { beside: melody ? [melody.id] : [], ...(section.plan.bound ? { bound: true } : {}) },
  );
  const request: DraftRequest = {
    asking,
    seed: hashLabels(seed, [section.id, HARMONY]),
    chords: null,
    beside: melody ? [melody] : [],
    ...styleFor(music, asking),
  };
  return withHeld(music, section, HARMONY, request);
}

function partRequest(music: Music, section: Section, part: Part, seed: number): DraftRequest {
  const { score, takes, heard } = music;
  const place = placeOf(music, section);
  const ground = part.style === null ? place.ground : { ...place.ground, style: part.style };
  const harmony = soundingId(section, HARMONY, heard);
  const listened = listenedTo(part, score.parts);
  const take = listened ? partTake(takes, soundingId(section, listened.id, heard)) : null;
  const beside = take ? [take] : [];
  const asking = partAsking({ ...place, ground }, part, {
    ...onlyOf(section, part.id),
    ...energyOf(music, section),
    ...planOf(music, section, part),
    ...(harmony === null ? {} : { harmony }),
    beside: beside.map(({ id }) => id),
  });
  const chords = chordsIn(section, takes, heard);
  const request: DraftRequest = {
    asking,
    seed: hashLabels(seed, [section.id, part.id]),
    chords: chords.length > 0 ? chords : null,
    beside,
    ...styleFor(music, asking),
  };
  return withHeld(music, section, part.id, request);
}

/** A request that keeps what the writer holds of its line. */
function withHeld(music: Music, section: Section, line: LineId, request: DraftRequest): DraftRequest {
  const holds = holdsOf(section, line);
  return holds.length > 0 ? withModels(music, request, { holds }) : request;
}

/** What of a line is to be drawn anew; the rest of what sounds is held. */
export interface Selection {
  /** Counted from 0. */
  readonly bars: readonly number[];
  readonly aspects: readonly Aspect[];
}

/** What stays of a take when only a selection of it is drawn anew. */
function heldBeside(take: TakeId, bars: number, selection: Selection): Hold[] {
  const selected = (bar: number): boolean => selection.bars.includes(bar);
  const others = ASPECTS.filter((aspect) => !selection.aspects.includes(aspect));
  return [
    { take, aspects: [...ASPECTS], bars: range(bars).filter((bar) => !selected(bar)), notes: [] },
    ...(others.length > 0 ? [{ take, aspects: others, bars: range(bars).filter(selected), notes: [] }] : []),
  ].filter((hold) => hold.bars.length > 0);
}

/** A motif of the song that the writer has a part say, in chosen bars or wherever the part likes. */
export interface Saying {
  readonly motif: SongMotif;
  readonly use: MotifUse;
  /** Counted from 0, `to` not included. */
  readonly bars: { readonly from: number; readonly to: number } | null;
}

/**
 * What a part is to be drafted from so that it says a motif: in chosen bars while the rest of what sounds stays, else
 * over the whole section.
 *
 * @returns null for the chords, and where there is no such part
 */
export function motifRequest(
  music: Music,
  section: Section,
  line: LineId,
  seed: number,
  { motif, use, bars }: Saying,
): DraftRequest | null {
  const part = music.score.parts.find(({ id }) => id === line);
  if (!part) return null;
  const selection = bars && { bars: range(bars.to - bars.from).map((bar) => bar + bars.from), aspects: ASPECTS };
  const again = selection && redraftRequest(music, section, line, seed, selection);
  const request = again ?? requestFor(music, section, line, seed);
  if (!request) return null;
  const { name, bars: length, barTicks, notes } = motif;
  // Drafters that know motifs weave them in themselves; for the others it is said from the first bar on.
  const over = bars ?? (USES_MOTIFS.has(part.role) ? null : { from: 0, to: section.bars });
  const said = { bars: length, barTicks, notes, use, name, ...(over ? { over } : {}) };
  return { ...request, asking: { ...request.asking, motif: said } };
}

/** How a take's line was last drafted, however it was edited since; null where nobody drafted it. */
function draftOf(take: Take, takes: Takes): { readonly seed: number; readonly attempts: Attempts } | null {
  for (let now: Take | undefined = take, steps = 0; now && steps < FAR; steps++) {
    const { seed, attempts, parents }: Take['origin'] = now.origin;
    if (attempts) return { seed, attempts };
    now = parents[0] === undefined ? undefined : own(takes, parents[0]);
  }
  return null;
}
/** Edits after each other that are looked back over. */
const FAR = 1_000;

/**
 * What a line is to be drafted again from: all that sounds is held but for the selection, and whatever else the writer
 * holds. The plan stays, and every stage that no selected aspect belongs to.
 *
 * @returns null where there is no such line or nothing sounds
 */
export function redraftRequest(
  music: Music,
  section: Section,
  line: LineId,
  seed: number,
  selection: Selection,
): DraftRequest | null {
  const request = requestFor(music, section, line, seed);
  const id = soundingId(section, line, music.heard);
  const take = line === HARMONY ? harmonyTake(music.takes, id) : partTake(music.takes, id);
  if (!request || !take) return null;
  const drafted = draftOf(take, music.takes);
  const stays = STAGES.filter((stage) => stage === 'plan' || !selection.aspects.includes(stage));
  const holds = [...(request.asking.holds ?? []), ...heldBeside(take.id, section.bars, selection)];
  return {
    ...withModels(music, request, { holds }),
    ...(drafted
      ? { seed: drafted.seed, kept: Object.fromEntries(stays.map((stage) => [stage, drafted.attempts[stage]])) }
      : {}),
  };
}

/**
 * What a line is to be drafted from so that it is near one take or two of them; what the writer holds stays.
 *
 * @returns null where there is no such line
 */
export function kinRequest(music: Music, section: Section, line: LineId, seed: number, kin: Kin): DraftRequest | null {
  const request = requestFor(music, section, line, seed);
  if (!request) return null;
  const near = withModels(music, request, { kin });
  const parent = kin.by === 'variation' ? own(music.takes, kin.takes[0]) : undefined;
  const drafted = parent ? draftOf(parent, music.takes) : null;
  return drafted ? { ...near, seed: drafted.seed, kept: { plan: drafted.attempts.plan } } : near;
}

/** A request with what it holds and is near to, and the takes that this names. */
function withModels(music: Music, request: DraftRequest, more: Pick<Asking, 'holds' | 'kin'>): DraftRequest {
  const asking = { ...request.asking, ...more };
  return { ...request, asking, models: modelsOf(asking, music.takes) };
}

/** The takes that an asking holds something of or is near to, as they sound over its chords. */
const modelsOf = (asking: Asking, takes: Takes): Take[] =>
  relativesIn(asking).flatMap((id): Take[] => {
    const take = own(takes, id);
    if (take?.of !== 'part') return take ? [take] : [];
    return [{ ...take, notes: notesOver(take, asking.harmony ?? null, keyOf(asking.ground), takes) }];
  });

/**
 * The request that a drafted take was made from: drafted again at any attempt, as all its stages keep their own, it
 * gives the take note for note.
 *
 * @returns null where it was not drafted
 */
export function requestAgain(music: Pick<Music, 'score' | 'takes'>, { origin }: Take): DraftRequest | null {
  const { asking, seed, attempts } = origin;
  if (!asking || !attempts) return null;
  const { takes } = music;
  return {
    asking,
    seed,
    chords: harmonyTake(takes, asking.harmony ?? null)?.chords ?? null,
    beside: asking.beside.flatMap((id) => partTake(takes, id) ?? []),
    models: modelsOf(asking, takes),
    kept: attempts,
    ...styleFor(music, asking),
  };
}

/** The style of an asking, where the song carries it: those that draft know only the styles that ship. */
const styleFor = ({ score }: Pick<Music, 'score'>, { ground }: Asking): Pick<DraftRequest, 'style'> => {
  const style = ownStyleIn(score, ground.style);
  return style ? { style } : {};
};

/** The bars that a part has to itself in a section, where it has some. */
const onlyOf = ({ solos }: Section, part: PartId): Pick<Asking, 'only'> => {
  const solo = solos.find((candidate) => candidate.part === part);
  return solo ? { only: { from: solo.from, to: solo.to } } : {};
};

/** What the plan of the song says of a part in a section: lines use its motif, all lean where the section is bound. */
const planOf = ({ score }: Music, section: Section, { role }: Part): Pick<Asking, 'bound' | 'motif'> => {
  if (!section.plan.bound) return {};
  const motif = USES_MOTIFS.has(role) ? motifFor(score, section) : null;
  return { bound: true, ...(motif ? { motif } : {}) };
};

/** The section's mean energy, where a line is drawn. */
const energyOf = ({ score }: Music, section: Section): Pick<Asking, 'energy'> => {
  const energy = meanEnergy(score, section.id);
  return energy === null ? {} : { energy };
};

import { meanEnergy } from '../song/energy';
import { notesOver } from '../song/follow-chords';
import { barOf, groundOf, keyOf } from '../song/ground';
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
  type ChordSpan,
  type HarmonyBrief,
  type Hold,
  type Kin,
  type LineId,
  type Part,
  type PartId,
  type Section,
  type Take,
  type TakeId,
} from '../song/schema';
import { relativesIn } from '../song/take';
import { ownStyleIn } from '../styles/styles';
import { range, type Ticks } from '../theory/units';
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
  more: Partial<Pick<Asking, 'heldChords' | 'beside' | 'bound'>> = {},
): Asking => ({ engine: ENGINE, ...place, harmonyBrief, beside: [], ...more });

/** An asking for a part's line. */
export const partAsking = (
  place: AskingPlace,
  { brief, role }: Pick<Part, 'brief' | 'role'>,
  more: Partial<Pick<Asking, 'harmony' | 'beside' | 'only' | 'energy' | 'bound' | 'motif'>> = {},
): Asking => ({ engine: ENGINE, ...place, brief, role, beside: [], ...more });

function harmonyRequest(music: Music, section: Section, seed: number): DraftRequest {
  const { score, takes, heard } = music;
  const heldChords = heldSpans(chordsIn(section, takes, heard), section.heldBars, barOf(score, section));
  const { under } = section.harmonyBrief;
  const melody = under === null ? null : partTake(takes, soundingId(section, under, heard));
  const asking = harmonyAsking(
    placeOf(music, section),
    { ...section.harmonyBrief, under: melody ? under : null },
    {
      ...(heldChords.length > 0 ? { heldChords } : {}),
      beside: melody ? [melody.id] : [],
      ...(section.plan.bound ? { bound: true } : {}),
    },
  );
  const own = hashLabels(seed, [section.id, HARMONY]);
  return { asking, seed: own, chords: null, beside: melody ? [melody] : [], ...styleFor(music, asking) };
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
  return {
    asking,
    seed: hashLabels(seed, [section.id, part.id]),
    chords: chords.length > 0 ? chords : null,
    beside,
    ...styleFor(music, asking),
  };
}

/** What of a line is to be drawn anew; the rest of what sounds is held. */
interface Selection {
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
  ];
}

/**
 * What a part is to be drafted again from: all that sounds is held but for the selection, and whatever else the writer
 * holds. The plan stays, and every stage that no selected aspect belongs to.
 *
 * @param holds  what the writer holds
 * @returns null where there is no such part or nothing sounds
 */
export function redraftRequest(
  music: Music,
  section: Section,
  part: PartId,
  seed: number,
  selection: Selection,
  holds: readonly Hold[] = [],
): DraftRequest | null {
  const request = requestFor(music, section, part, seed);
  const take = partTake(music.takes, soundingId(section, part, music.heard));
  if (!request || !take) return null;
  const { attempts } = take.origin;
  const stays = STAGES.filter((stage) => stage === 'plan' || !selection.aspects.includes(stage));
  const all = [...holds, ...heldBeside(take.id, section.bars, selection)];
  return {
    ...withModels(music, request, { holds: all }),
    ...(attempts ? { kept: Object.fromEntries(stays.map((stage) => [stage, attempts[stage]])) } : {}),
  };
}

/**
 * What a line is to be drafted from so that it is near one take or two of them.
 *
 * @param holds  what the writer holds of a part; the chords' held bars are the section's own
 * @returns null where there is no such line
 */
export function kinRequest(
  music: Music,
  section: Section,
  line: LineId,
  seed: number,
  kin: Kin,
  holds: readonly Hold[] = [],
): DraftRequest | null {
  const request = requestFor(music, section, line, seed);
  if (!request) return null;
  const near = withModels(music, request, { kin, ...(holds.length > 0 ? { holds } : {}) });
  const attempts = kin.by === 'variation' ? own(music.takes, kin.takes[0])?.origin.attempts : null;
  return attempts ? { ...near, kept: { plan: attempts.plan } } : near;
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

/** The chords that start in held bars, as they stand. */
const heldSpans = (chords: readonly ChordSpan[], heldBars: readonly number[], bar: Ticks): ChordSpan[] =>
  chords
    .filter(({ start, chord }) => chord !== null && heldBars.includes(Math.floor(start / bar)))
    .map((span) => {
      // A chord that sounds on past its held bars is held in them only.
      const last = heldBars.reduce(
        (end, held) => (held * bar <= end && (held + 1) * bar > end ? (held + 1) * bar : end),
        (Math.floor(span.start / bar) + 1) * bar,
      );
      return { ...span, duration: Math.min(span.duration, last - span.start) };
    });

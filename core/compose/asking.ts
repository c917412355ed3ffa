import { meanEnergy } from '../song/energy';
import { barOf, groundOf } from '../song/ground';
import { chordsIn, partTake, soundingId, type Music } from '../song/resolve';
import { listenedTo } from '../song/roles';
import {
  HARMONY,
  type Asking,
  type ChordSpan,
  type HarmonyBrief,
  type LineId,
  type Part,
  type Section,
  type PartId,
} from '../song/schema';
import { ownStyleIn } from '../styles/styles';
import type { Ticks } from '../theory/units';
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
  more: Partial<Pick<Asking, 'heldChords' | 'beside'>> = {},
): Asking => ({ engine: ENGINE, ...place, harmonyBrief, beside: [], ...more });

/** An asking for a part's line. */
export const partAsking = (
  place: AskingPlace,
  { brief, role }: Pick<Part, 'brief' | 'role'>,
  more: Partial<Pick<Asking, 'harmony' | 'beside' | 'only' | 'energy'>> = {},
): Asking => ({ engine: ENGINE, ...place, brief, role, beside: [], ...more });

function harmonyRequest(music: Music, section: Section, seed: number): DraftRequest {
  const { score, takes, heard } = music;
  const heldChords = heldSpans(chordsIn(section, takes, heard), section.heldBars, barOf(score, section));
  const { under } = section.harmonyBrief;
  const melody = under === null ? null : partTake(takes, soundingId(section, under, heard));
  const asking = harmonyAsking(
    placeOf(music, section),
    { ...section.harmonyBrief, under: melody ? under : null },
    { ...(heldChords.length > 0 ? { heldChords } : {}), beside: melody ? [melody.id] : [] },
  );
  return { asking, seed, chords: null, beside: melody ? [melody] : [], ...styleFor(music, asking) };
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
    ...(harmony === null ? {} : { harmony }),
    beside: beside.map(({ id }) => id),
  });
  const chords = chordsIn(section, takes, heard);
  return {
    asking,
    seed: seed ^ hashOf(part.id),
    chords: chords.length > 0 ? chords : null,
    beside,
    ...styleFor(music, asking),
  };
}

/** The style of an asking, where the song carries it: those that draft know only the styles that ship. */
const styleFor = ({ score }: Music, { ground }: Asking): Pick<DraftRequest, 'style'> => {
  const style = ownStyleIn(score, ground.style);
  return style ? { style } : {};
};

/** The bars that a part has to itself in a section, where it has some. */
const onlyOf = ({ solos }: Section, part: PartId): Pick<Asking, 'only'> => {
  const solo = solos.find((candidate) => candidate.part === part);
  return solo ? { only: { from: solo.from, to: solo.to } } : {};
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

/** Gives every part a seed of its own. */
const hashOf = (text: string): number =>
  [...text].reduce((hash, character) => (Math.imul(hash, 31) + character.charCodeAt(0)) | 0, 7);

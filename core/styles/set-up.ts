import { LIMITS } from '../song/limits';
import type { Part, PartId, Score } from '../song/schema';
import { withStyle } from './styles';
import { freeColour } from './band';

/** What of a song a band set-up that is taken may change. */
export interface SetUpChange {
  /** Parts that are in both get its instruments, layers, tone, levels and treatments. */
  readonly sounds: boolean;
  /** Parts that are in both get its briefs. */
  readonly briefs: boolean;
  /** Parts that the song lacks are added, as far as there is room. */
  readonly missing: boolean;
}

/** Which part of a set-up each part of a song is: the one of its role and name, else of its role; each once. */
function pairs(own: readonly Part[], others: readonly Part[]): ReadonlyMap<PartId, Part> {
  const open = new Set(others);
  const paired = new Map<PartId, Part>();
  const pairBy = (alike: (a: Part, b: Part) => boolean): void => {
    for (const part of own) {
      const other = paired.has(part.id) ? undefined : [...open].find((candidate) => alike(part, candidate));
      if (!other) continue;
      paired.set(part.id, other);
      open.delete(other);
    }
  };
  pairBy((a, b) => a.role === b.role && a.name === b.name);
  pairBy((a, b) => a.role === b.role);
  return paired;
}

/** A part with how another one sounds; to whom it deals stays its own. */
function sounding(part: Part, like: Part): Part {
  const { tone: _tone, octave: _octave, layers: _layers, treatments: _treatments, ...bare } = part;
  const { tone, octave, layers, treatments, instrument, level, pan, swaps } = like;
  return {
    ...bare,
    instrument,
    level,
    pan,
    swaps,
    ...(tone === undefined ? {} : { tone }),
    ...(octave === undefined ? {} : { octave }),
    ...(layers === undefined ? {} : { layers }),
    ...(treatments === undefined ? {} : { treatments }),
  };
}

/** A new part of a set-up in a song: it deals to those of its band that are here. */
function newcomer({ deals, ...part }: Part, here: ReadonlyMap<PartId, PartId>, colour: number): Part {
  const to = (deals?.to ?? []).flatMap((id) => here.get(id) ?? []);
  return {
    ...part,
    id: here.get(part.id) ?? part.id,
    colour,
    ...(deals && to.length > 0 ? { deals: { ...deals, to } } : {}),
  };
}

/**
 * Takes a band set-up over into a song; its takes stay as they are.
 *
 * @param band   the score that the set-up is kept as
 * @param newId  makes ids of parts
 */
export function withSetUp(score: Score, band: Score, change: SetUpChange, newId: () => PartId): Score {
  const paired = pairs(score.parts, band.parts);
  const parts = score.parts.map((part): Part => {
    const like = paired.get(part.id);
    if (!like) return part;
    const sounds = change.sounds ? sounding(part, like) : part;
    return change.briefs ? { ...sounds, brief: like.brief, style: like.style } : sounds;
  });
  const met = new Set(paired.values());
  const room = Math.max(0, LIMITS.parts - parts.length);
  const come = change.missing ? band.parts.filter((part) => !met.has(part)).slice(0, room) : [];
  const here = new Map<PartId, PartId>([
    ...[...paired].map(([own, { id }]) => [id, own] as const),
    ...come.map(({ id }) => [id, newId()] as const),
  ]);
  const whole = come.reduce<Score>(
    (now, part) => ({ ...now, parts: [...now.parts, newcomer(part, here, freeColour(now))] }),
    { ...score, parts, ...(change.sounds && band.master !== undefined ? { master: band.master } : {}) },
  );
  const used = new Set(whole.parts.map(({ style }) => style));
  return band.styles.filter(({ id }) => used.has(id)).reduce(withStyle, whole);
}

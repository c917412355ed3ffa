import { insertOccurrence, removeOccurrence } from './edit';
import { LIMITS } from './limits';
import type { Occurrence, OccurrenceId, Score } from './schema';
import { clamp } from '../theory/units';

/** How often a section is played in a row: each time is a place of its own, which may be otherwise than the others. */
export const MOST_PLAYS = 16;

/** The places around one that play the same section without another between them, in their order. */
export function playsOf({ order }: Score, id: OccurrenceId): readonly Occurrence[] {
  const at = order.findIndex((place) => place.id === id);
  const section = order[at]?.section;
  if (section === undefined) return [];
  const before = order.slice(0, at).findLastIndex((place) => place.section !== section);
  const after = order.findIndex((place, index) => index > at && place.section !== section);
  return order.slice(before + 1, after < 0 ? order.length : after);
}

/**
 * Lets a section play so often in a row where a place plays it. Further places come after the last one and are lifted,
 * rest and are felt as the place is; what moves there is not repeated, since it leads somewhere. Fewer let the last ones
 * go, but never the place itself.
 *
 * @param count  1 to {@link MOST_PLAYS}; no more than the running order has room for
 */
export function withPlays(score: Score, id: OccurrenceId, count: number, newId: () => OccurrenceId): Score {
  const plays = playsOf(score, id);
  const place = plays.find((own) => own.id === id);
  const last = plays.at(-1);
  if (!place || !last) return score;
  const wanted = clamp(count, 1, Math.min(MOST_PLAYS, plays.length + LIMITS.places - score.order.length));
  if (wanted <= plays.length) {
    const going = plays.filter((own) => own !== place).slice(wanted - 1);
    return going.reduce((song, gone) => removeOccurrence(song, gone.id), score);
  }
  const { moves: _moves, ...like } = place;
  const energy = score.energy.filter(({ occurrence }) => occurrence === id);
  let [song, after] = [score, last.id];
  for (let more = plays.length; more < wanted; more++) {
    const own = newId();
    song = insertOccurrence(song, { ...like, id: own }, after);
    song = { ...song, energy: [...song.energy, ...energy.map((point) => ({ ...point, occurrence: own }))] };
    after = own;
  }
  return song;
}

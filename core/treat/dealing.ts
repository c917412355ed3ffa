import type { DealWay, Note } from '../song/schema';
import { clamp, range } from '../theory/units';
import { chanceOf, strokesIn, type Notes, type Treating } from './treating';

/** To which of several parts each note of a stroke goes, from its lowest up. */
type Dealer = (stroke: readonly Note[], index: number) => readonly number[];

/** Each note to the part that follows in a round of so many places, whatever stroke it is in. */
function noteByNote(placeOf: (count: number) => number): Dealer {
  let count = 0;
  return (stroke) => stroke.map(() => placeOf(count++));
}

/** There and back through so many parts: 0, 1, 2, 1, 0 … */
function toAndFro(count: number, parts: number): number {
  const round = Math.max(1, 2 * parts - 2);
  const at = count % round;
  return at < parts ? at : round - at;
}

/**
 * By height: of notes that are struck together the lowest goes to the first part and the highest to the last; a note by
 * itself goes by where it lies between the lowest and the highest of all.
 */
function byHeight(notes: Notes, parts: number): Dealer {
  const pitches = notes.map(({ pitch }) => pitch);
  const low = pitches.reduce((least, pitch) => Math.min(least, pitch), 127);
  const high = pitches.reduce((most, pitch) => Math.max(most, pitch), 0);
  return (stroke) =>
    stroke.map(({ pitch }, rank) => {
      const share = stroke.length > 1 ? rank / (stroke.length - 1) : high > low ? (pitch - low) / (high - low) : 0;
      return clamp(Math.round(share * (parts - 1)), 0, parts - 1);
    });
}

function dealerFor(way: Exclude<DealWay, 'to all'>, notes: Notes, parts: number, over: Treating): Dealer {
  switch (way) {
    case 'in turn':
      return (stroke, index) => stroke.map(() => index % parts);
    case 'up':
      return noteByNote((count) => count % parts);
    case 'down':
      return noteByNote((count) => parts - 1 - (count % parts));
    case 'to and fro':
      return noteByNote((count) => toAndFro(count, parts));
    case 'by height':
      return byHeight(notes, parts);
    case 'by chance':
      return (stroke) => stroke.map((note) => Math.floor(chanceOf(note, 'dealt', over) * parts));
  }
}

/**
 * Notes shared out to several parts. Each goes whole to one of them, with its own end; all go to all where that is
 * wished.
 *
 * @param notes  in order
 * @param parts  how many, 1 at least
 * @returns for each part its share, in order
 */
export function shares(notes: Notes, way: DealWay, parts: number, over: Treating): readonly Notes[] {
  if (way === 'to all' || parts === 1) return range(parts).map(() => [...notes]);
  const dealer = dealerFor(way, notes, parts, over);
  const dealt = range(parts).map((): Note[] => []);
  strokesIn(notes).forEach((stroke, index) => {
    const places = dealer(stroke, index);
    stroke.forEach((note, rank) => dealt[places[rank] ?? 0]?.push(note));
  });
  return dealt;
}

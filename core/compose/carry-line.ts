import type { Note } from '../song/schema';
import type { Harmony } from '../song/fit';
import { chordMask, sameChord } from '../theory/chord';
import { keyMask } from '../theory/key';
import { inMask } from '../theory/pitch';
import { range, type MidiNote } from '../theory/units';
import { chordAt } from './context';

/** How far a note may go from where it lay, in semitones. */
const REACH = 7;
/** What it costs to be a semitone away, to move by a semitone more or less, and to move the other way or not at all. */
const COST = { away: 0.6, stride: 0.5, turned: 5 };

interface Way {
  readonly pitch: MidiNote;
  readonly cost: number;
  readonly before: Way | null;
}

/**
 * Moves a line to other chords so that it goes where it went: chord notes become chord notes, others notes of the scale,
 * each near to where it lay, upwards where it went up and downwards where it went down. The cheapest way through all
 * notes is found as by Viterbi (1967).
 *
 * @param notes  one at a time, in order
 */
export function carriedLine(notes: readonly Note[], from: Harmony, to: Harmony): Note[] {
  const scale = keyMask(to.key);
  const options = ({ start, pitch }: Note): readonly MidiNote[] => {
    const [was, is] = [chordAt(from.chords, start), chordAt(to.chords, start)];
    if (!is || (was && sameChord(was, is))) return [pitch];
    const mask = was && inMask(chordMask(was), pitch) ? chordMask(is) : scale | chordMask(is);
    const near = range(2 * REACH + 1)
      .map((step) => pitch - REACH + step)
      .filter((other) => inMask(mask, other) && other >= 0 && other <= 127);
    return near.length > 0 ? near : [pitch];
  };
  let ways: readonly Way[] = [];
  notes.forEach((note, index) => {
    const last = notes[index - 1];
    const moved = last ? note.pitch - last.pitch : 0;
    ways = options(note).map((pitch): Way => {
      const away = COST.away * Math.abs(pitch - note.pitch);
      const [first, ...others] = ways.map((before): Way => {
        const now = pitch - before.pitch;
        const turned = Math.sign(now) === Math.sign(moved) ? 0 : COST.turned;
        return { pitch, cost: before.cost + away + COST.stride * Math.abs(now - moved) + turned, before };
      });
      return others.reduce(
        (best, way) => (way.cost < best.cost ? way : best),
        first ?? { pitch, cost: away, before: null },
      );
    });
  });
  const pitches: MidiNote[] = [];
  const [first, ...others] = ways;
  let way: Way | null =
    others.reduce<Way | undefined>((best, own) => (best && best.cost <= own.cost ? best : own), first) ?? null;
  for (; way; way = way.before) pitches.unshift(way.pitch);
  return notes.map((note, index) => ({ ...note, pitch: pitches[index] ?? note.pitch }));
}

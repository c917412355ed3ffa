import { energised, energyCurve } from '../song/energy';
import { barOf } from '../song/ground';
import type { Music, Placed } from '../song/resolve';
import { roleOf } from '../song/roles';
import type { Note, Part } from '../song/schema';
import { range, type Ticks, type Velocity } from '../theory/units';
import { songCourse } from './course';
import { writtenNotes } from './written';
import { strokesOf } from './strokes';

/** What a part does in one bar of the running order. */
interface GlanceBar {
  /** Strokes in it. */
  readonly onsets: number;
  /** Their mean velocity as they sound, 1–127; 0 where none do. */
  readonly loudness: Velocity;
}

/** Bars of one place. */
export interface GlancePlace {
  readonly place: Placed;
  readonly bar: Ticks;
  readonly bars: readonly GlanceBar[];
}

/** Every stroke of a note, with its loudness. */
const struckIn = (note: Note): { readonly start: Ticks; readonly velocity: Velocity }[] =>
  strokesOf(note).map(({ start }) => ({ start, velocity: note.velocity }));

const SILENT: GlanceBar = { onsets: 0, loudness: 0 };

/**
 * What a part does bar by bar over the running order: how full and how loud, with the energy line, where it rests in one
 * place, and where it waits for more energy. What is only left to chance counts as if it sounded.
 */
export function glanceOf(music: Music, placed: readonly Placed[], part: Part): readonly GlancePlace[] {
  const energy = energyCurve(music.score, placed);
  const passes = songCourse(music.score, placed);
  return placed.map((place, index) => {
    const { section, occurrence, start } = place;
    const bar = barOf(music.score, section);
    const rests = new Set(occurrence.rests?.[part.id]);
    const sums = range(section.bars).map(() => ({ onsets: 0, total: 0 }));
    const notes = writtenNotes(music, section, part.id, passes[index]?.pass);
    for (const { velocity, start: onset } of notes.flatMap(struckIn)) {
      const at = Math.floor(onset / bar);
      const sum = sums[at];
      if (!sum || rests.has(at)) continue;
      const felt = energy && part.brief.follows ? energy(start + onset) : null;
      if (felt !== null && felt < roleOf(part.role).restsBelow) continue;
      sum.onsets++;
      sum.total += felt === null ? velocity : energised(velocity, felt);
    }
    const bars = sums.map(({ onsets, total }) => (onsets === 0 ? SILENT : { onsets, loudness: total / onsets }));
    return { place, bar, bars };
  });
}

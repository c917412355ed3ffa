import { NOTHING_HEARD, type HeardTakes, type Music, type Takes } from '../song/resolve';
import { SONG_VERSION, type LineId, type Score, type Song } from '../song/schema';
import { songCourse, type Span } from '../sounding/course';
import { perform } from '../sounding/performance';
import type { Ticks } from '../theory/units';

/** A song whose chosen takes sound, for specs. */
export const musicOf = (score: Score, takes: Takes, heard: HeardTakes = NOTHING_HEARD): Music => ({
  score,
  takes,
  heard,
});

/** The same as a stored song. */
export const storedSong = ({ score, takes, heard }: Music, id = 's'): Song => ({
  format: 'fendro-song',
  version: SONG_VERSION,
  id,
  seed: 1,
  score,
  ledger: { takes: { ...takes }, heard: [] },
  hearing: heard,
});

/** A note that sounds, in ticks of the running order. */
export interface HeardNote {
  readonly part: LineId;
  readonly start: Ticks;
  readonly end: Ticks;
  readonly pitch: number;
  readonly velocity: number;
}

/** What begins in a span of the running order, for specs; the whole song and its pick-up where none is named. */
export function heardNotes(score: Score, takes: Takes, heard: HeardTakes = NOTHING_HEARD, span?: Span): HeardNote[] {
  const { events } = perform({ music: { score, takes, heard }, course: songCourse(score), ...(span ? { span } : {}) });
  return events
    .filter((event) => event.kind === 'note')
    .map(({ voice, at, end, pitch, velocity }) => ({ part: voice, start: at, end, pitch, velocity }));
}

/** Data entry and the two halves of the number of a registered parameter. */
const PARAMETER = new Set(['6', '38', '100', '101']);

/** The controllers of a track that stand in the mix: not those that say how far bends go. */
export const mixControllers = (controllers: Readonly<Record<number, number>>): Record<number, number> =>
  Object.fromEntries(Object.entries(controllers).filter(([controller]) => !PARAMETER.has(controller)));

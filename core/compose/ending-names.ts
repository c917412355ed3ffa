import type { Takes } from '../song/resolve';
import { HARMONY, type SectionId } from '../song/schema';
import type { Ending } from '../song/style';

/** What each ending is called, and the bars that it takes. */
export const ENDING_NAMES: Readonly<Record<Ending, { readonly name: string; readonly bars: 1 | 2 }>> = {
  held: { name: 'last chord held', bars: 1 },
  stop: { name: 'short stop', bars: 1 },
  rolled: { name: 'last chord rolled out', bars: 2 },
  cadence: { name: 'dominant, then home', bars: 2 },
  plagal: { name: 'fourth, then home', bars: 2 },
  turn: { name: 'two, five and home', bars: 2 },
  tag: { name: 'struck out on the beats', bars: 2 },
};

const FROM = 'ending: ';

/** Where the takes of an ending say that they come from. */
export const fromEnding = (ending: Ending): string => FROM + ENDING_NAMES[ending].name;

/** Sections that were made as the end of a song. */
export const endingsIn = (takes: Takes): ReadonlySet<SectionId> =>
  new Set(
    Object.values(takes).flatMap(({ section, of, origin }) =>
      of === HARMONY && (origin.from ?? '').startsWith(FROM) ? [section] : [],
    ),
  );

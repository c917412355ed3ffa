import type { Style } from '../song/style';

type Forms = NonNullable<Style['harmony']['forms']>;

/** Progressions that are older than any song: a word of degrees for each bar. */

export const BLUES_FORMS: Forms = [
  { name: 'twelve bars', bars: '1 1 1 1 4 4 1 1 5 4 1 1/5', weight: 45 },
  { name: 'twelve bars with a quick change', bars: '1 4 1 1 4 4 1 1 5 4 1 1/5', weight: 40 },
  { name: 'twelve bars that wait on the fifth', bars: '1 1 1 1 4 4 1 1 5 5 1 1/5', weight: 15 },
  { name: 'eight bars', bars: '1 5 4 4 1 5 1 1/5', weight: 50 },
  { name: 'eight bars, slow to leave', bars: '1 1 4 4 1 5 1 1/5', weight: 50 },
  { name: 'sixteen bars', bars: '1 1 1 1 1 1 1 1 4 4 1 1 5 4 1 1/5', weight: 50 },
  { name: 'sixteen bars, said three times', bars: '1 1 1 1 4 4 1 1 5 4 5 4 5 4 1 1/5', weight: 50 },
];

import type { Style } from '../song/style';

type Moves = Style['harmony']['major'];

/** How chords move in common practice, by degree; a style takes one or writes its own. */

/** Three chords and their relatives, round and round. */
export const PLAIN_MAJOR: Moves = {
  1: { 4: 34, 5: 38, 6: 18, 2: 10 },
  2: { 5: 50, 4: 50 },
  3: { 4: 50, 6: 50 },
  4: { 1: 46, 5: 44, 2: 10 },
  5: { 1: 50, 4: 32, 6: 18 },
  6: { 4: 44, 5: 30, 2: 26 },
  7: { 1: 60, 4: 40 },
};
export const PLAIN_MINOR: Moves = {
  1: { 7: 36, 4: 26, 6: 24, 5: 14 },
  2: { 5: 70, 1: 30 },
  3: { 7: 50, 6: 50 },
  4: { 1: 44, 7: 32, 5: 24 },
  5: { 1: 70, 6: 30 },
  6: { 7: 54, 3: 24, 4: 22 },
  7: { 1: 54, 6: 26, 3: 20 },
};

/** Loops of four that turn without closing. */
export const LOOP_MAJOR: Moves = {
  1: { 5: 32, 6: 26, 4: 30, 3: 12 },
  2: { 4: 50, 5: 50 },
  3: { 6: 50, 4: 50 },
  4: { 1: 42, 5: 36, 6: 22 },
  5: { 6: 42, 4: 28, 1: 30 },
  6: { 4: 54, 5: 26, 3: 20 },
  7: { 4: 50, 1: 50 },
};
export const LOOP_MINOR: Moves = {
  1: { 6: 38, 7: 24, 4: 28, 3: 10 },
  2: { 5: 60, 7: 40 },
  3: { 7: 60, 4: 40 },
  4: { 6: 40, 7: 30, 1: 30 },
  5: { 6: 50, 1: 50 },
  6: { 3: 36, 7: 44, 4: 20 },
  7: { 1: 40, 6: 34, 4: 26 },
};

/** Falling fifths with turnarounds. */
export const FIFTHS_MAJOR: Moves = {
  1: { 6: 36, 2: 30, 4: 20, 3: 14 },
  2: { 5: 86, 3: 14 },
  3: { 6: 80, 2: 20 },
  4: { 5: 34, 2: 34, 7: 16, 1: 16 },
  5: { 1: 74, 3: 16, 6: 10 },
  6: { 2: 82, 4: 18 },
  7: { 3: 70, 1: 30 },
};
export const FIFTHS_MINOR: Moves = {
  1: { 4: 40, 6: 30, 2: 30 },
  2: { 5: 90, 1: 10 },
  3: { 6: 80, 4: 20 },
  4: { 7: 54, 5: 30, 1: 16 },
  5: { 1: 84, 6: 16 },
  6: { 2: 70, 4: 30 },
  7: { 3: 84, 1: 16 },
};

/** Home, the fourth and the fifth, as the blues has them. */
export const BLUES_MOVES: Moves = {
  1: { 4: 70, 5: 22, 6: 8 },
  2: { 5: 100 },
  3: { 6: 100 },
  4: { 1: 78, 5: 14, 7: 8 },
  5: { 4: 56, 1: 44 },
  6: { 2: 100 },
  7: { 4: 50, 1: 50 },
};

/** One chord for long, then a step aside. */
export const VAMP_MAJOR: Moves = {
  1: { 4: 46, 7: 26, 2: 28 },
  2: { 1: 60, 5: 40 },
  3: { 4: 100 },
  4: { 1: 84, 5: 16 },
  5: { 1: 60, 4: 40 },
  6: { 4: 60, 2: 40 },
  7: { 4: 54, 1: 46 },
};
export const VAMP_MINOR: Moves = {
  1: { 4: 44, 7: 36, 6: 20 },
  2: { 1: 50, 5: 50 },
  3: { 4: 60, 7: 40 },
  4: { 1: 80, 7: 20 },
  5: { 1: 80, 4: 20 },
  6: { 7: 60, 1: 40 },
  7: { 1: 74, 4: 26 },
};

/** Steps and thirds that never hurry home. */
export const DRIFT_MAJOR: Moves = {
  1: { 3: 26, 6: 28, 4: 30, 2: 16 },
  2: { 4: 50, 6: 50 },
  3: { 4: 50, 6: 50 },
  4: { 1: 40, 6: 34, 2: 26 },
  5: { 4: 60, 6: 40 },
  6: { 4: 40, 3: 30, 1: 30 },
  7: { 4: 60, 6: 40 },
};
export const DRIFT_MINOR: Moves = {
  1: { 6: 40, 3: 26, 4: 20, 7: 14 },
  2: { 6: 60, 4: 40 },
  3: { 6: 50, 1: 50 },
  4: { 1: 40, 6: 40, 3: 20 },
  5: { 6: 60, 1: 40 },
  6: { 3: 36, 1: 34, 4: 30 },
  7: { 6: 50, 3: 50 },
};

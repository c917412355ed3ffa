import { from1to2 } from './1-to-2';
import { from2to3 } from './2-to-3';
import { from3to4 } from './3-to-4';
import { from4to5 } from './4-to-5';
import { from5to6 } from './5-to-6';
import { from6to7 } from './6-to-7';
import { from7to8 } from './7-to-8';
import { from8to9 } from './8-to-9';
import { from9to10 } from './9-to-10';
import { from10to11 } from './10-to-11';
import { from11to12 } from './11-to-12';
import { from12to13 } from './12-to-13';
import { from13to14 } from './13-to-14';

type Raw = Record<string, unknown>;

/** From each older version to the next, the first from version 1. */
const STEPS: readonly ((song: Raw) => Raw)[] = [
  from1to2,
  from2to3,
  from3to4,
  from4to5,
  from5to6,
  from6to7,
  from7to8,
  from8to9,
  from9to10,
  from10to11,
  from11to12,
  from12to13,
  from13to14,
];

/**
 * Carries a song of an older version over to this build's.
 *
 * @param version  whole, from 1 to what this build writes
 * @returns the song, still unchecked, or null where it is too damaged to be carried over
 */
export function migrated(song: Raw, version: number): Raw | null {
  try {
    return STEPS.slice(version - 1).reduce((now, step) => step(now), song);
  } catch {
    return null;
  }
}

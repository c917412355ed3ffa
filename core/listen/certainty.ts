import type { ChordSpan } from '../song/schema';
import { chordMask, type Chord } from '../theory/chord';
import { inMask, pitchClassOf } from '../theory/pitch';
import { modulo, type Ticks } from '../theory/units';
import type { PlainNote } from '../study/infer/key';

/** How sure it is that a chord was heard rightly, in words that a songwriter would use. */
export const CERTAINTIES = ['sure', 'likely', 'a guess'] as const;
export type Certainty = (typeof CERTAINTIES)[number];

/** From how much of what sounds belongs to a chord on it is sure, and likely. */
const [SURE, LIKELY] = [0.8, 0.62] as const;
/** Its root and its third have to sound for this share of it at least. */
const HEARD = 0.05;

/** How long each pitch class sounds within a stretch, as a share of all that sounds there. */
function sharesIn(notes: readonly PlainNote[], from: Ticks, to: Ticks): Float64Array {
  const shares = new Float64Array(12);
  let total = 0;
  for (const { start, duration, pitch } of notes) {
    if (start >= to) break;
    const sounding = Math.min(to, start + duration) - Math.max(from, start);
    if (sounding <= 0) continue;
    shares[modulo(pitch, 12)] = (shares[modulo(pitch, 12)] as number) + sounding;
    total += sounding;
  }
  return total === 0 ? shares : shares.map((value) => value / total);
}

function certaintyOf(chord: Chord, shares: Float64Array): Certainty {
  const mask = chordMask(chord);
  const root = pitchClassOf(chord.root);
  const fits = shares.reduce((sum, share, pitchClass) => sum + (inMask(mask, pitchClass) ? share : 0), 0);
  const heard = (pitchClass: number): boolean => (shares[modulo(pitchClass, 12)] ?? 0) >= HEARD;
  const third = [3, 4].filter((step) => inMask(mask, modulo(root + step, 12)));
  const telling = heard(root) && (third.length === 0 || third.some((step) => heard(root + step)));
  if (telling && fits >= SURE) return 'sure';
  return (telling && fits >= LIKELY) || fits >= SURE ? 'likely' : 'a guess';
}

/**
 * How sure each chord is, by what sounds while it lasts.
 *
 * @param notes  in order of their starts, in the ticks of the chords
 * @returns in the order of the chords; null where there is none
 */
export const certaintiesOf = (
  chords: readonly ChordSpan[],
  notes: readonly PlainNote[],
): readonly (Certainty | null)[] =>
  chords.map(({ chord, start, duration }) =>
    chord ? certaintyOf(chord, sharesIn(notes, start, start + duration)) : null,
  );

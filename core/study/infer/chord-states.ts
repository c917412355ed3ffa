import { chordMask, makeChord, type Chord } from '../../theory/chord';
import { semitonesOf } from '../../theory/pitch';
import { modulo, range, type PitchClass, type PitchClassMask } from '../../theory/units';

/**
 * The chords that are looked for under notes, and how much each of their degrees speaks for them. All figures here and
 * in `beat-evidence.ts` were tuned together by random search over bands in all styles and over bands of their own with
 * slash chords and walking basses; `npm run study` prints how well they do.
 */

/** The kinds of chord, with what each costs beyond a plain triad, in hundredths of a nat. */
const KINDS: readonly (readonly [tones: string, price: number])[] = [
  ['1 3 5', 0],
  ['1 b3 5', 0],
  ['1 b3 b5', 17],
  ['1 3 #5', 46],
  ['1 4 5', 72],
  ['1 2 5', 78],
  ['1 3 5 b7', 14],
  ['1 3 5 7', 16],
  ['1 b3 5 b7', 14],
  ['1 b3 b5 b7', 22],
  ['1 b3 b5 bb7', 30],
  ['1 b3 5 7', 50],
  ['1 4 5 b7', 78],
  ['1 3 5 b7 9', 20],
  ['1 3 5 7 9', 20],
  ['1 b3 5 b7 9', 20],
  ['1 3 5 b7 b9', 40],
  ['1 3 5 6', 82],
  ['1 b3 5 6', 98],
];

/** How much each degree of a chord speaks for it. */
const EVIDENCE: Readonly<Record<string, number>> = {
  '1': 0.72,
  '2': 0.75,
  b3: 1,
  '3': 1,
  '4': 0.8,
  b5: 0.9,
  '5': 1.01,
  '#5': 0.9,
  '6': 0.6,
  bb7: 0.8,
  b7: 0.66,
  '7': 0.66,
  b9: 0.45,
  '9': 0.45,
};
/** How much any other note speaks against it. */
const OUTSIDE = -0.34;

/** A chord that may sound. */
export interface ChordState {
  readonly chord: Chord;
  readonly root: PitchClass;
  readonly price: number;
  readonly mask: PitchClassMask;
  /** Pitch classes without which it is doubtful: all but its root and its fifth. */
  readonly telling: readonly PitchClass[];
  /** Evidence by pitch class, negative outside the chord. */
  readonly template: Float64Array;
}

export const CHORD_STATES: readonly ChordState[] = range(12).flatMap((root) =>
  KINDS.map(([text, price]): ChordState => {
    const tones = text.split(' ');
    const pitchClass = (tone: string): PitchClass => modulo(root + semitonesOf(tone), 12);
    const template = new Float64Array(12).fill(OUTSIDE);
    for (const tone of tones) template[pitchClass(tone)] = EVIDENCE[tone] ?? 0;
    // The line of fifths gives every pitch class one spelling here; the key spells what is found.
    const chord = makeChord(modulo(root * 7 + 5, 12) - 5, tones);
    const telling = tones.filter((tone) => tone !== '1' && tone !== '5').map(pitchClass);
    return { chord, root, price, mask: chordMask(chord), telling, template };
  }),
);

import { candidatesFor } from '../compose/harmony/vocabulary';
import type { Style } from '../song/style';
import { chordMask, makeChord, sameChord, type Chord } from '../theory/chord';
import { keyMask, type Key } from '../theory/key';
import { inMask, pitchClassOf, semitonesOf } from '../theory/pitch';
import { modulo } from '../theory/units';

/** Where a chord comes from that a hand may reach for. */
export type Offer = 'section' | 'key' | 'borrowed';

export interface OfferedChord {
  readonly chord: Chord;
  readonly from: Offer;
}

/**
 * The chords that lie under the hand: the section's own first, in the order in which they come, then those of its key,
 * then those that songwriters borrow. None stands there twice.
 *
 * @param own    the section's chords, as they follow each other
 * @param style  the section's style, whose dialect the key's chords speak
 * @param most   how many keys there are
 */
export function chordsOffered(own: readonly Chord[], key: Key, style: Style, most: number): readonly OfferedChord[] {
  const offers: OfferedChord[] = own.map((chord) => ({ chord, from: 'section' }));
  for (const { chord, kind } of candidatesFor(key, 'triads', style))
    if (kind !== 'tritone') offers.push({ chord, from: kind === 'diatonic' ? 'key' : 'borrowed' });
  return offers
    .filter(({ chord }, index) => offers.findIndex((other) => sameChord(other.chord, chord)) === index)
    .slice(0, most);
}

/** What a held figure adds to a chord. */
export const ADDITIONS = ['seventh', 'ninth', 'suspension', 'sixth'] as const;
export type Addition = (typeof ADDITIONS)[number];

const inKey = (chord: Chord, tone: string, key: Key): boolean =>
  inMask(keyMask(key), modulo(pitchClassOf(chord.root) + semitonesOf(tone), 12));

/** The degrees that an addition may put over a chord, the first that the key has. */
const CHOICES: Readonly<Record<Addition, readonly string[]>> = {
  seventh: ['b7', '7', 'bb7'],
  // Where the ninth would rub against the root, the eleventh is as open.
  ninth: ['9', '11'],
  suspension: ['4', '2'],
  sixth: ['6'],
};

const THIRDS: ReadonlySet<string> = new Set(['3', 'b3']);

/**
 * A chord with what held figures add to it, each as the key has it; what the key does not have is left out, so that none
 * sounds wrong. A suspension stands in place of the third.
 */
export function withAdditions(chord: Chord, additions: ReadonlySet<Addition>, key: Key): Chord {
  return ADDITIONS.filter((addition) => additions.has(addition)).reduce<Chord>((now, addition) => {
    const tone = CHOICES[addition].find((degree) => inKey(chord, degree, key));
    if (tone === undefined || now.tones.includes(tone)) return now;
    const kept = addition === 'suspension' ? now.tones.filter((each) => !THIRDS.has(each)) : now.tones;
    return makeChord(now.root, [...kept, tone], now.bass);
  }, chord);
}

/**
 * The pitch classes that a line may walk over a chord: the key's, or where the chord leaves the key its own notes and
 * those of the key that do not rub against them.
 */
export function walkable(chord: Chord | null, key: Key): number {
  const home = keyMask(key);
  if (!chord) return home;
  const own = chordMask(chord);
  if ((own & ~home) === 0) return home;
  let mask = own;
  for (let pitchClass = 0; pitchClass < 12; pitchClass++)
    if (inMask(home, pitchClass) && !inMask(own, pitchClass + 1) && !inMask(own, pitchClass + 11))
      mask |= 1 << pitchClass;
  return mask;
}

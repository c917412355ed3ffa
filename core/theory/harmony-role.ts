import { chordMask, qualitySymbol, type Chord } from './chord';
import { keyMask, type Key } from './key';
import { degreeLabel, inMask, pitchClassOf } from './pitch';
import { modulo } from './units';

export type HarmonicFunction = 'tonic' | 'subdominant' | 'dominant' | 'borrowed' | 'applied';

const ROMAN = ['I', 'II', 'III', 'IV', 'V', 'VI', 'VII'];

/** A chord's degree in a key in Roman numerals: `ii7`, `♭VII`, `V7`; small letters where the third is minor. */
export function romanNumeral(chord: Chord, key: Key): string {
  const label = degreeLabel(chord.root - key.tonic);
  const numeral = ROMAN[Number(label.at(-1)) - 1] ?? '';
  const sign = label.slice(0, -1).replaceAll('b', '♭').replaceAll('#', '♯');
  const minor = chord.tones.includes('b3');
  const quality = qualitySymbol(chord.tones);
  const suffix = minor && !quality.startsWith('dim') ? quality.replace(/^m(?!aj)/u, '') : quality.replace(/^dim/u, '°');
  return sign + (minor ? numeral.toLowerCase() : numeral) + suffix;
}

const inKey = (chord: Chord, key: Key): boolean => (chordMask(chord) & ~keyMask(key)) === 0;

/** True for a chord with the tritone of a dominant seventh whose root falls a fifth onto a degree of the key. */
function isApplied(chord: Chord, key: Key): boolean {
  const target = pitchClassOf(chord.root - 1);
  const dominant = chord.tones.includes('3') && (chord.tones.includes('b7') || !inKey(chord, key));
  return dominant && inMask(keyMask(key), target) && target !== pitchClassOf(key.tonic);
}

/**
 * What a chord does in a key. Notes outside the key make it applied (a dominant of another degree) or borrowed.
 */
export function harmonicFunction(chord: Chord, key: Key): HarmonicFunction {
  const degree = modulo(pitchClassOf(chord.root) - pitchClassOf(key.tonic), 12);
  const dominantSeventh = chord.tones.includes('3') && chord.tones.includes('b7');
  if (degree === 7 && chord.tones.includes('3')) return 'dominant';
  if (!inKey(chord, key)) return isApplied(chord, key) ? 'applied' : 'borrowed';
  if (degree === 0 && !dominantSeventh) return 'tonic';
  if (degree === 0 || degree === 3 || degree === 4 || degree === 9) return 'tonic';
  if (degree === 11 || degree === 7 || (degree === 10 && chord.tones.includes('3'))) return 'dominant';
  return 'subdominant';
}

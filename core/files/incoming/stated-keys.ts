import { inferKeys, type KeyGuess, type PlainNote } from '../../study/infer/key';
import { isSameKey, keyMask, type Key } from '../../theory/key';
import { inMask, pitchClassOf, readName } from '../../theory/pitch';
import { isScaleId, makeOwnScale, SCALES } from '../../theory/scale';
import type { Ticks } from '../../theory/units';
import type { ReadMidi } from '../midi/midi-read';

/** The keys that a file states, as far as its notes bear them out. */

export interface StatedKey {
  readonly at: Ticks;
  readonly key: Key;
}

/** “Key: E♭ Dorian”, “Key: D Fog (1 b2 3 5 b7)”: what Fendro's own files say beside their key signatures. */
const TOLD = /^Key: ([A-G][♯♭𝄪𝄫#b]*) ([^()]+?)(?: \((1[^()]*)\))?$/u;

function toldKey(text: string): Key | null {
  const match = TOLD.exec(text.trim());
  const tonic = readName(match?.[1] ?? '');
  if (!match || tonic === null) return null;
  const [name = '', degrees] = [match[2], match[3]];
  if (degrees !== undefined) {
    const own = makeOwnScale(name, degrees);
    return own.ok ? { tonic, scale: own.id } : null;
  }
  const scale = SCALES.find((known) => known.name.toLowerCase() === name.toLowerCase());
  return scale && isScaleId(scale.id) ? { tonic, scale: scale.id } : null;
}

/** Major keys stand where their signature says, minor ones three fifths further. */
const signedKey = ({ accidentals, minor }: { readonly accidentals: number; readonly minor: boolean }): Key => ({
  tonic: accidentals + (minor ? 3 : 0),
  scale: minor ? 'minor' : 'major',
});

/** Whether a guess is a key of this character on this tonic, whatever the mode of a degree. */
const guessOf = (guesses: readonly KeyGuess[], key: Key): KeyGuess | undefined =>
  guesses.find(
    (guess) =>
      pitchClassOf(guess.key.tonic) === pitchClassOf(key.tonic) &&
      (guess.key.scale === key.scale || (key.scale === 'minor' && guess.key.scale === 'harmonic-minor')),
  );

/** So much of what sounds lies in a key that is meant. */
const FITS = 0.75;
/** The minor key of a signature that says major has to be so many times as likely. */
const SURELY_MINOR = 3;

function shareInside(notes: readonly PlainNote[], key: Key): number {
  const mask = keyMask(key);
  let [inside, all] = [0, 0];
  for (const { pitch, duration } of notes) {
    all += duration;
    if (inMask(mask, pitch)) inside += duration;
  }
  return all === 0 ? 1 : inside / all;
}

/**
 * The key that a signature means. Many programs write C major where nobody said anything, and many people a major key
 * for its relative minor: notes that speak clearly against it are believed more.
 */
function believed(key: Key, notes: readonly PlainNote[]): Key | null {
  if (notes.length === 0) return key;
  const guesses = inferKeys(notes);
  const unsaid = key.tonic === 0 && key.scale === 'major';
  if (key.scale === 'major') {
    const relative: Key = { tonic: key.tonic + 3, scale: 'minor' };
    const [minor, major] = [guessOf(guesses, relative)?.confidence ?? 0, guessOf(guesses, key)?.confidence ?? 0];
    const [best] = guesses;
    if (best && guessOf([best], relative) && minor >= SURELY_MINOR * Math.max(1, major)) return best.key;
  }
  return unsaid && shareInside(notes, key) < FITS ? null : key;
}

/**
 * The keys that a file states, in order, each where it begins to hold; a file that states none, or none that can be
 * believed, gives none.
 *
 * @param notes  all pitched notes, in Fendro's ticks, in order
 * @param scale  Fendro's ticks for one of the file's
 */
export function statedKeys(file: ReadMidi, notes: readonly PlainNote[], scale: number): readonly StatedKey[] {
  const told = file.texts.text.flatMap(({ at, text }) => {
    const key = toldKey(text);
    return key ? [{ at: Math.round(at * scale), key }] : [];
  });
  if (told.length > 0) return changesOnly(told);
  const signed = changesOnly(file.keys.map((said) => ({ at: Math.round(said.at * scale), key: signedKey(said) })));
  const kept = signed.flatMap(({ at, key }, index) => {
    const until = signed[index + 1]?.at ?? Number.POSITIVE_INFINITY;
    const from = index === 0 ? Number.NEGATIVE_INFINITY : at;
    const meant = believed(
      key,
      notes.filter(({ start }) => start >= from && start < until),
    );
    return meant ? [{ at, key: meant }] : [];
  });
  return changesOnly(kept);
}

/** Of several at one moment the last; nothing that is said again. */
function changesOnly(keys: readonly StatedKey[]): readonly StatedKey[] {
  const byMoment = [...new Map(keys.map((stated) => [stated.at, stated])).values()];
  return byMoment.filter(({ key }, index) => index === 0 || !isSameKey(key, (byMoment[index - 1] as StatedKey).key));
}

import type { ChordSpan } from '../../song/schema';
import { chordMask, makeChord, type Chord } from '../../theory/chord';
import { spellIn, type Key } from '../../theory/key';
import { barTicks, WEIGHT, type Metre } from '../../theory/metre';
import { inMask, pitchClassOf } from '../../theory/pitch';
import { spellChord } from '../../theory/spelling';
import { modulo, type PitchClass, type Ticks } from '../../theory/units';
import { bestPath, isDeadEnd, linkLayers, type Links } from '../../trellis/trellis';
import { evidenceOf, layerOf, type BeatEvidence } from './beat-evidence';
import { CHORD_STATES, type ChordState } from './chord-states';
import type { PlainNote } from './key';
import { chordsAlone } from './struck';

/** Changing the chord costs less the stronger the beat. */
const CHANGE: Readonly<Record<number, number>> = { [WEIGHT.bar]: 60, [WEIGHT.strong]: 88, [WEIGHT.beat]: 168 };
const CHANGE_ELSEWHERE = 200;
/** Where chords are struck by themselves, each is meant: a change costs this much of what it does elsewhere. */
const ALONE = 0.2;
/** The same root with another quality is mostly one chord that is filled in bit by bit. */
const SAME_ROOT = 34;
const FALLING_FIFTH = 8;

const linksByPrice = new Map<string, Links>();
/** @param dear  what each change costs of its price */
function linksFor(price: number, dear: number): Links {
  const name = `${price} ${dear}`;
  const known = linksByPrice.get(name);
  if (known) return known;
  const made = linkLayers(CHORD_STATES.length, CHORD_STATES.length, (from, to) => {
    if (from === to) return 0;
    const fall = modulo((CHORD_STATES[from] as ChordState).root - (CHORD_STATES[to] as ChordState).root, 12);
    return -dear * (price + (fall === 0 ? SAME_ROOT : 0) - (fall === 7 ? FALLING_FIFTH : 0));
  });
  linksByPrice.set(name, made);
  return made;
}

/** Neighbouring beats with one chord, or with none. */
interface Run {
  readonly start: Ticks;
  readonly state: ChordState | null;
  readonly basses: PitchClass[];
}

/** Beats in which nothing sounds for so long that no chord is meant any more: a bar of them, from a bar line on. */
function silences(beats: readonly BeatEvidence[], bar: Ticks): ReadonlySet<number> {
  const silent = new Set<number>();
  let from = 0;
  for (let index = 0; index <= beats.length; index++) {
    if (beats[index]?.silent) continue;
    const line = beats.findIndex(({ at }, place) => place >= from && place < index && at % bar === 0);
    const long = line >= 0 && (beats[index]?.at ?? Number.POSITIVE_INFINITY) - (beats[line]?.at ?? 0) >= bar;
    // Before the first note nothing sounds yet, however short.
    const first = from === 0 ? 0 : line;
    if (long || from === 0) for (let place = first; place < index; place++) silent.add(place);
    from = index + 1;
  }
  return silent;
}

function runsOf(beats: readonly BeatEvidence[], path: Int32Array, bar: Ticks): readonly Run[] {
  const silent = silences(beats, bar);
  const runs: Run[] = [];
  beats.forEach((beat, index) => {
    const state = silent.has(index) ? null : (CHORD_STATES[path[index] as number] as ChordState);
    const last = runs.at(-1);
    if (last?.state === state) last.basses.push(beat.bass);
    else runs.push({ start: beat.at, state, basses: [beat.bass] });
  });
  return runs;
}

/**
 * Infers the chords under notes: for each beat the pitch classes that sound, by length and metrical weight, are held
 * against templates of nineteen kinds of chord with the evidence of the bass; the best path (Viterbi, 1967) through all
 * beats pays for changes off strong beats (after Sheh and Ellis, 2003, with templates in place of learned models).
 *
 * @param notes  pitched notes of all parts, in order of their starts; ticks from the section's start
 * @returns chord spans over the whole stretch, spelled in the key; “no chord” before the first note, and where nothing
 *          sounds for a bar
 */
export function inferChords(notes: readonly PlainNote[], key: Key, metre: Metre, length: Ticks): ChordSpan[] {
  const alone = chordsAlone(notes);
  const beats = evidenceOf(alone ?? notes, metre, length, alone !== null);
  if (beats.every(({ silent }) => silent)) return [{ start: 0, duration: length, chord: null }];
  const layers = beats.map((beat) => layerOf(beat, key));
  const dear = alone ? ALONE : 1;
  const links = beats.slice(1).map(({ strength }) => linksFor(CHANGE[strength] ?? CHANGE_ELSEWHERE, dear));
  const path = bestPath({ layers, links });
  if (isDeadEnd(path)) return [];
  const runs = runsOf(beats, path, barTicks(metre));
  return runs.map(({ start, state, basses }, index) => ({
    start,
    duration: (runs[index + 1]?.start ?? length) - start,
    chord: state ? spellChord(spelled(state.chord, bassOf(state.chord, basses), key), key) : null,
  }));
}

/** A bass other than the root: a chord note that the chord begins on, while its root is never lowest. */
function bassOf(chord: Chord, basses: readonly PitchClass[]): PitchClass | null {
  const sounding = basses.filter((bass) => bass >= 0);
  const [first] = sounding;
  const root = pitchClassOf(chord.root);
  if (first === undefined || sounding.includes(root) || !inMask(chordMask(chord), first)) return null;
  return sounding.filter((bass) => bass === first).length * 2 >= sounding.length ? first : null;
}

/** The chord on the key's own spelling of its root. */
function spelled(chord: Chord, bass: PitchClass | null, key: Key): Chord {
  return makeChord(spellIn(key, pitchClassOf(chord.root)), chord.tones, bass === null ? null : spellIn(key, bass));
}

import type { ChordSpan } from '../../song/schema';
import { chordMask, makeChord, type Chord } from '../../theory/chord';
import { spellIn, type Key } from '../../theory/key';
import { barTicks, WEIGHT, type Metre } from '../../theory/metre';
import { inMask, pitchClassOf } from '../../theory/pitch';
import { spellChord } from '../../theory/spelling';
import { modulo, type PitchClass, type Ticks } from '../../theory/units';
import { bestPath, FORBIDDEN, isDeadEnd, linkLayers, type Links } from '../../trellis/trellis';
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

/** Between two beats a chord either stays, or all chords of a root come together and go on from there. */
const HUBS = CHORD_STATES.length;
const AT_HUBS = new Int32Array(HUBS + 12);

const GATHER = linkLayers(HUBS, HUBS + 12, (from, to) =>
  to === from || to === HUBS + (CHORD_STATES[from] as ChordState).root ? 0 : FORBIDDEN,
);

const spreadByPrice = new Map<string, Links>();

/**
 * The way on from where chords have come together: what it costs depends on the root that is left and on what follows,
 * never on the kind that is left. So 240 places stand between two beats in place of 50,000 links from chord to chord.
 *
 * @param dear  what each change costs of its price
 */
function spreadFor(price: number, dear: number): Links {
  const name = `${price} ${dear}`;
  const known = spreadByPrice.get(name);
  if (known) return known;
  const made = linkLayers(HUBS + 12, HUBS, (from, to) => {
    if (from < HUBS) return from === to ? 0 : FORBIDDEN;
    const fall = modulo(from - HUBS - (CHORD_STATES[to] as ChordState).root, 12);
    return -dear * (price + (fall === 0 ? SAME_ROOT : 0) - (fall === 7 ? FALLING_FIFTH : 0));
  });
  spreadByPrice.set(name, made);
  return made;
}

/** The chord of each beat on the best path, or null where there is none. */
function bestStates(beats: readonly BeatEvidence[], key: Key, dear: number): readonly ChordState[] | null {
  const layers = beats.flatMap((beat, index) => (index === 0 ? [layerOf(beat, key)] : [AT_HUBS, layerOf(beat, key)]));
  const links = beats
    .slice(1)
    .flatMap(({ strength }) => [GATHER, spreadFor(CHANGE[strength] ?? CHANGE_ELSEWHERE, dear)]);
  const path = bestPath({ layers, links });
  if (isDeadEnd(path)) return null;
  return beats.map((_, index) => CHORD_STATES[path[2 * index] as number] as ChordState);
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

function runsOf(beats: readonly BeatEvidence[], states: readonly ChordState[], bar: Ticks): readonly Run[] {
  const silent = silences(beats, bar);
  const runs: Run[] = [];
  beats.forEach((beat, index) => {
    const state = silent.has(index) ? null : (states[index] as ChordState);
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
  const states = bestStates(beats, key, alone ? ALONE : 1);
  if (!states) return [];
  const runs = runsOf(beats, states, barTicks(metre));
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

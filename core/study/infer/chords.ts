import type { ChordSpan } from '../../song/schema';
import { chordMask, makeChord, type Chord } from '../../theory/chord';
import { keyMask, spellIn, type Key } from '../../theory/key';
import { barTicks, beatsOf, metricalWeight, WEIGHT, type Metre } from '../../theory/metre';
import { inMask, pitchClassOf, semitonesOf } from '../../theory/pitch';
import { spellChord } from '../../theory/spelling';
import { modulo, range, type Ticks } from '../../theory/units';
import { bestPath, isDeadEnd, linkLayers, type Links } from '../../trellis/trellis';
import type { PlainNote } from './key';

/** The kinds of chord that are looked for, with what each costs beyond a plain triad, in hundredths of a nat. */
const KINDS: readonly (readonly [tones: string, price: number])[] = [
  ['1 3 5', 0],
  ['1 b3 5', 0],
  ['1 b3 b5', 24],
  ['1 3 #5', 46],
  ['1 4 5', 34],
  ['1 2 5', 40],
  ['1 3 5 b7', 14],
  ['1 3 5 7', 16],
  ['1 b3 5 b7', 14],
  ['1 b3 b5 b7', 24],
  ['1 b3 b5 bb7', 30],
  ['1 b3 5 7', 50],
  ['1 4 5 b7', 40],
];

/** How much each degree of a chord speaks for it. */
const EVIDENCE: Readonly<Record<string, number>> = {
  '1': 1.05,
  '3': 1,
  b3: 1,
  '5': 0.75,
  b5: 0.9,
  '#5': 0.9,
  '4': 0.8,
  '2': 0.75,
  b7: 0.8,
  '7': 0.8,
  bb7: 0.8,
};

interface State {
  readonly chord: Chord;
  readonly root: number;
  readonly price: number;
  /** Evidence by pitch class, negative outside the chord. */
  readonly template: Float64Array;
}

const STATES: readonly State[] = range(12).flatMap((root) =>
  KINDS.map(([text, price]) => {
    const tones = text.split(' ');
    const template = new Float64Array(12).fill(-1.15);
    for (const tone of tones) template[modulo(root + semitonesOf(tone), 12)] = EVIDENCE[tone] ?? 0.7;
    // The line of fifths gives every pitch class one spelling here; the key spells what is found.
    return { chord: makeChord(modulo(root * 7 + 5, 12) - 5, tones), root, price, template };
  }),
);

/** What sounds during one beat. */
interface BeatEvidence {
  readonly at: Ticks;
  readonly strength: number;
  readonly times: Float64Array;
  /** The lowest pitch class, and whether anything sounds at all. */
  readonly bass: number;
  readonly silent: boolean;
}

/** Notes that begin on strong places count more; what only passes counts less. */
function evidenceOf(notes: readonly PlainNote[], metre: Metre, from: Ticks, to: Ticks): BeatEvidence[] {
  const bar = barTicks(metre);
  const beats = beatsOf(metre);
  const result: BeatEvidence[] = [];
  // Notes come in order of their starts: those that can still sound are kept in a window that moves along.
  let window: PlainNote[] = [];
  let upcoming = 0;
  for (let line = Math.floor(from / bar) * bar; line < to; line += bar) {
    for (const beat of beats) {
      const [start, end] = [line + beat.at, line + beat.at + beat.length];
      if (start < from || start >= to) continue;
      window = window.filter((note) => note.start + note.duration > start);
      for (let note = notes[upcoming]; note && note.start < end; note = notes[++upcoming])
        if (note.start + note.duration > start) window.push(note);
      result.push({ ...collect(window, metre, start, end), at: start, strength: metricalWeight(metre, start) });
    }
  }
  return result;
}

function collect(
  notes: readonly PlainNote[],
  metre: Metre,
  start: Ticks,
  end: Ticks,
): Pick<BeatEvidence, 'times' | 'bass' | 'silent'> {
  const times = new Float64Array(12);
  let lowest = 128;
  let total = 0;
  for (const note of notes) {
    const overlap = Math.min(end, note.start + note.duration) - Math.max(start, note.start);
    if (overlap <= 0) continue;
    const weight = metricalWeight(metre, note.start);
    const place = weight >= WEIGHT.beat ? 1 : weight >= WEIGHT.division ? 0.55 : 0.4;
    const value = overlap * (note.duration <= (end - start) / 2 ? place : 1);
    times[modulo(note.pitch, 12)] = (times[modulo(note.pitch, 12)] as number) + value;
    total += value;
    if (note.start < start + (end - start) / 2) lowest = Math.min(lowest, note.pitch);
  }
  for (let index = 0; index < 12; index++) times[index] = total === 0 ? 0 : (times[index] as number) / total;
  return { times, bass: lowest > 127 ? -1 : modulo(lowest, 12), silent: total === 0 };
}

const SCALE = 210;
const BASS = { root: 52, chord: 6, foreign: -46 } as const;
/** Doublings hide how many different notes there are; a chord whose third or seventh never sounds is doubtful. */
const MISSING = 42;

function layerOf(beat: BeatEvidence, key: Key): Int32Array {
  const home = keyMask(key);
  return Int32Array.from(STATES, ({ chord, root, price, template }) => {
    if (beat.silent) return 0;
    let score = 0;
    for (let index = 0; index < 12; index++) score += (beat.times[index] as number) * (template[index] as number);
    const mask = chordMask(chord);
    const missing = chord.tones.filter(
      (tone) => tone !== '5' && tone !== '1' && (beat.times[modulo(root + semitonesOf(tone), 12)] as number) < 0.02,
    ).length;
    const bass =
      beat.bass < 0 ? 0 : beat.bass === root ? BASS.root : inMask(mask, beat.bass) ? BASS.chord : BASS.foreign;
    const foreign = (mask & ~home) === 0 ? 0 : 16;
    return Math.round(SCALE * score - price - missing * MISSING + bass - foreign);
  });
}

/** Changing the chord costs less the stronger the beat. */
const CHANGE: Readonly<Record<number, number>> = { [WEIGHT.bar]: 60, [WEIGHT.strong]: 95, [WEIGHT.beat]: 150 };

const linksByCost = new Map<number, Links>();
function linksFor(cost: number): Links {
  const known = linksByCost.get(cost);
  if (known) return known;
  const made = linkLayers(STATES.length, STATES.length, (from, to) => {
    if (from === to) return 0;
    const fall = modulo((STATES[from] as State).root - (STATES[to] as State).root, 12);
    // The same root with another quality is mostly one chord that is filled in bit by bit.
    return -cost - (fall === 0 ? 20 : 0) + (fall === 7 ? 8 : 0);
  });
  linksByCost.set(cost, made);
  return made;
}

/**
 * Infers the chords under notes: for each beat the pitch classes that sound, by length and metrical weight, are held
 * against templates of thirteen kinds of chord with the evidence of the bass; the best path (Viterbi, 1967) through all
 * beats pays for changes off strong beats (after Sheh and Ellis, 2003, with templates in place of learned models).
 *
 * @param notes  pitched notes of all parts, in order of their starts; ticks from the section's start
 * @returns chord spans over the whole stretch, spelled in the key; silence before the first note is “no chord”
 */
export function inferChords(notes: readonly PlainNote[], key: Key, metre: Metre, length: Ticks): ChordSpan[] {
  const beats = evidenceOf(notes, metre, 0, length);
  if (beats.length === 0 || beats.every(({ silent }) => silent)) return [{ start: 0, duration: length, chord: null }];
  const layers = beats.map((beat) => layerOf(beat, key));
  const links = beats.slice(1).map(({ strength }) => linksFor(CHANGE[strength] ?? 200));
  const path = bestPath({ layers, links });
  if (isDeadEnd(path)) return [];
  const spans: { start: Ticks; state: number; basses: number[] }[] = [];
  const firstSounding = beats.findIndex(({ silent }) => !silent);
  beats.forEach((beat, index) => {
    if (index < firstSounding) return;
    const last = spans.at(-1);
    const state = path[index] as number;
    if (last?.state === state) last.basses.push(beat.bass);
    else spans.push({ start: beat.at, state, basses: [beat.bass] });
  });
  const found = spans.map(({ start, state, basses }, index): ChordSpan => {
    const { chord } = STATES[state] as State;
    return {
      start,
      duration: (spans[index + 1]?.start ?? length) - start,
      chord: spellChord(spelled(chord, steadyBass(chord, basses), key), key),
    };
  });
  const silence: ChordSpan[] =
    (spans[0]?.start ?? 0) > 0 ? [{ start: 0, duration: spans[0]?.start ?? 0, chord: null }] : [];
  return [...silence, ...found];
}

/** A bass other than the root, where it is a chord note and stays through the chord. */
function steadyBass(chord: Chord, basses: readonly number[]): number | null {
  const sounding = basses.filter((bass) => bass >= 0);
  const first = sounding[0];
  if (first === undefined || first === pitchClassOf(chord.root) || !inMask(chordMask(chord), first)) return null;
  return sounding.every((bass) => bass === first) ? first : null;
}

/** The chord on the key's own spelling of its root. */
function spelled(chord: Chord, bass: number | null, key: Key): Chord {
  return makeChord(spellIn(key, pitchClassOf(chord.root)), chord.tones, bass === null ? null : spellIn(key, bass));
}

import type { Style } from '../../song/style';
import { chordMask, chordSymbol, makeChord, sameChord, type Chord } from '../../theory/chord';
import { harmonicFunction, type HarmonicFunction } from '../../theory/harmony-role';
import { isMinorish, keyMask, type Key } from '../../theory/key';
import { pitchClassOf, printedName, sizeOfMask } from '../../theory/pitch';
import { scaleOf } from '../../theory/scale';
import { spellChord } from '../../theory/spelling';
import { modulo } from '../../theory/units';
import type { HarmonyBrief } from '../../song/schema';
import { dialectOf, moveWeight } from './dialect';
import { ADMISSION, candidatesFor, isTonic, rootDistance, type Candidate } from './vocabulary';

/** A chord that could stand at a place, with its reasons in plain words. */
export interface ChordIdea {
  readonly chord: Chord;
  readonly reasons: readonly string[];
}

const sharedNotes = (a: Chord, b: Chord): number => sizeOfMask(chordMask(a) & chordMask(b));

/** Said where nothing else can be. */
const AT_REST: Readonly<Record<HarmonicFunction, string>> = {
  tonic: 'at rest',
  subdominant: 'opens out',
  dominant: 'wants to go home',
  borrowed: 'another colour',
  applied: 'leads elsewhere',
};

const NUMBER_WORDS = ['no', 'one', 'two', 'three', 'four', 'five'];

/** The parallel mode that a chord outside the key belongs to, the nearest first. */
function borrowedFrom(chord: Chord, key: Key): string {
  const modes = isMinorish(scaleOf(key.scale))
    ? ['minor', 'harmonic-minor', 'dorian', 'phrygian', 'major']
    : ['minor', 'mixolydian', 'lydian', 'dorian', 'major', 'phrygian'];
  const mode = modes.find(
    (scale) => scale !== key.scale && (chordMask(chord) & ~keyMask({ tonic: key.tonic, scale })) === 0,
  );
  return mode ? `borrowed from ${scaleOf(mode).name.toLowerCase()}` : 'from outside the key';
}

/** What can be said of moving from one chord to another in a key. */
function movingReasons(from: Chord | null, to: Chord, key: Key): string[] {
  const reasons: string[] = [];
  const role = harmonicFunction(to, key);
  if (from) {
    const fall = modulo(pitchClassOf(from.root) - pitchClassOf(to.root), 12);
    const dominant = from.tones.includes('3') && from.tones.includes('b7');
    const home = pitchClassOf(to.root) === pitchClassOf(key.tonic);
    if (fall === 7 && harmonicFunction(from, key) === 'dominant' && home) reasons.push('resolves the dominant');
    else if (fall === 7 && dominant) reasons.push(`resolves ${chordSymbol(from)}`);
    else if (fall === 7) reasons.push('falls a fifth');
    else if (fall === 1) reasons.push('slides down a semitone');
    else if (fall === 11) reasons.push('climbs a semitone');
    else if (fall === 2 || fall === 10) reasons.push(`steps ${fall === 2 ? 'down' : 'up'} a tone`);
    const shared = sharedNotes(from, to);
    if (shared >= 2) reasons.push(`shares ${NUMBER_WORDS[shared] ?? shared} notes with ${chordSymbol(from)}`);
  }
  if (role === 'borrowed') reasons.push(borrowedFrom(to, key));
  if (role === 'applied') reasons.push(`dominant of ${printedName(to.root - 1)}`);
  const diminished = to.tones.includes('b5') && to.tones.includes('b3');
  if (reasons.length === 0) reasons.push(diminished ? 'leans onward' : AT_REST[role]);
  return reasons;
}

/**
 * What could come next at a place: the dialect's chords by how well they follow the chord before and lead to the one
 * after, the best first.
 *
 * @param before  the chord before; null at the beginning
 * @param after   the chord after; null where nothing follows
 */
export function nextChords(
  style: Style,
  key: Key,
  colouring: HarmonyBrief['colouring'],
  before: Chord | null,
  after: Chord | null,
  count = 8,
): ChordIdea[] {
  const candidates = candidatesFor(key, colouring, style);
  const { moves, modal } = dialectOf(style, key);
  const asCandidate = (chord: Chord): Candidate =>
    candidates.find((candidate) => sameChord(candidate.chord, chord)) ?? {
      chord,
      kind: 'asked',
      degree: nearestDegree(chord, candidates),
      leadsTo: null,
    };
  const from = before ? asCandidate(before) : null;
  const to = after ? asCandidate(after) : null;
  const weight = (candidate: Candidate): number => {
    const price = ADMISSION[candidate.kind].price / 2;
    const start = from
      ? soft(moveWeight({ ...from, leadsTo: null }, candidate, moves, modal)) + resolution(from, candidate)
      : isTonic(candidate, key)
        ? 0
        : -120;
    const end = to
      ? soft(moveWeight({ ...candidate, leadsTo: null }, to, moves, modal)) + resolution(candidate, to)
      : 0;
    const diminished = candidate.chord.tones.includes('b5') && !candidate.chord.tones.includes('3') ? 160 : 0;
    return start + 0.6 * end - price - diminished;
  };
  return candidates
    .filter(({ chord }) => !before || !sameChord(chord, before))
    .map((candidate) => ({ candidate, weight: weight(candidate) }))
    .sort((a, b) => b.weight - a.weight)
    .slice(0, count)
    .map(({ candidate: { chord } }) => {
      const leading =
        after && pitchClassOf(chord.root - 1) === pitchClassOf(after.root) ? [`leads to ${chordSymbol(after)}`] : [];
      return { chord: spellChord(chord, key), reasons: [...movingReasons(before, chord, key), ...leading].slice(0, 3) };
    });
}

const soft = (weight: number): number => Math.max(-600, weight);

/** A dominant that goes where it leads is worth more, one that does not is worth less. */
const resolution = (from: Candidate, to: Candidate): number =>
  from.leadsTo === null ? 0 : from.leadsTo === pitchClassOf(to.chord.root) ? 120 : -200;

function nearestDegree(chord: Chord, candidates: readonly Candidate[]): number {
  return candidates.find((candidate) => pitchClassOf(candidate.chord.root) === pitchClassOf(chord.root))?.degree ?? 1;
}

/** A dominant seventh on a root. */
const dominantOn = (root: number): Chord => makeChord(root, ['1', '3', '5', 'b7']);

/**
 * Chords that can stand in for a chord, with reasons: relatives, the dominant before what follows and its tritone
 * substitute, the chord of the parallel mode, a passing diminished chord.
 */
export function substitutesFor(chord: Chord, key: Key, after: Chord | null): ChordIdea[] {
  const ideas: { chord: Chord; reason: string; spelled?: true }[] = [];
  const minor = chord.tones.includes('b3') && !chord.tones.includes('b5');
  const major = chord.tones.includes('3');
  const seventh = chord.tones.some((tone) => tone.endsWith('7'));
  const triad = (root: number, isMinor: boolean): Chord => {
    const tones = isMinor ? ['1', 'b3', '5'] : ['1', '3', '5'];
    const withSeventh = makeChord(root, [
      ...tones,
      isMinor || modulo(pitchClassOf(root) - pitchClassOf(key.tonic), 12) === 7 ? 'b7' : '7',
    ]);
    return seventh && (chordMask(withSeventh) & ~keyMask(key)) === 0 ? withSeventh : makeChord(root, tones);
  };
  if (major && !chord.tones.includes('b7'))
    ideas.push(
      { chord: triad(chord.root + 3, true), reason: 'its relative minor, two notes in common' },
      { chord: triad(chord.root + 4, true), reason: 'the mediant above, two notes in common' },
    );
  if (minor)
    ideas.push(
      { chord: triad(chord.root - 3, false), reason: 'its relative major, two notes in common' },
      { chord: triad(chord.root - 4, false), reason: 'the mediant below, two notes in common' },
    );
  if (major && chord.tones.includes('b7'))
    ideas.push(
      { chord: dominantOn(chord.root + 6), reason: 'its tritone substitute: the same third and seventh' },
      {
        chord: makeChord(chord.root + 5, ['1', 'b3', 'b5', 'bb7']),
        reason: 'diminished on its third: the same without the root',
      },
      { chord: makeChord(chord.root, ['1', '4', '5', 'b7']), reason: 'suspended: its third waits' },
    );
  if (major || minor)
    ideas.push({
      chord: makeChord(
        chord.root,
        chord.tones.map((tone) => (tone === '3' ? 'b3' : tone === 'b3' ? '3' : tone)),
      ),
      reason: major ? 'the same root in minor' : 'the same root in major',
    });
  if (after) {
    ideas.push({ chord: dominantOn(after.root + 1), reason: `the dominant of ${chordSymbol(after)}, which follows` });
    ideas.push({
      chord: dominantOn(after.root - 5),
      reason: `slides into ${chordSymbol(after)} from a semitone above`,
      spelled: true,
    });
    ideas.push({
      chord: makeChord(after.root + 5, ['1', 'b3', 'b5', 'bb7']),
      reason: `a passing diminished chord into ${chordSymbol(after)}`,
      spelled: true,
    });
  }
  for (const candidate of candidatesFor(key, seventh ? 'sevenths' : 'triads')) {
    if (
      candidate.kind === 'borrowed' &&
      sharedNotes(candidate.chord, chord) >= 1 &&
      rootDistance(candidate.chord, key) === modulo(pitchClassOf(chord.root) - pitchClassOf(key.tonic), 12)
    )
      ideas.push({ chord: candidate.chord, reason: 'borrowed from the parallel mode' });
    if (candidate.kind === 'diatonic' && harmonicFunction(candidate.chord, key) === harmonicFunction(chord, key))
      ideas.push({ chord: candidate.chord, reason: `another ${harmonicFunction(chord, key)} chord of the key` });
  }
  const seen = new Set([chordSymbol(spellChord(chord, key))]);
  return ideas.flatMap(({ chord: idea, reason, spelled: own }): ChordIdea[] => {
    // A chord that slides into another is written from the one it leads to.
    const spelled = own ? idea : spellChord(idea, key);
    const name = chordSymbol(spelled);
    if (seen.has(name)) return [];
    seen.add(name);
    return [{ chord: spelled, reasons: [reason] }];
  });
}

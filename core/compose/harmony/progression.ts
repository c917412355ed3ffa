import type { ChordSpan, HarmonyBrief } from '../../song/schema';
import { chordMask, makeChord, sameChord, type Chord } from '../../theory/chord';
import type { Key } from '../../theory/key';
import { inMask, pitchClassOf } from '../../theory/pitch';
import { readChord } from '../../theory/read-chord';
import { scaleOf } from '../../theory/scale';
import type { Percent, Ticks } from '../../theory/units';
import { degreeShare, type HarmonyContext } from '../context';
import type { Random } from '../../trellis/random';
import { FORBIDDEN, isDeadEnd, pathSampler, type Trellis } from '../../trellis/trellis';
import { logWeight, temperatureOf } from '../../trellis/weights';
import type { Streams } from '../stages';
import { AGAIN, linkCandidates } from './dialect';
import { drawStructure, type Structure } from './form';
import { drawSlots, withHeld, type Slot } from './slots';
import { underMelody } from './under-melody';
import { ADMISSION, candidatesFor, diatonicCandidates, isTonic, rootDistance, type Candidate } from './vocabulary';

export type Progression =
  | { readonly ok: true; readonly chords: ChordSpan[] }
  | { readonly ok: false; readonly reason: string };

/** Only the held chord; one without sound stands for any. */
function heldLayer(candidates: readonly Candidate[], { chord }: ChordSpan): Int32Array {
  if (!chord) return new Int32Array(candidates.length);
  return Int32Array.from(candidates, (candidate) => (sameChord(candidate.chord, chord) ? 0 : FORBIDDEN));
}

/**
 * Drafts a progression in the style's dialect: harmonic rhythm first, then an exact sample through the trellis of
 * chords. First, last and cadence chords are constraints, so they shape what comes before them.
 */
export function draftProgression(context: HarmonyContext, streams: Streams): Progression {
  const { brief, key } = context;
  const structure = drawStructure(context, streams('plan'));
  const slots = withHeld(drawSlots(context, structure, streams('rhythm')), context);
  const asked = readAsked(brief);
  if (!asked.ok) return asked;
  const held = context.held.map(({ chord }) => chord);
  const candidates = withAsked(
    candidatesFor(key, brief.colouring, brief.adventure > 0 ? context.style : undefined),
    [asked.first, asked.last, ...held],
    key,
  );
  const layers = slots.map((slot, position) => {
    const layer = slot.held
      ? heldLayer(candidates, slot.held)
      : layerAt(placeIn(position, slots, structure, context), candidates, context, asked);
    return context.melody.length > 0 && !slot.held ? underMelody(layer, candidates, slot, context) : layer;
  });
  const links = linkCandidates(candidates, context, AGAIN.bar);
  const isSplit = ({ duration }: Slot): boolean => duration < context.barTicks;
  const within = slots.some(isSplit) ? linkCandidates(candidates, context, AGAIN.split) : links;
  const between = slots
    .slice(1)
    .map((slot, index) => (isSplit(slot) || isSplit(slots[index] as Slot) ? within : links));
  const path = drawWithReturns({ layers, links: between }, slots, structure, context, streams('pitch'));
  if (typeof path === 'number') return { ok: false, reason: blame(path, slots.length, brief) };
  const chords = slots.map(
    ({ start, duration, held: own }, position): ChordSpan =>
      own ?? { start, duration, chord: (candidates[path[position] as number] as Candidate).chord },
  );
  return { ok: true, chords };
}

/** The chords that the writer has fixed. */
interface Asked {
  readonly ok: true;
  readonly first: Chord | null;
  readonly last: Chord | null;
}

function readAsked(brief: HarmonyBrief): Asked | { readonly ok: false; readonly reason: string } {
  const read = (typed: string | null): Chord | null | string => {
    if (typed === null || typed.trim() === '') return null;
    const reading = readChord(typed);
    return reading.ok ? reading.chord : reading.reason;
  };
  const first = read(brief.first);
  const last = read(brief.last);
  if (typeof first === 'string') return { ok: false, reason: `First chord: ${first}` };
  if (typeof last === 'string') return { ok: false, reason: `Last chord: ${last}` };
  return { ok: true, first, last };
}

function withAsked(candidates: Candidate[], asked: readonly (Chord | null)[], key: Key): Candidate[] {
  const result = [...candidates];
  for (const chord of asked) {
    if (chord === null || result.some((candidate) => sameChord(candidate.chord, chord))) continue;
    const near = candidates.find((candidate) => pitchClassOf(candidate.chord.root) === pitchClassOf(chord.root));
    result.push({
      chord,
      kind: 'asked',
      degree: near?.degree ?? 1 + Math.round((rootDistance(chord, key) * 6) / 11),
      leadsTo: null,
    });
  }
  return result;
}

/** What a diminished chord costs: among triads it sounds like a slip, with its seventh it leads. */
const DIMINISHED = { triad: 460, seventh: 220, first: 400 } as const;

/** Where a slot stands: every time round of a loop begins and ends as the section does. */
interface Place {
  readonly slot: Slot;
  readonly next: Slot | undefined;
  readonly position: number;
  readonly fromEnd: number;
  /** Slots of the section, or of the loop. */
  readonly count: number;
}

function placeIn(position: number, slots: readonly Slot[], structure: Structure, context: HarmonyContext): Place {
  const slot = slots[position] as Slot;
  const round = structure.strict ? roundOf(slot, structure, context) : null;
  const all = slots.filter((other) => round === null || roundOf(other, structure, context) === round);
  const at = all.indexOf(slot);
  return { slot, next: slots[position + 1], position: at, fromEnd: all.length - 1 - at, count: all.length };
}

/** The unit of a structure that a slot lies in, counted from 0. */
const roundOf = ({ start }: Slot, { unit }: Structure, { barTicks }: HarmonyContext): number =>
  Math.floor(start / (unit * barTicks));

/** Weights of the candidates at one place, with the constraints of the first, last and cadence chords and the form. */
function layerAt(place: Place, candidates: readonly Candidate[], context: HarmonyContext, asked: Asked): Int32Array {
  const { key, brief } = context;
  const { slot, position, fromEnd } = place;
  const isLast = fromEnd === 0;
  const tonic = pitchClassOf(key.tonic);
  // A chord that leads somewhere only stands where what follows is free, or where it leads there.
  const next = place.next?.held?.chord;
  const leadsOn = (candidate: Candidate): boolean =>
    candidate.leadsTo === null || !next || candidate.leadsTo === pitchClassOf(next.root);
  const wanted = position === 0 ? asked.first : isLast ? asked.last : null;
  const meets = (candidate: Candidate): boolean =>
    wanted
      ? sameChord(candidate.chord, wanted)
      : meetsCadence(candidate, place, context) &&
        !(isLast && candidate.leadsTo !== null) &&
        leadsOn(candidate) &&
        degreeShare(context, pitchClassOf(candidate.chord.root)) > 0;
  const admitted = (candidate: Candidate): boolean => ADMISSION[candidate.kind].from <= brief.adventure;
  // Chords outside the key come in early only for a cadence that the scale itself cannot make.
  const enough = candidates.some((candidate) => admitted(candidate) && meets(candidate));
  // Where the form cannot meet the cadence, the cadence goes first.
  const inForm = ({ degree, kind }: Candidate): boolean =>
    kind === 'diatonic' && (slot.degrees?.includes(String(degree)) ?? false);
  const formed = candidates.some((candidate) => inForm(candidate) && meets(candidate));
  return Int32Array.from(candidates, (candidate) => {
    if (!meets(candidate) || (formed ? !inForm(candidate) : enough && !admitted(candidate))) return FORBIDDEN;
    let weight = -Math.round((ADMISSION[candidate.kind].price * (130 - brief.adventure)) / 100);
    // The other mode's tonic is a surprise: beside the key's own it sounds like a slip.
    if (candidate.kind === 'borrowed' && isTonic(candidate, key)) weight -= 300;
    // A bridge sets out from elsewhere.
    if (position === 0 && !isLast && context.bound && context.kind === 'bridge')
      weight += isTonic(candidate, key) ? -300 : candidate.degree === 7 ? -200 : 0;
    else if (position === 0 && !isLast)
      weight += isTonic(candidate, key) ? 160 : candidate.degree === 6 || candidate.degree === 4 ? -60 : -280;
    // A chorus that goes round ends where its line can be at home.
    if (isLast && context.bound && context.kind === 'chorus' && inMask(chordMask(candidate.chord), tonic))
      weight += 140;
    if (candidate.chord.tones.includes('b5') && !candidate.chord.tones.includes('3'))
      weight -=
        (brief.colouring === 'triads' ? DIMINISHED.triad : DIMINISHED.seventh) +
        (position === 0 ? DIMINISHED.first : 0);
    if (context.weights) weight += logWeight(degreeShare(context, pitchClassOf(candidate.chord.root)));
    return weight;
  });
}

/** What each cadence asks of the last two chords; earlier ones are free. */
function meetsCadence(candidate: Candidate, { fromEnd, count }: Place, { key, brief }: HarmonyContext): boolean {
  if (fromEnd > 1 || count < 2) return true;
  if (fromEnd === 0 && brief.last !== null) return true;
  if (fromEnd === 1 && count === 2 && brief.first !== null) return true;
  const tonic = isTonic(candidate, key);
  switch (brief.cadence) {
    case 'authentic':
      return fromEnd === 0 ? tonic : isDominant(candidate, key);
    case 'plagal':
      return fromEnd === 0 ? tonic : rootDistance(candidate.chord, key) === 5 && candidate.leadsTo === null;
    case 'deceptive':
      return fromEnd === 0 ? candidate.degree === 6 : isDominant(candidate, key);
    case 'half':
      return fromEnd === 1 || isDominant(candidate, key);
    case 'open':
      return fromEnd === 1 || rootDistance(candidate.chord, key) !== 0;
  }
}

/** The fifth degree; where the scale's own fifth is minor, its flat seventh serves as well. */
function isDominant(candidate: Candidate, key: Key): boolean {
  if (candidate.leadsTo !== null) return false;
  const distance = rootDistance(candidate.chord, key);
  const flatSeven = scaleOf(key.scale).degrees.includes('b7');
  return (
    (distance === 7 && !candidate.chord.tones.includes('b5')) ||
    (flatSeven && distance === 10 && candidate.chord.tones.includes('3'))
  );
}

/**
 * Draws the path; units of equal letters take the chords of the first of them as held positions of the trellis, and only
 * the last time round ends otherwise, unless the structure is strict.
 */
function drawWithReturns(
  { layers, links }: Trellis,
  slots: readonly Slot[],
  structure: Structure,
  context: HarmonyContext,
  random: Random,
): Int32Array | number {
  const temperature = temperatureFor(context);
  const free = pathSampler({ layers, links }, temperature);
  if (isDeadEnd(free)) return free.deadEnd;
  const path = free.draw(random);
  const { letters, unit, strict } = structure;
  if (new Set(letters).size === letters.length) return path;
  const echoOf = (slot: Slot): number => {
    const round = roundOf(slot, structure, context);
    const first = letters.indexOf(letters[round] ?? '');
    const at = slot.start - (round - first) * unit * context.barTicks;
    return slots.findIndex(({ start, duration }) => start === at && duration === slot.duration);
  };
  const stated = new Set(slots.map(echoOf));
  const held = layers.map((layer, position) => {
    const slot = slots[position] as Slot;
    const echo = echoOf(slot);
    if (slot.held || echo < 0 || (echo === position && !stated.has(position))) return layer;
    // The last chord of a unit leads wherever the next one begins; only a loop turns round as it stands.
    const next = slots[position + 1];
    const seam = !next || roundOf(next, structure, context) !== roundOf(slot, structure, context);
    const nearEnd = !strict && (seam || slots.length - position <= 2);
    return nearEnd ? layer : only(layer, path[echo] as number);
  });
  const again = pathSampler({ layers: held, links }, temperature);
  return isDeadEnd(again) ? path : again.draw(random);
}

/**
 * How far chords stray from the dialect: it speaks with its own weights, sharper where a melody says what is needed.
 */
const temperatureFor = ({ brief, melody }: HarmonyContext): Percent =>
  melody.length > 0 ? temperatureOf(brief.adventure) : SPOKEN + brief.adventure;
const SPOKEN = 80;

/** A layer with a single state left, where that state is allowed at all. */
function only(layer: Int32Array, state: number): Int32Array {
  if ((layer[state] as number) <= FORBIDDEN) return layer;
  const held = new Int32Array(layer.length).fill(FORBIDDEN);
  held[state] = layer[state] as number;
  return held;
}

function blame(position: number, count: number, brief: HarmonyBrief): string {
  const place =
    position === 0 ? 'first chord' : position >= count - 2 ? `${brief.cadence} cadence` : `chord ${position + 1}`;
  return `No progression in this key can meet the ${place}. Try another cadence, free the first or last chord, or raise adventure.`;
}

/** Plain tonic chords for a section that has no progression yet, so that parts can be drafted at once. */
export function plainHarmony(key: Key, length: Ticks): ChordSpan[] {
  const own = diatonicCandidates(key, 'triads').find((candidate) => isTonic(candidate, key));
  return [{ start: 0, duration: length, chord: own?.chord ?? makeChord(key.tonic, ['1']) }];
}

import type { ChordSpan, HarmonyBrief } from '../../song/schema';
import { makeChord, sameChord, type Chord } from '../../theory/chord';
import { isMinorish, type Key } from '../../theory/key';
import { beatsOf } from '../../theory/metre';
import { pitchClassOf } from '../../theory/pitch';
import { readChord } from '../../theory/read-chord';
import { scaleOf } from '../../theory/scale';
import { modulo, type Ticks } from '../../theory/units';
import { degreeShare, type HarmonyContext } from '../context';
import { happens, type Random } from '../../trellis/random';
import { FORBIDDEN, isDeadEnd, linkLayers, pathSampler, type Links } from '../../trellis/trellis';
import { logWeight, temperatureOf } from '../../trellis/weights';
import type { Streams } from '../stages';
import { underMelody } from './under-melody';
import { ADMISSION, candidatesFor, diatonicCandidates, isTonic, rootDistance, type Candidate } from './vocabulary';

export type Progression =
  { readonly ok: true; readonly chords: ChordSpan[] } | { readonly ok: false; readonly reason: string };

interface Slot {
  readonly start: Ticks;
  readonly duration: Ticks;
  /** The chord that stays here exactly as it is. */
  readonly held?: ChordSpan;
}

/** Puts held chords in their places; drawn slots give way to them and fill what lies between. */
function withHeld(slots: readonly Slot[], { held, length }: HarmonyContext): Slot[] {
  if (held.length === 0) return [...slots];
  const inHeld = (at: Ticks): boolean => held.some(({ start, duration }) => at >= start && at < start + duration);
  const free = slots.filter(({ start }) => !inHeld(start)).map(({ start }) => start);
  const after = held.map(({ start, duration }) => start + duration).filter((at) => at < length && !inHeld(at));
  const starts = [...new Set([...free, ...after])];
  const all: Slot[] = [
    ...held.map((span) => ({ start: span.start, duration: span.duration, held: span })),
    ...starts.map((start) => ({ start, duration: 0 })),
  ].sort((a, b) => a.start - b.start);
  return all.map((slot, index) =>
    slot.held ? slot : { ...slot, duration: (all[index + 1]?.start ?? length) - slot.start },
  );
}

/** Only the held chord; one without sound stands for any. */
function heldLayer(candidates: readonly Candidate[], { chord }: ChordSpan): Int32Array {
  if (!chord) return new Int32Array(candidates.length);
  return Int32Array.from(candidates, (candidate) => (sameChord(candidate.chord, chord) ? 0 : FORBIDDEN));
}

/** Bars in the unit that returns: most songs think in fours. */
const UNIT_BARS = 4;

/**
 * Drafts a progression in the style's dialect: harmonic rhythm first, then an exact sample through the trellis of
 * chords. First, last and cadence chords are constraints, so they shape what comes before them.
 */
export function draftProgression(context: HarmonyContext, streams: Streams): Progression {
  const { brief, key } = context;
  const slots = withHeld(drawSlots(context, streams('rhythm')), context);
  const asked = readAsked(brief);
  if (!asked.ok) return asked;
  const held = context.held.map(({ chord }) => chord);
  const candidates = withAsked(candidatesFor(key, brief.colouring), [asked.first, asked.last, ...held], key);
  const layers = slots.map((slot, position) => {
    const layer = slot.held ? heldLayer(candidates, slot.held) : layerAt(position, slots, candidates, context, asked);
    return context.melody.length > 0 && !slot.held ? underMelody(layer, candidates, slot, context) : layer;
  });
  const links = linkCandidates(candidates, context);
  const between: Links[] = slots.slice(1).map(() => links);
  const path = drawWithReturn(slots, layers, between, context, streams('pitch'));
  if (typeof path === 'number') return { ok: false, reason: blame(path, slots.length, brief) };
  const chords = slots.map(
    ({ start, duration, held: own }, position): ChordSpan =>
      own ?? { start, duration, chord: (candidates[path[position] as number] as Candidate).chord },
  );
  return { ok: true, chords };
}

/** One or two chords a bar, or one for two bars; a bar before a cadence may carry two. */
function drawSlots(context: HarmonyContext, random: Random): Slot[] {
  const { bars, barTicks, brief, style, metre } = context;
  const beats = beatsOf(metre);
  const middle = (beats.find((beat) => beat.role === 'strong') ?? beats.at(-1))?.at ?? 0;
  if (brief.pace === 0.5) {
    return Array.from({ length: Math.ceil(bars / 2) }, (_, index) => {
      const start = index * 2 * barTicks;
      return { start, duration: Math.min(2 * barTicks, bars * barTicks - start) };
    });
  }
  const slots: Slot[] = [];
  for (let bar = 0; bar < bars; bar++) {
    const start = bar * barTicks;
    const beforeCadence = bar % UNIT_BARS === UNIT_BARS - 2 && bars > 2;
    const last = bar === bars - 1 && bars > 1;
    const split =
      middle > 0 &&
      !last &&
      (brief.pace === 2 ? happens(random, 85) : beforeCadence && happens(random, style.harmony.splits));
    if (split) slots.push({ start, duration: middle }, { start: start + middle, duration: barTicks - middle });
    else slots.push({ start, duration: barTicks });
  }
  return slots;
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

/** Weights of the candidates at one position, with the constraints of the first, last and cadence chords. */
function layerAt(
  position: number,
  slots: readonly Slot[],
  candidates: readonly Candidate[],
  context: HarmonyContext,
  asked: Asked,
): Int32Array {
  const { key, brief } = context;
  const count = slots.length;
  const isLast = position === count - 1;
  // A chord that leads somewhere only stands where what follows is free, or where it leads there.
  const next = slots[position + 1]?.held?.chord;
  const leadsOn = (candidate: Candidate): boolean =>
    candidate.leadsTo === null || !next || candidate.leadsTo === pitchClassOf(next.root);
  const wanted = position === 0 ? asked.first : isLast ? asked.last : null;
  const meets = (candidate: Candidate): boolean =>
    wanted
      ? sameChord(candidate.chord, wanted)
      : meetsCadence(candidate, position, count, context) &&
        !(isLast && candidate.leadsTo !== null) &&
        leadsOn(candidate) &&
        degreeShare(context, pitchClassOf(candidate.chord.root)) > 0;
  const admitted = (candidate: Candidate): boolean => ADMISSION[candidate.kind].from <= brief.adventure;
  // Chords outside the key come in early only for a cadence that the scale itself cannot make.
  const enough = candidates.some((candidate) => admitted(candidate) && meets(candidate));
  return Int32Array.from(candidates, (candidate) => {
    if (!meets(candidate) || (enough && !admitted(candidate))) return FORBIDDEN;
    let weight = -Math.round((ADMISSION[candidate.kind].price * (130 - brief.adventure)) / 100);
    if (position === 0 && !isLast)
      weight += isTonic(candidate, key) ? 160 : candidate.degree === 6 || candidate.degree === 4 ? -40 : -180;
    if (candidate.chord.tones.includes('b5') && !candidate.chord.tones.includes('3')) weight -= 160;
    if (context.weights) weight += logWeight(degreeShare(context, pitchClassOf(candidate.chord.root)));
    return weight;
  });
}

/** What each cadence asks of the last two chords; earlier ones are free. */
function meetsCadence(candidate: Candidate, position: number, count: number, { key, brief }: HarmonyContext): boolean {
  const fromEnd = count - 1 - position;
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
 * Weights of moving from chord to chord: the style's dialect by degree, blended with the pull of falling fifths.
 */
function linkCandidates(candidates: readonly Candidate[], { style, key }: HarmonyContext): Links {
  const { moves, modal } = dialectOf(style, key);
  const weights = candidates.map((from) => candidates.map((to) => moveWeight(from, to, moves, modal)));
  return linkLayers(candidates.length, candidates.length, (from, to) => weights[from]?.[to] ?? FORBIDDEN);
}

/** The moves of a style in a key, and whether its flat seventh does the dominant's work. */
export function dialectOf(
  style: HarmonyContext['style'],
  key: Key,
): { readonly moves: Moves; readonly modal: boolean } {
  const scale = scaleOf(key.scale);
  const minor = isMinorish(scale);
  return { moves: minor ? style.harmony.minor : style.harmony.major, modal: !minor && scale.degrees.includes('b7') };
}

export type Moves = HarmonyContext['style']['harmony']['major'];

/** The weight of moving from chord to chord in a dialect, in hundredths of a nat. */
export function moveWeight(from: Candidate, to: Candidate, moves: Moves, modal: boolean): number {
  const fall = modulo(pitchClassOf(from.chord.root) - pitchClassOf(to.chord.root), 12);
  if (from.leadsTo !== null) return from.leadsTo === pitchClassOf(to.chord.root) && to.leadsTo === null ? 0 : FORBIDDEN;
  if (sameChord(from.chord, to.chord)) return -450;
  const share = dialectShare(from.degree, to.degree, moves, modal);
  const pull = { 7: 30, 10: 10, 9: 10, 3: 5 }[fall] ?? 0;
  return logWeight(share) + pull;
}

/**
 * Share of a move in the dialect; in mixolydian and its like the flat seventh takes over most of the dominant's work.
 */
function dialectShare(from: number, to: number, moves: Moves, modal: boolean): number {
  const row = moves[modal && from === 7 ? 5 : from] ?? {};
  const total = Object.values(row).reduce((sum, weight) => sum + weight, 0);
  const at = (degree: number): number => row[degree] ?? 0;
  const weight = modal && to === 7 ? at(7) + at(5) * 0.6 : modal && to === 5 ? at(5) * 0.4 : at(to);
  return total === 0 ? 0.03 : Math.max(weight / total, 0.03);
}

/**
 * Draws the path; from eight bars on, the second half may return to the first four bars and change only its cadence:
 * returning chords are held positions of the trellis.
 */
function drawWithReturn(
  slots: readonly Slot[],
  layers: Int32Array[],
  links: readonly Links[],
  context: HarmonyContext,
  random: Random,
): Int32Array | number {
  const free = pathSampler({ layers, links }, temperatureOf(context.brief.adventure));
  if (isDeadEnd(free)) return free.deadEnd;
  const path = free.draw(random);
  const returns = context.bars >= 2 * UNIT_BARS && context.melody.length === 0 && happens(random, 70);
  if (!returns) return path;
  const unit = UNIT_BARS * context.barTicks;
  const held = layers.map((layer, position) => {
    const slot = slots[position] as Slot;
    const echo = slots.findIndex(({ start, duration }) => start === slot.start - unit && duration === slot.duration);
    const nearEnd = slots.length - position <= 2;
    if (slot.held) return layer;
    if (slot.start < unit) return only(layer, path[position] as number);
    return echo < 0 || nearEnd || slot.start >= 2 * unit ? layer : only(layer, path[echo] as number);
  });
  const again = pathSampler({ layers: held, links }, temperatureOf(context.brief.adventure));
  return isDeadEnd(again) ? path : again.draw(random);
}

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

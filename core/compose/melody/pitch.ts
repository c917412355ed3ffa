import { chordMask, type Chord } from '../../theory/chord';
import { coloursOver } from '../../theory/colour';
import { metricalWeight, WEIGHT } from '../../theory/metre';
import { inMask, pitchClassOf } from '../../theory/pitch';
import { modulo, range, type MidiNote, type PitchClassMask } from '../../theory/units';
import { isDeadEnd, FORBIDDEN, pathSampler, type Links, type Trellis } from '../../trellis/trellis';
import { logWeight, temperatureOf } from '../../trellis/weights';
import type { Random } from '../../trellis/random';
import { chordAt, degreeShare, unmet, type PartContext, type Unmet } from '../context';
import { heldTop, leaningAt, withHeldPitches } from '../held-line';
import { drawHeights } from './contour';
import { ARRIVALS, ARRIVED, linksBetween } from './moves';
import type { PhraseUnit } from './plan';
import { drawRecall, ladderOf, type Recall } from './recall';
import type { RhythmNote } from './rhythm';

/** Adventure in % from which a line may use any note. */
const CHROMATIC = 40;

/** The pitches that a line may use: the scale's, chord tones outside it, and as adventure grows any. */
function palette(context: PartContext): MidiNote[] {
  const { brief, keyMask, chords } = context;
  const foreign =
    brief.adventure > 0 ? chords.reduce((mask, { chord }) => mask | (chord ? chordMask(chord) : 0), 0) : 0;
  const allowed: PitchClassMask = brief.adventure >= CHROMATIC ? 0xfff : keyMask | foreign;
  return range(brief.high - brief.low + 1)
    .map((step) => brief.low + step)
    .filter((pitch) => inMask(allowed, pitch));
}

/** What every layer of one line is made from. */
interface Setting {
  readonly context: PartContext;
  readonly rhythm: readonly RhythmNote[];
  readonly pitches: readonly MidiNote[];
  /** Pitches that are there for held notes' sake only. */
  readonly foreign: ReadonlySet<MidiNote>;
  readonly held: readonly (MidiNote | null)[];
  readonly chords: readonly (Chord | null)[];
  readonly heights: readonly number[];
}

/**
 * Sets a rhythm to pitches: an exact sample through the trellis of (pitch, how it was reached). The line follows a
 * contour, leans on notes outside the chord where it resolves them, and returning units are drawn around what the unit
 * that they return to has stated.
 *
 * @returns one pitch for each note, or what cannot be met
 */
export function drawPitches(
  context: PartContext,
  rhythm: readonly RhythmNote[],
  plan: readonly PhraseUnit[],
  streamOf: (label: string) => Random,
): MidiNote[] | Unmet {
  const own = palette(context);
  const held = rhythm.map(heldTop);
  const pitches = withHeldPitches(own, held);
  if (pitches.length === 0)
    return unmet('register', 'The register holds no note of the scale. Widen it by a few notes.');
  const chords = rhythm.map(({ start }) => chordAt(context.chords, start));
  const setting: Setting = {
    context,
    rhythm,
    pitches,
    foreign: new Set(pitches.filter((pitch) => !own.includes(pitch))),
    held,
    chords,
    heights: drawHeights(context, rhythm, plan, streamOf('contour')),
  };
  const between = linksBetween(pitches, context);
  // Where both ends are given, by the writer or by what is said again, nothing is forbidden.
  const linksAround = (given: readonly (MidiNote | null)[]): Links[] =>
    rhythm
      .slice(1)
      .map((_, index) =>
        between({
          chord: chords[index] ?? null,
          coming: chords[index + 1] ?? null,
          strong: isStrong(rhythm[index] as RhythmNote, context),
          held:
            held[index] !== null ||
            held[index + 1] !== null ||
            ((given[index] ?? null) !== null && (given[index + 1] ?? null) !== null),
        }),
      );
  const draw = (trellis: Trellis, label: string): MidiNote[] | number => {
    const sampler = pathSampler(trellis, temperatureOf(context.brief.adventure));
    if (isDeadEnd(sampler)) return sampler.deadEnd;
    return Array.from(sampler.draw(streamOf(label)), (state) => pitches[Math.floor(state / ARRIVALS)] as MidiNote);
  };
  const layers = rhythm.map((_, index) => layerOf(setting, index));
  const free = draw({ layers, links: linksAround([]) }, 'free');
  if (typeof free === 'number') return blame(free, rhythm, context);
  const recall = drawRecall(
    { pitches: free, rhythm, plan, chords, barTicks: context.barTicks, motif: context.motif },
    ladderOf(own, context.keyMask),
    context.brief,
    streamOf('recall'),
  );
  if (recall.aims.every((aim) => aim === null)) return free;
  const bound = layers.map((layer, index) => boundLayer(layer, pitches, recall, index, held[index] ?? null));
  const recalled = draw({ layers: bound, links: linksAround(recall.aims) }, 'bound');
  return typeof recalled === 'number' ? free : recalled;
}

const isStrong = ({ start }: RhythmNote, { metre }: PartContext): boolean =>
  metricalWeight(metre, start) >= WEIGHT.beat;

function blame(position: number, rhythm: readonly RhythmNote[], context: PartContext): Unmet {
  const bar = Math.floor((rhythm[position]?.start ?? 0) / context.barTicks) + 1;
  return context.brief.anchoring >= 100
    ? unmet(
        'anchoring',
        `No line fits bar ${bar} in this register on roots alone. Lower anchoring or widen the register.`,
      )
    : unmet('register', `No line fits bar ${bar} in this register. Widen it by a few notes.`);
}

/** What an aim is worth, in hundredths of a nat, and a step beside it. */
const AIMED = 800;
const NEARLY = 60;

/** A layer around what was stated: the stated pitch alone, or one that is aimed at before all others. */
function boundLayer(
  layer: Int32Array,
  pitches: readonly MidiNote[],
  { stated, aims }: Recall,
  index: number,
  held: MidiNote | null,
): Int32Array {
  const [kept, aim] = [stated[index] ?? null, aims[index] ?? null];
  if (held !== null || (kept === null && aim === null)) return layer;
  return layer.map((weight, state) => {
    const pitch = pitches[Math.floor(state / ARRIVALS)] as MidiNote;
    if (kept !== null) return pitch === kept ? weight : FORBIDDEN;
    if (weight <= FORBIDDEN || aim === null) return weight;
    return weight + (pitch === aim ? AIMED : Math.abs(pitch - aim) <= 2 ? NEARLY : 0);
  });
}

/** How heavily a note outside the chord weighs on a bar line, on a beat, when it is long, and in passing. */
const STRENGTH = { bar: 1.55, beat: 1.05, long: 0.7, passing: 0.16 } as const;

/** What a note outside the chord costs on a beat: without anchoring, and for each percent of it. */
const LEANING = { least: -10, each: 5 } as const;
/** How much less it costs where all is adventure, in %. */
const LOOSENED = 80;

/** What a note outside chord and key costs: at 100 % adventure, and more below it. */
const FOREIGN = { least: 0, most: 400 } as const;

/** How much less sixths, ninths and sevenths over a chord cost, at most, by adventure. */
const COLOURED = 0.6;

/** What a note outside the chord costs on a beat; anchoring that was asked for holds whatever the adventure. */
const leaningPrice = ({ anchoring, adventure }: PartContext['brief']): number => {
  const price = LEANING.least + anchoring * LEANING.each;
  const tame = Math.max(0, 20 - adventure) / 40;
  return price * (1 + tame - ((LOOSENED / 100) * Math.max(0, adventure - 20) * (100 - anchoring)) / 8_000);
};

function strengthOf(note: RhythmNote, { metre }: PartContext): number {
  const weight = metricalWeight(metre, note.start);
  if (weight >= WEIGHT.bar) return STRENGTH.bar;
  return weight >= WEIGHT.beat ? STRENGTH.beat : note.duration >= 480 ? STRENGTH.long : STRENGTH.passing;
}

/** What closing on the root is worth: at the end of the section on the key's own chord, and at the end of a phrase. */
const HOME = { end: 260, phrase: 70, chorus: 320 } as const;

function layerOf({ context, rhythm, pitches, foreign, held, chords, heights }: Setting, index: number): Int32Array {
  const { brief, keyMask, key, kind } = context;
  const note = rhythm[index] as RhythmNote;
  const chord = chords[index] ?? null;
  const height = heights[index] ?? 0;
  const leaning = leaningAt(context.held, note.start);
  const strong = isStrong(note, context);
  const strength = strengthOf(note, context);
  const price = leaningPrice(brief);
  // Where a phrase comes to rest nothing leans any more.
  const dissonance = -Math.round((note.closing ? Math.max(strength, STRENGTH.bar) : strength) * price);
  const colour = -Math.round(strength * price * (1 - COLOURED * Math.min(1, brief.adventure / 60)));
  const rootOnly = brief.anchoring >= 100 && strong;
  const last = index === rhythm.length - 1;
  const mask = chord === null ? 0xfff : chordMask(chord);
  const colours = chord === null ? 0 : coloursOver(chord) & keyMask;
  const chordRoot = chord === null ? -1 : pitchClassOf(chord.root);
  const tonic = pitchClassOf(key.tonic);
  const home = last && chordRoot === tonic ? HOME.end : HOME.phrase;
  // A chorus and what ends the song come home, on the key's own note, over whatever chord holds it.
  const homing = last && (kind === 'chorus' || kind === 'outro') ? HOME.chorus : 0;
  const layer = new Int32Array(pitches.length * ARRIVALS);
  pitches.forEach((pitch, place) => {
    const consonant = inMask(mask, pitch);
    const root = modulo(pitch, 12) === chordRoot;
    let value = consonant ? 0 : inMask(colours, pitch) ? colour : dissonance;
    value -= Math.round(2.2 * (pitch - height) * (pitch - height));
    if (!inMask(keyMask, pitch) && !consonant) value -= FOREIGN.least + ((100 - brief.adventure) * FOREIGN.most) / 100;
    if (leaning !== null) value += pitch === leaning ? 260 : Math.abs(pitch - leaning) <= 2 ? 60 : 0;
    const share = context.weights ? degreeShare(context, pitch) : 1;
    if (share < 1) value += logWeight(share);
    if (note.closing) value += root ? home : 0;
    const atHome = homing > 0 && modulo(pitch, 12) === tonic && (consonant || inMask(colours, pitch));
    if (atHome) value += homing + (consonant ? 0 : -colour);
    const unfit =
      foreign.has(pitch) ||
      share <= 0 ||
      (last && !consonant && !atHome && brief.adventure < 85) ||
      (rootOnly && chord !== null && !root);
    const pinned = held[index] ?? null;
    const forbidden = pinned === null ? unfit : pitch !== pinned;
    for (let arrival = 0; arrival < ARRIVALS; arrival++) {
      const start = index > 0 || arrival === ARRIVED.byStep;
      layer[place * ARRIVALS + arrival] = forbidden || !start ? FORBIDDEN : value;
    }
  });
  return layer;
}

import * as fc from 'fast-check';
import type { Music } from '../song/resolve';
import {
  DEAL_WAYS,
  MOST_LAYERS,
  type Chain,
  type DealWay,
  type Layer,
  type Note,
  type Part,
  type PartTake,
  type Pattern,
  type Score,
  type Section,
  type Take,
  type Tone,
} from '../song/schema';
import { editedTake, patternTake } from '../song/take';
import { CHORD_RHYTHMS } from '../styles/chord-rhythms';
import { STYLES } from '../styles/styles';
import { METRES } from '../theory/metre';
import { chains } from './chains';
import { patterns } from './patterns';
import { scoreWith } from './scores';
import { musicOf } from './sounding';
import { linesIn, withChoices } from '../song/section';

const percent = fc.integer({ min: 0, max: 100 });

/** Drafting takes longer than all that is tried here: a few drafted songs serve for all rounds. */
const drafted = new Map<number, ReturnType<typeof scoreWith>>();
function draftedSong(seed: number): ReturnType<typeof scoreWith> {
  const known = drafted.get(seed) ?? scoreWith(seed, 0);
  drafted.set(seed, known);
  return known;
}

/** How a small song is to sound. */
export interface Twist {
  readonly seed: number;
  readonly swing: number;
  readonly feel: number;
  readonly style: string;
  readonly humanise: readonly number[];
  readonly levels: readonly number[];
  readonly pans: readonly number[];
  readonly muted: number;
  readonly energy: readonly { readonly place: number; readonly at: number; readonly value: number }[];
  readonly tempos: readonly number[];
  readonly metre: number;
  readonly pickUps: readonly number[];
  readonly order: readonly number[];
  readonly solo: boolean;
  readonly rhythm: string;
  readonly percussion: boolean;
  /** What doubles the first part, and how far all of it lies from what is written. */
  readonly layers: readonly Layer[];
  readonly octave: number;
  readonly tone: Tone;
  readonly master: number | undefined;
  /** By what the second part goes on by itself; null where it does not. */
  readonly pattern: Pattern | null;
  /** What the first two parts go through; null where they sound as written. */
  readonly chain: Chain | null;
  /** Which part deals its line out, how, and to which; null where every part plays its own. */
  readonly deal: { readonly from: number; readonly way: DealWay; readonly to: readonly number[] } | null;
}

/**
 * All that decides how a song sounds, drawn at random: swing, feel, hands, levels, tones, doubled parts, energy, solos,
 * pick-ups, tempos and metres of sections, chord rhythms with chances, drums and percussion on the same keys.
 */
export const twists: fc.Arbitrary<Twist> = fc.record({
  seed: fc.integer({ min: 1, max: 4 }),
  swing: percent,
  feel: fc.integer({ min: 0, max: 150 }),
  style: fc.constantFrom(...STYLES.map(({ id }) => id)),
  humanise: fc.array(percent, { minLength: 1, maxLength: 6 }),
  levels: fc.array(percent, { minLength: 1, maxLength: 6 }),
  pans: fc.array(fc.integer({ min: -100, max: 100 }), { minLength: 1, maxLength: 6 }),
  muted: fc.integer({ min: 0, max: 12 }),
  energy: fc.array(fc.record({ place: fc.nat({ max: 3 }), at: fc.integer({ min: 0, max: 1440 }), value: percent }), {
    maxLength: 5,
  }),
  tempos: fc.array(
    fc.integer({ min: 400, max: 2400 }).map((tempo) => tempo / 10),
    { minLength: 2, maxLength: 2 },
  ),
  metre: fc.nat({ max: METRES.length - 1 }),
  // What is earlier than the bar line by less is a hand, which files put on the line where they begin with it.
  pickUps: fc.array(fc.integer({ min: 120, max: 900 }), { maxLength: 2 }),
  order: fc.array(fc.nat({ max: 1 }), { minLength: 1, maxLength: 4 }),
  solo: fc.boolean(),
  rhythm: fc.constantFrom(...CHORD_RHYTHMS.map(({ id }) => id)),
  percussion: fc.boolean(),
  layers: fc.array(
    fc.record({
      instrument: fc.constantFrom('violin', 'flute', 'warm-pad'),
      octave: fc.integer({ min: -2, max: 2 }),
      level: percent,
    }),
    { maxLength: MOST_LAYERS },
  ),
  octave: fc.integer({ min: -1, max: 1 }),
  tone: fc.record(
    {
      brightness: fc.integer({ min: -100, max: 100 }),
      attack: fc.integer({ min: -100, max: 100 }),
      release: fc.integer({ min: -100, max: 100 }),
      room: percent,
      chorus: percent,
    },
    { requiredKeys: [] },
  ),
  master: fc.option(percent, { nil: undefined }),
  pattern: fc.option(patterns()),
  chain: fc.option(chains),
  deal: fc.option(
    fc.record({
      from: fc.nat({ max: 6 }),
      way: fc.constantFrom(...DEAL_WAYS),
      to: fc.uniqueArray(fc.nat({ max: 6 }), { minLength: 1, maxLength: 4 }),
    }),
  ),
});

const at = <T>(list: readonly T[], index: number): T => list[index % list.length] as T;

/** The first melody notes of a take with others before the bar line. */
const withPickUp = (notes: readonly Note[], ticks: readonly number[]): Note[] => [
  ...ticks.map((start, index) => ({ start: -start, duration: 90, pitch: 61 + index, velocity: 77 })).reverse(),
  ...notes,
];

/** A small drafted song that sounds so. */
export function songOf(twist: Twist): Music {
  const { score, takes } = draftedSong(twist.seed);
  const drums = score.parts.find(({ role }) => role === 'drums');
  const hands: Part[] = drums && twist.percussion ? [{ ...drums, id: 'hands', name: 'Hands', role: 'percussion' }] : [];
  const parts = [...score.parts, ...hands].map((part, index) => ({
    ...part,
    level: at(twist.levels, index),
    pan: at(twist.pans, index),
    muted: index === twist.muted,
    brief: { ...part.brief, humanise: at(twist.humanise, index) },
    ...(index === 0 ? { octave: twist.octave, tone: twist.tone } : {}),
    ...(index === 0 && twist.layers.length > 0 ? { layers: twist.layers } : {}),
    ...(index < 2 && twist.chain ? { treatments: twist.chain } : {}),
  }));
  const [lead, other] = parts;
  const dealing = ({ from, way, to }: NonNullable<Twist['deal']>): Part[] =>
    parts.map((part, index) =>
      index === from % parts.length
        ? { ...part, deals: { way, to: [...new Set(to.map((place) => at(parts, place).id))] } }
        : part,
    );
  const made: Record<string, Take> = {};
  const going = (section: Section, part: Part, pattern: Pattern): PartTake =>
    patternTake({ id: `going-${section.id}`, section: section.id, length: 1920 }, part, pattern, [], {
      harmony: null,
      ground: score.ground,
      before: null,
    });
  const sections = score.sections.map((section, index) => {
    const chosen = new Map(linesIn(section));
    for (const part of lead && twist.pickUps.length > 0 ? [lead] : []) {
      const take = takes[chosen.get(part.id) ?? ''] as PartTake;
      const id = `led-${section.id}`;
      made[id] = editedTake(id, take, withPickUp(take.notes, twist.pickUps));
      chosen.set(part.id, id);
    }
    if (other && twist.pattern) {
      const take = going(section, other, twist.pattern);
      made[take.id] = take;
      chosen.set(other.id, take.id);
    }
    // Drums and percussion play the same: every stroke meets another on its key.
    if (drums && hands.length > 0) chosen.set('hands', chosen.get(drums.id) ?? null);
    return {
      ...withChoices(section, chosen),
      chordSetting: { ...section.chordSetting, rhythm: twist.rhythm },
      ground: { tempo: at(twist.tempos, index), ...(index === 1 ? { metre: at(METRES, twist.metre) } : {}) },
      solos: twist.solo && index === 0 && lead && other ? [{ part: lead.id, over: other.id, from: 0, to: 1 }] : [],
    };
  });
  const order = twist.order.map((section, index) => ({ id: `place-${index}`, section: at(sections, section).id }));
  const song: Score = {
    ...score,
    ground: { ...score.ground, swing: twist.swing, feel: twist.feel, style: twist.style },
    ...(twist.master === undefined ? {} : { master: twist.master }),
    parts: twist.deal ? dealing(twist.deal) : parts,
    sections,
    order,
    energy: twist.energy.map(({ place, at: tick, value }) => ({ occurrence: at(order, place).id, at: tick, value })),
  };
  return musicOf(song, { ...takes, ...made });
}

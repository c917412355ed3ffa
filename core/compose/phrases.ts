import type { Asking, Brief, ChordSpan, Note, Role } from '../song/schema';
import { CHORD_RHYTHMS } from '../styles/chord-rhythms';
import { COMMON_PICKING, COMMON_STRUMS } from '../styles/common-figures';
import type { Style } from '../song/style';
import { STYLES, styleOf } from '../styles/styles';
import { chordNotes } from '../theory/chord';
import { barTicks } from '../theory/metre';
import { pitchClassOf } from '../theory/pitch';
import { clamp, modulo } from '../theory/units';
import { draftArpeggio, draftComping } from './accompaniment';
import { draftBass } from './bass';
import { contextOf, type Drafter } from './context';
import { NOTHING_HELD } from './held';
import { attemptsAt, streamsOf } from './stages';
import { draftPicking, draftStrum } from './guitar';
import { playOwnPhrase } from './own-phrases';
import type { Phrase, PhraseTurn } from './phrase';
import { roleOf } from '../song/roles';

const ORDERS: readonly (readonly [name: string, order: readonly number[]])[] = [
  ['up', [0, 1, 2, 3]],
  ['down', [3, 2, 1, 0]],
  ['up and down', [0, 1, 2, 3, 2, 1]],
  ['down and up', [3, 2, 1, 0, 1, 2]],
  ['rocking', [0, 2, 1, 2]],
  ['alternating', [0, 2, 1, 3]],
  ['from outside in', [0, 3, 1, 2]],
  ['from inside out', [1, 2, 0, 3]],
  ['over a low note', [0, 1, 0, 2, 0, 3]],
  ['under a high note', [3, 0, 3, 1, 3, 2]],
  ['climbing by thirds', [0, 2, 1, 3, 2, 4]],
  ['wide', [0, 4, 2, 5]],
];
const RATES: readonly (readonly [name: string, busyness: number, rate: number])[] = [
  ['quarters', 4, 1],
  ['eighths', 8, 2],
  ['triplets', 12, 3],
  ['sixteenths', 16, 4],
];
const TOUCHES: readonly (readonly [name: string, length: number])[] = [
  ['ringing', 100],
  ['clipped', 40],
];

const every = (step: number): number[] =>
  Array.from({ length: Math.ceil(16 / step) }, (_, index) => Math.floor(index * step));
const struckIn = (steps: string): number[] =>
  [...(steps.split('|')[0] ?? '')].flatMap((symbol, index) => (symbol === '.' || symbol === ',' ? [] : [index]));
const perBar = (steps: string): number => steps.replaceAll(/[.,|]/g, '').length / steps.split('|').length;

function brokenChords(): Phrase[] {
  return ORDERS.flatMap(([order, places]) =>
    RATES.flatMap(([rate, busyness, perQuarter]) =>
      TOUCHES.map(([touch, length]): Phrase => ({
        id: `broken ${order} ${rate} ${touch}`,
        name: `${touch} broken chord, ${rate}, ${order}`,
        family: 'broken chord',
        role: 'arpeggio',
        figure: { arpeggio: [{ name: order, order: [...places], rate: perQuarter, length }] },
        brief: { busyness, breath: 0 },
        busyness,
        onsets: every(16 / busyness),
      })),
    ),
  );
}

/** Symbols that only the chord line knows become plain strokes or nothing. */
const plainSteps = (steps: string): string => steps.replaceAll('<', 'x').replaceAll(/[~,]/g, '.');

function stabs(): Phrase[] {
  return CHORD_RHYTHMS.flatMap((rhythm) =>
    (rhythm.length > 60
      ? [['held', rhythm.length] as const, ['short', 30] as const]
      : [['short', rhythm.length] as const]
    ).map(([touch, length]): Phrase => ({
      id: `stabs ${rhythm.id} ${touch}`,
      name: `${touch} chords, ${rhythm.name}, ${rhythm.family.toLowerCase()}`,
      family: 'stabs',
      role: 'comping',
      figure: { comping: [{ name: rhythm.name, steps: plainSteps(rhythm.steps), length }], metres: [rhythm.metre] },
      brief: { busyness: Math.max(1, perBar(plainSteps(rhythm.steps))), syncopation: 0 },
      busyness: perBar(rhythm.steps),
      onsets: struckIn(rhythm.steps),
    })),
  );
}

function guitars(): Phrase[] {
  const strums = [
    ...COMMON_STRUMS.map((figure) => ({ figure, from: '4/4', style: '' })),
    ...STYLES.flatMap((style) =>
      (style.strums ?? []).map((figure) => ({
        figure,
        from: style.metres[0] ?? '4/4',
        style: style.name.toLowerCase(),
      })),
    ),
  ];
  const picking = [
    ...COMMON_PICKING.map((figure) => ({ figure, from: '4/4' })),
    ...STYLES.flatMap((style) => (style.picking ?? []).map((figure) => ({ figure, from: style.metres[0] ?? '4/4' }))),
  ];
  return [
    ...strums.map(({ figure, from, style }): Phrase => ({
      id: `strum ${style} ${figure.name}`,
      name: `strummed, ${figure.name}${style ? `, ${style}` : ''}`,
      family: 'strumming',
      role: 'strum',
      figure: { strums: [figure], metres: [from] },
      brief: {},
      busyness: perBar(figure.steps),
      onsets: struckIn(figure.steps),
    })),
    ...picking.map(({ figure, from }): Phrase => ({
      id: `picking ${figure.name}`,
      name: `picked, ${figure.name}`,
      family: 'picking',
      role: 'picking',
      figure: { picking: [figure], metres: [from] },
      brief: {},
      busyness: perBar(figure.steps),
      onsets: struckIn(figure.steps),
    })),
  ];
}

function basses(): Phrase[] {
  return STYLES.flatMap((style) =>
    style.bass.map((figure): Phrase => ({
      id: `bass ${style.id} ${figure.name}`,
      name: `bass, ${figure.name}, ${style.name.toLowerCase()}`,
      family: 'bass figure',
      role: 'bass',
      figure: { bass: [figure], metres: [style.metres[0] ?? '4/4'] },
      brief: { busyness: Math.max(1, perBar(figure.steps)), syncopation: 0 },
      busyness: perBar(figure.steps),
      onsets: struckIn(figure.steps),
    })),
  );
}

let made: readonly Phrase[] | null = null;

/** Every phrase, made once when it is first asked for. */
export function allPhrases(): readonly Phrase[] {
  if (made) return made;
  const byId = new Map([...brokenChords(), ...stabs(), ...guitars(), ...basses()].map((phrase) => [phrase.id, phrase]));
  made = [...byId.values()];
  return made;
}

/** Phrases by words in any order, from sparse to busy. */
export function findPhrases(
  query: string,
  family: Phrase['family'] | null = null,
  among: readonly Phrase[] = allPhrases(),
): Phrase[] {
  const words = query
    .toLowerCase()
    .split(/\s+/)
    .filter((word) => word !== '');
  return among
    .filter(
      (phrase) =>
        (family === null || phrase.family === family) &&
        words.every((word) => `${phrase.name} ${phrase.family}`.toLowerCase().includes(word)),
    )
    .toSorted((a, b) => a.busyness - b.busyness);
}

/** Phrases whose strokes come nearest a tapped rhythm, given as places in a bar of sixteen; the nearest first. */
export function phrasesLike(tapped: readonly number[], among: readonly Phrase[] = allPhrases()): Phrase[] {
  const wanted = new Set(tapped);
  const unlike = ({ onsets }: Phrase): number => {
    const own = new Set(onsets);
    return (
      [...wanted].filter((place) => !own.has(place)).length + [...own].filter((place) => !wanted.has(place)).length
    );
  };
  return among
    .map((phrase, index) => ({ phrase, index, unlike: unlike(phrase) }))
    .sort((a, b) => a.unlike - b.unlike || a.index - b.index)
    .map(({ phrase }) => phrase);
}

/** Half speed spreads a bar over two, double speed says it twice. */
function atSpeed(steps: string, speed: PhraseTurn['speed']): string {
  if (speed === 1) return steps;
  return steps
    .split('|')
    .map((bar) => {
      if (speed === 0.5) {
        const wide = [...bar].flatMap((symbol) => [symbol, '.']);
        return `${wide.slice(0, bar.length).join('')}|${wide.slice(bar.length).join('')}`;
      }
      const half = Array.from(
        { length: bar.length / 2 },
        (_, index) => (bar[index * 2] === '.' ? bar[index * 2 + 1] : bar[index * 2]) ?? '.',
      ).join('');
      return half + half;
    })
    .join('|');
}

function turned({ figure }: Phrase, speed: PhraseTurn['speed']): Phrase['figure'] {
  const faster = <T extends { readonly steps: string }>(list: readonly T[] | undefined): T[] | undefined =>
    list?.map((one) => ({ ...one, steps: atSpeed(one.steps, speed) }));
  const [comping, bass, strums, picking] = [
    faster(figure.comping),
    faster(figure.bass),
    faster(figure.strums),
    faster(figure.picking),
  ];
  return {
    ...figure,
    ...(comping ? { comping } : {}),
    ...(bass ? { bass } : {}),
    ...(strums ? { strums } : {}),
    ...(picking ? { picking } : {}),
  };
}

const PLAYERS: Readonly<Partial<Record<Role, Drafter>>> = {
  arpeggio: draftArpeggio,
  comping: draftComping,
  bass: draftBass,
  strum: draftStrum,
  picking: draftPicking,
};

export type Played =
  | { readonly ok: true; readonly notes: readonly Note[] }
  | { readonly ok: false; readonly reason: string };

/**
 * Plays a phrase over a section's chords.
 *
 * @param asking  where: ground, bars, kind
 * @param range   the register of the part that is to play it; none for the role's own
 */
export function playPhrase(
  phrase: Phrase,
  asking: Pick<Asking, 'ground' | 'bars' | 'kind' | 'engine'>,
  chords: readonly ChordSpan[],
  turn: PhraseTurn,
  range: Pick<Brief, 'low' | 'high'> | null,
): Played {
  if (phrase.own) {
    const length = asking.bars * barTicks(asking.ground.metre);
    const notes = playOwnPhrase(phrase.own, { ground: asking.ground, length }, chords, turn, range);
    return { ok: true, notes: turn.bass && phrase.role !== 'bass' ? withBass(notes, chords, length) : notes };
  }
  const usual = roleOf(phrase.role).brief;
  const own = { ...usual, adventure: 0, dynamics: 30, ...phrase.brief, ...(range ?? {}) };
  const shift = 12 * turn.octave;
  const low = clamp(own.low + shift, 12, 108);
  const brief: Brief = {
    ...own,
    low,
    high: clamp(own.high + shift, low + 12, 120),
    voices: clamp(own.voices + turn.fullness, 1, 6),
    busyness: clamp(own.busyness * turn.speed, 0.5, 24),
  };
  const shipped = styleOf(asking.ground.style);
  // A phrase is played as it is written: its own brief counts as what its style usually asks for.
  const band = { role: phrase.role, name: phrase.name, instrument: '', level: 0, pan: 0, brief };
  const style: Style = { ...shipped, ...turned(phrase, turn.speed), band: [band] };
  const context = contextOf({ ...asking, beside: [] }, style, chords, []);
  const play = PLAYERS[phrase.role] ?? draftComping;
  const drafted = play(
    { ...context, role: phrase.role, brief, held: NOTHING_HELD },
    streamsOf(1, 'phrase', attemptsAt(0)),
  );
  if (!drafted.ok) return drafted;
  return {
    ok: true,
    notes:
      turn.bass && phrase.role !== 'bass'
        ? withBass(drafted.notes, chords, asking.bars * barTicks(asking.ground.metre))
        : drafted.notes,
  };
}

/** The root, or the slash bass, under every chord. */
function withBass(notes: readonly Note[], chords: readonly ChordSpan[], length: number): Note[] {
  const lowest = notes.reduce((least, { pitch }) => Math.min(least, pitch), 60);
  const added = chords.flatMap(({ start, duration, chord }): Note[] => {
    if (!chord || start >= length || chordNotes(chord).length === 0) return [];
    const pitch = 36 + modulo(pitchClassOf(chord.bass ?? chord.root), 12);
    return pitch < lowest ? [{ start, duration: Math.min(duration, length - start), pitch, velocity: 84 }] : [];
  });
  return [...notes, ...added].sort((a, b) => a.start - b.start || a.pitch - b.pitch);
}

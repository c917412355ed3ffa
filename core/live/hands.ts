import { sameChord, type Chord } from '../theory/chord';
import type { Key } from '../theory/key';
import type { MidiNote, Velocity } from '../theory/units';
import type { Voicing } from '../voicing/types';
import { walkable, withAdditions, type Addition } from './chords-offered';
import { bassOf, laidOut, noteAt, walked } from './laying';
import type { LivePlayer } from './player';
import { strike, strokeOver, type Strike, type Touch } from './touches';

/** Any key, screen or device control, by a name of its own. */
export type HandKey = string;

/** A note that sounds: what let it sound, and whether it rings on as long as a chord is held. */
interface Ringing {
  readonly by: HandKey;
  readonly rings: boolean;
}

/** Two hands at play: the left holds a chord, the right touches it. */
export interface Hands {
  /** Keys that hold a chord, the last one pressed last. */
  readonly holding: readonly (readonly [key: HandKey, chord: Chord])[];
  /** The chord that was chosen last; it stays under the right hand when the left lets go. */
  readonly chosen: Chord | null;
  readonly additions: ReadonlySet<Addition>;
  readonly inversion: number | null;
  /** The chord with what was added, and how it lies. */
  readonly chord: Chord | null;
  readonly pitches: Voicing;
  /** Keys of the right hand that are down. */
  readonly touching: ReadonlySet<HandKey>;
  readonly sounding: ReadonlyMap<MidiNote, Ringing>;
  /** The single note that was struck last: from there a line walks on. */
  readonly last: MidiNote | null;
  /** True while the pedal is down: what is let go rings on until it comes up. */
  readonly pedal: boolean;
}

/** What keeps notes sounding that are let go while the pedal is down. No key is called so. */
const PEDAL: HandKey = 'the pedal';

export const RESTING: Hands = {
  holding: [],
  chosen: null,
  additions: new Set(),
  inversion: null,
  chord: null,
  pitches: [],
  touching: new Set(),
  sounding: new Map(),
  last: null,
  pedal: false,
};

export type HandAction =
  /** A key of the left hand goes down; with `sounds` it strikes the chord, too. */
  | {
      readonly does: 'hold';
      readonly key: HandKey;
      readonly chord: Chord;
      readonly sounds: boolean;
      readonly velocity: Velocity;
    }
  | { readonly does: 'touch'; readonly key: HandKey; readonly touch: Touch; readonly velocity: Velocity }
  /** A key of its own pitch goes down. */
  | { readonly does: 'note'; readonly key: HandKey; readonly pitch: MidiNote; readonly velocity: Velocity }
  | { readonly does: 'let go'; readonly key: HandKey }
  | { readonly does: 'pedal'; readonly down: boolean }
  | { readonly does: 'add'; readonly additions: ReadonlySet<Addition> }
  | { readonly does: 'invert'; readonly inversion: number | null }
  /** The section's own chords choose. */
  | { readonly does: 'follow'; readonly chord: Chord | null }
  | { readonly does: 'rest' };

/** What comes of an action: first notes end, then others are struck. */
export interface Handled {
  readonly hands: Hands;
  readonly ends: readonly MidiNote[];
  readonly strikes: readonly Strike[];
}

/** Whom the hands play, and in which key. */
export interface Played {
  readonly player: LivePlayer;
  readonly key: Key;
}

const only = (hands: Hands): Handled => ({ hands, ends: [], strikes: [] });

/**
 * What hands do and what sounds of it. Every note that is struck ends: when its key is let go, when the chord is that it
 * rings with, when its pitch is struck again, or when the hands rest.
 */
export function handled(hands: Hands, action: HandAction, played: Played): Handled {
  switch (action.does) {
    case 'hold':
      return held(hands, action, played);
    case 'touch':
      return touched(hands, action, played);
    case 'note':
      return noted(hands, action);
    case 'let go':
      return letGo(hands, action.key, played);
    case 'pedal':
      return pedalled(hands, action.down);
    case 'add':
      return laidAnew({ ...hands, additions: action.additions }, played);
    case 'invert':
      return laidAnew({ ...hands, inversion: action.inversion }, played);
    case 'follow':
      return only(action.chord === null ? hands : under({ ...hands, chosen: action.chord }, played));
    case 'rest':
      return { hands: RESTING, ends: [...hands.sounding.keys()], strikes: [] };
  }
}

/** The hands with their chord laid out as near to where they are as it comes. */
function under(hands: Hands, { player, key }: Played): Hands {
  if (!hands.chosen) return hands;
  const chord = withAdditions(hands.chosen, hands.additions, key);
  const before = hands.chord && { chord: hands.chord, pitches: hands.pitches };
  return { ...hands, chord, pitches: laidOut(chord, before, hands.inversion, player) };
}

/** What was added or turned while a chord is held: what sounds by the left hand changes with it. */
function laidAnew(hands: Hands, played: Played): Handled {
  const now = under(hands, played);
  const [key] = now.holding.at(-1) ?? [];
  const own = [...now.sounding].filter(([, { by }]) => by === key);
  if (key === undefined || own.length === 0) return only(now);
  const ends = own.map(([pitch]) => pitch).filter((pitch) => !now.pitches.includes(pitch));
  const added = now.pitches.filter((pitch) => !now.sounding.has(pitch)).map((pitch) => strike(pitch, ADDED_VELOCITY));
  return struck(ended(now, ends), added, { by: key, rings: false });
}

const ADDED_VELOCITY: Velocity = 76;

function held(hands: Hands, action: Extract<HandAction, { does: 'hold' }>, played: Played): Handled {
  const { key, chord, sounds, velocity } = action;
  const holding = [...hands.holding.filter(([other]) => other !== key), [key, chord] as const];
  const now = under({ ...hands, holding, chosen: chord }, played);
  if (!sounds) return only(now);
  // One hand plays one chord: what the last key held gives way.
  const others = [...now.sounding].filter(([, { by }]) => holding.some(([other]) => other === by));
  return struck(ended(now, pitchesOf(others)), strokeOver(now.pitches, 'together', velocity), {
    by: key,
    rings: false,
  });
}

function touched(hands: Hands, action: Extract<HandAction, { does: 'touch' }>, played: Played): Handled {
  const { key, touch, velocity } = action;
  const now = { ...hands, touching: new Set(hands.touching).add(key) };
  const by: Ringing = { by: key, rings: touch.does === 'stroke' };
  if (touch.does === 'stroke') {
    // A hand that strikes the strings again ends what they rang.
    const ringing = [...now.sounding].filter(([, { rings }]) => rings).map(([pitch]) => pitch);
    return struck(ended(now, ringing), strokeOver(now.pitches, touch.way, velocity), by);
  }
  const pitch = single(now, touch, played);
  if (pitch === null) return only(now);
  return struck(only({ ...now, last: pitch }), [strike(pitch, velocity)], by);
}

function noted(hands: Hands, { key, pitch, velocity }: Extract<HandAction, { does: 'note' }>): Handled {
  const now = { ...hands, touching: new Set(hands.touching).add(key), last: pitch };
  return struck(only(now), [strike(pitch, velocity)], { by: key, rings: false });
}

/** The one note that a touch means; null where there is no chord that would say. */
function single(hands: Hands, touch: Touch, { player, key }: Played): MidiNote | null {
  const { chord, pitches } = hands;
  switch (touch.does) {
    case 'drum':
      return touch.pitch;
    case 'bass':
      return chord && bassOf(chord, pitches, player);
    case 'note':
      return chord && noteAt(chord, pitches, touch.place, player);
    case 'walk': {
      const from = hands.last ?? (chord && noteAt(chord, pitches, 0, player)) ?? player.wish.centre;
      return walked(walkable(chord, key), from, touch.by, player);
    }
    case 'stroke':
      return null;
  }
}

function letGo(hands: Hands, key: HandKey, played: Played): Handled {
  const holding = hands.holding.filter(([other]) => other !== key);
  const touching = new Set([...hands.touching].filter((other) => other !== key));
  const back = holding.at(-1)?.[1];
  const turned = back !== undefined && hands.chosen !== null && !sameChord(back, hands.chosen);
  const now = { ...hands, holding, touching };
  const lies = turned ? under({ ...now, chosen: back }, played) : now;
  const over = [...lies.sounding].filter(([, { by, rings }]) =>
    rings ? holding.length === 0 && !touching.has(by) : by === key,
  );
  return hands.pedal ? only(kept(lies, over)) : ended(lies, pitchesOf(over));
}

type Sounding = readonly (readonly [pitch: MidiNote, ringing: Ringing])[];

const pitchesOf = (sounding: Sounding): readonly MidiNote[] => sounding.map(([pitch]) => pitch);

/** What is let go while the pedal is down sounds on by the pedal. */
const kept = (hands: Hands, over: Sounding): Hands => ({
  ...hands,
  sounding: new Map([...hands.sounding, ...over.map(([pitch]) => [pitch, { by: PEDAL, rings: false }] as const)]),
});

/** The pedal goes down, or comes up and ends what it kept. */
function pedalled(hands: Hands, down: boolean): Handled {
  const now = { ...hands, pedal: down };
  return down ? only(now) : ended(now, pitchesOf([...now.sounding].filter(([, { by }]) => by === PEDAL)));
}

function ended(hands: Hands, pitches: readonly MidiNote[]): Handled {
  const sounding = new Map(hands.sounding);
  for (const pitch of pitches) sounding.delete(pitch);
  return { hands: { ...hands, sounding }, ends: pitches, strikes: [] };
}

/** Strikes notes after others have ended; one that sounds already ends first. */
function struck({ hands, ends }: Handled, strikes: readonly Strike[], by: Ringing): Handled {
  const sounding = new Map(hands.sounding);
  const again = strikes.map(({ pitch }) => pitch).filter((pitch) => sounding.has(pitch));
  for (const { pitch, lasts } of strikes) {
    sounding.delete(pitch);
    if (lasts === null) sounding.set(pitch, by);
  }
  return { hands: { ...hands, sounding }, ends: [...ends, ...again], strikes };
}

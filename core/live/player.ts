import { roleOf } from '../song/roles';
import type { ChordSetting, Part } from '../song/schema';
import type { Instrument } from '../sounding/instruments';
import { clamp, type MidiNote } from '../theory/units';
import { familyWish, wishFor } from '../voicing/chord-line';
import type { VoicingWish } from '../voicing/voicing';

/** Who is played by hand: how far it reaches, and what its chords are laid out for. */
export interface LivePlayer {
  readonly plays: 'chords' | 'line' | 'bass' | 'drums';
  /** The register of its single notes. */
  readonly low: MidiNote;
  readonly high: MidiNote;
  /** The lowest note that its instrument plays well. */
  readonly deepest: MidiNote;
  readonly wish: VoicingWish;
}

/** Where the chord line's bass begins: E1. */
const DEEPEST: MidiNote = 28;

/** The chord line, as its section lays it out. */
export function chordPlayer(setting: ChordSetting): LivePlayer {
  const wish = wishFor(setting);
  return { plays: 'chords', low: wish.low, high: wish.high, deepest: DEEPEST, wish };
}

/** The least room in which any chord can be laid out, in semitones. */
const ROOM = 19;
/** Notes of a chord for two hands. */
const VOICES = 4;

/**
 * A part, in the register of its brief, or what its instrument has of it. On guitars chords are shapes that a hand can
 * hold.
 *
 * @param instrument  what it sounds on
 */
export function partPlayer({ role, brief }: Pick<Part, 'role' | 'brief'>, instrument: Instrument): LivePlayer {
  const { plays } = roleOf(role);
  const low = clamp(brief.low, instrument.low, instrument.high);
  const high = clamp(brief.high, low, instrument.high);
  const register = { plays, low, high, deepest: instrument.low };
  if (instrument.family === 'guitars' && plays !== 'bass') return { ...register, wish: familyWish('guitar') };
  const lowest = Math.max(instrument.low, Math.min(low, high - ROOM));
  const highest = Math.min(instrument.high, Math.max(high, lowest + ROOM));
  const wish = { low: lowest, high: highest, voices: VOICES, centre: Math.round((low + high) / 2) };
  return { ...register, wish: { ...wish, family: 'keyboard' } };
}

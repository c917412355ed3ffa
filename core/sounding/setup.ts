import { isDrumRole } from '../song/roles';
import { HARMONY, type ChordSetting, type LineId, type Part, type Score } from '../song/schema';
import type { Percent } from '../theory/units';
import { instrumentOf, type Instrument } from './instruments';

/** One line of a performance and how it sounds. */
export interface Voice {
  /** The part, or the chord line. */
  readonly id: LineId;
  readonly name: string;
  readonly instrument: Instrument;
  /** True where notes are the drums of a kit. */
  readonly drums: boolean;
  /** Volume and pan as MIDI controllers 7 and 10 say them, 0–127; 64 is the middle. */
  readonly level: number;
  readonly pan: number;
  readonly muted: boolean;
}

/** A level as a MIDI controller value, 0–127. */
export const levelController = (level: Percent): number => Math.round((level * 127) / 100);
/** A pan from −100, left, to 100 as a MIDI controller value; the middle is 64 whichever way it is turned. */
export const panController = (pan: number): number => Math.max(0, Math.min(127, Math.round(64 + (pan * 63) / 100)));

/** The chord line stays behind the parts that play with it. */
const CHORD_LINE_LEVEL: Percent = 62;

const voiceOf = ({ id, name, role, instrument, level, pan, muted }: Part): Voice => ({
  id,
  name,
  instrument: instrumentOf(instrument),
  drums: isDrumRole(role),
  level: levelController(level),
  pan: panController(pan),
  muted,
});

/** What the chord line sounds on: what its voicing is meant for. */
const CHORD_LINE_INSTRUMENTS: Readonly<Record<ChordSetting['family'], string>> = {
  keyboard: 'grand-piano',
  guitar: 'steel-guitar',
  ensemble: 'string-ensemble',
};

export const chordInstrument = (family: ChordSetting['family']): Instrument =>
  instrumentOf(CHORD_LINE_INSTRUMENTS[family]);

const chordVoice = (instrument: Instrument): Voice => ({
  id: HARMONY,
  name: 'Chords',
  instrument,
  drums: false,
  level: levelController(CHORD_LINE_LEVEL),
  pan: panController(0),
  muted: false,
});

/**
 * All that can sound in a song: its parts in their order, then the chord line. The one source of levels and pans.
 *
 * @param instrument  what the chord line begins on
 */
export const voicesOf = (score: Score, instrument: Instrument = chordInstrument('keyboard')): readonly Voice[] => [
  ...score.parts.map(voiceOf),
  chordVoice(instrument),
];

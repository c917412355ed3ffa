import { isDrumRole } from '../song/roles';
import { LIMITS, withEnding } from '../song/limits';
import { HARMONY, MOST_LAYERS, type ChordSetting, type LineId, type Part, type Score, type Tone } from '../song/schema';
import { range, type Percent } from '../theory/units';
import { instrumentOf, type Instrument } from './instruments';

/** What sounds: a line, or another instrument that doubles it. */
export type VoiceId = string;

/** One instrument of a performance and how it sounds. */
export interface Voice {
  readonly id: VoiceId;
  /** What it plays: a part, or the chord line. */
  readonly line: LineId;
  readonly name: string;
  readonly instrument: Instrument;
  /** True where notes are the drums of a kit. */
  readonly drums: boolean;
  /** Volume and pan as MIDI controllers 7 and 10 say them, 0–127; 64 is the middle. */
  readonly level: number;
  readonly pan: number;
  readonly muted: boolean;
  /** What is said of its tone. */
  readonly tone: Tone;
  /** The kit that it belongs to, where it is one drum of it by itself. */
  readonly kit?: VoiceId;
  /** Octaves by which it sounds away from what is written. */
  readonly octave: number;
  /** How loud it is beside its line, in %. */
  readonly share: Percent;
}

/** A level as a MIDI controller value, 0–127. */
export const levelController = (level: Percent): number => Math.round((level * 127) / 100);
/** What goes from −100 to 100, as a pan does, as a MIDI controller value; the middle is 64 whichever way it is turned. */
export const aroundController = (value: number): number =>
  Math.max(0, Math.min(127, Math.round(64 + (value * 63) / 100)));

/** The chord line stays behind the parts that play with it. */
const CHORD_LINE_LEVEL: Percent = 62;

/** A name that no line has. */
const layerId = (line: LineId, index: number): VoiceId => `${line} layer ${index + 1}`;

/** All voices that a line can have, its own first: those of them that a song has are in its setup. */
export const voiceIdsOf = (line: LineId): readonly VoiceId[] => [
  line,
  ...range(MOST_LAYERS).map((index) => layerId(line, index)),
];

/** A part's own instrument, and those that double it. */
function voicesOfPart(part: Part): Voice[] {
  const { id, name, role, instrument, level, pan, muted, tone = {}, octave = 0, layers = [] } = part;
  const drums = isDrumRole(role);
  const voice = (own: Pick<Voice, 'id' | 'name' | 'octave' | 'share'>, sound: string): Voice => ({
    ...own,
    line: id,
    instrument: instrumentOf(sound),
    drums,
    level: levelController((level * own.share) / 100),
    pan: aroundController(pan),
    muted,
    tone,
    octave: drums ? 0 : own.octave,
  });
  return [
    voice({ id, name, octave, share: 100 }, instrument),
    ...layers.map((layer, index) => {
      const named = withEnding(name, `, ${instrumentOf(layer.instrument).name}`, LIMITS.name);
      return voice(
        { id: layerId(id, index), name: named, octave: octave + layer.octave, share: layer.level },
        layer.instrument,
      );
    }),
  ];
}

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
  line: HARMONY,
  name: 'Chords',
  instrument,
  drums: false,
  level: levelController(CHORD_LINE_LEVEL),
  pan: aroundController(0),
  muted: false,
  tone: {},
  octave: 0,
  share: 100,
});

/**
 * All that can sound in a song: its parts in their order, each with what doubles it, then the chord line. The one source
 * of levels, pans and tones.
 *
 * @param instrument  what the chord line begins on
 */
export const voicesOf = (score: Score, instrument: Instrument = chordInstrument('keyboard')): readonly Voice[] => [
  ...score.parts.flatMap(voicesOfPart),
  chordVoice(instrument),
];

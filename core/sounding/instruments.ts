import { isDrumRole } from '../song/roles';
import type { Role } from '../song/schema';
import type { MidiNote } from '../theory/units';

/** The sampled families; each is one bank file of this name. */
export type Family =
  | 'piano'
  | 'keys'
  | 'guitars'
  | 'basses'
  | 'strings'
  | 'solo-strings'
  | 'voices'
  | 'winds'
  | 'synths'
  | 'drums';

/** A sampled sound and the notes that it plays well. */
export interface Instrument {
  readonly id: string;
  readonly name: string;
  readonly family: Family;
  /** General MIDI program, 0–127; for kits the kit's program on channel 10. */
  readonly program: number;
  readonly low: MidiNote;
  readonly high: MidiNote;
}

const row = (id: string, name: string, family: Family, program: number, low: MidiNote, high: MidiNote): Instrument => ({
  id,
  name,
  family,
  program,
  low,
  high,
});

export const INSTRUMENTS: readonly Instrument[] = [
  row('grand-piano', 'Grand piano', 'piano', 0, 21, 108),
  row('electric-grand', 'Electric grand', 'keys', 2, 28, 100),
  row('electric-piano', 'Electric piano', 'keys', 4, 28, 100),
  row('drawbar-organ', 'Drawbar organ', 'keys', 16, 36, 96),
  row('rock-organ', 'Rock organ', 'keys', 18, 36, 96),
  row('vibraphone', 'Vibraphone', 'keys', 11, 53, 89),
  row('marimba', 'Marimba', 'keys', 12, 45, 96),
  row('music-box', 'Music box', 'keys', 10, 60, 96),
  row('nylon-guitar', 'Nylon guitar', 'guitars', 24, 40, 83),
  row('steel-guitar', 'Steel guitar', 'guitars', 25, 40, 84),
  row('clean-guitar', 'Clean electric guitar', 'guitars', 27, 40, 86),
  row('muted-guitar', 'Muted electric guitar', 'guitars', 28, 40, 84),
  row('driven-guitar', 'Driven electric guitar', 'guitars', 29, 40, 86),
  row('acoustic-bass', 'Upright bass', 'basses', 32, 28, 60),
  row('fingered-bass', 'Fingered bass', 'basses', 33, 28, 60),
  row('picked-bass', 'Picked bass', 'basses', 34, 28, 60),
  row('round-synth-bass', 'Round synth bass', 'basses', 38, 24, 60),
  row('hard-synth-bass', 'Hard synth bass', 'basses', 39, 24, 60),
  row('string-ensemble', 'String ensemble', 'strings', 48, 36, 96),
  row('pizzicato', 'Pizzicato strings', 'strings', 45, 36, 93),
  row('violin', 'Violin', 'solo-strings', 40, 55, 96),
  row('cello', 'Cello', 'solo-strings', 42, 36, 76),
  row('choir', 'Choir', 'voices', 52, 45, 81),
  row('voices', 'Voices', 'voices', 53, 45, 81),
  row('brass-section', 'Brass section', 'winds', 61, 40, 84),
  row('trumpet', 'Trumpet', 'winds', 56, 54, 84),
  row('alto-saxophone', 'Alto saxophone', 'winds', 65, 49, 80),
  row('flute', 'Flute', 'winds', 73, 60, 93),
  row('clarinet', 'Clarinet', 'winds', 71, 50, 88),
  row('warm-pad', 'Warm pad', 'synths', 89, 36, 96),
  row('saw-lead', 'Saw lead', 'synths', 81, 36, 96),
  row('square-lead', 'Square lead', 'synths', 80, 36, 96),
  row('poly-synth', 'Poly synth', 'synths', 90, 36, 96),
  row('synth-strings', 'Synth strings', 'synths', 50, 36, 96),
  row('synth-brass', 'Synth brass', 'synths', 62, 36, 90),
  row('standard-kit', 'Standard kit', 'drums', 0, 35, 81),
  row('electronic-kit', 'Electronic kit', 'drums', 25, 35, 81),
  row('brush-kit', 'Brush kit', 'drums', 40, 35, 81),
];

const BY_ID: ReadonlyMap<string, Instrument> = new Map(INSTRUMENTS.map((instrument) => [instrument.id, instrument]));

/** An instrument by id; songs from other builds may name one we lack and then get the piano, or the kit for drums. */
export const instrumentOf = (id: string): Instrument => BY_ID.get(id) ?? (INSTRUMENTS[0] as Instrument);

/** The instruments that can play a role: kits for drums, everything pitched for the rest. */
export const instrumentsFor = (role: Role): readonly Instrument[] =>
  INSTRUMENTS.filter((instrument) => (instrument.family === 'drums') === isDrumRole(role));

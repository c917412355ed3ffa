import type { MidiNote } from '../theory/units';

/** What the keys of a drum kit strike, from MIDI note 35 on (General MIDI, level 1). */
const NAMES = [
  'second kick',
  'kick',
  'stick',
  'snare',
  'clap',
  'second snare',
  'lowest tom',
  'closed hat',
  'low tom',
  'pedal hat',
  'low middle tom',
  'open hat',
  'middle tom',
  'high middle tom',
  'crash',
  'high tom',
  'ride',
  'china cymbal',
  'ride bell',
  'tambourine',
  'splash',
  'cowbell',
  'second crash',
  'vibraslap',
  'second ride',
  'high bongo',
  'low bongo',
  'muted conga',
  'open conga',
  'low conga',
  'high timbale',
  'low timbale',
  'high agogo',
  'low agogo',
  'cabasa',
  'shaker',
  'short whistle',
  'long whistle',
  'short guiro',
  'long guiro',
  'clave',
  'high wood block',
  'low wood block',
  'muted cuica',
  'open cuica',
  'muted triangle',
  'triangle',
] as const;

const FIRST: MidiNote = 35;

/** Every key of a kit. */
export const KIT_KEYS: readonly MidiNote[] = NAMES.map((_, index) => FIRST + index);

/** A drum by its key; keys beyond the standard kit by their number. */
export const drumName = (key: MidiNote): string => NAMES[key - FIRST] ?? `key ${key}`;

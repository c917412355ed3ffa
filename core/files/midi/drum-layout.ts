import { KIT_KEYS } from '../../sounding/drum-names';
import type { NoteEvent, Performance } from '../../sounding/performance';
import type { MidiNote } from '../../theory/units';

/** Which key each drum is struck on elsewhere, by its key here; a drum that is not named stays on its own. */
export type DrumKeys = ReadonlyMap<MidiNote, MidiNote>;

/** The first of the pads that most devices have. */
export const FIRST_PAD: MidiNote = 36;

/** The order in which drums are put on pads: what is struck most first, then what belongs to it; others as they come. */
const FIRST_DRUMS: readonly MidiNote[] = [
  36, 35, 38, 40, 37, 39, 42, 44, 46, 41, 43, 45, 47, 48, 50, 49, 57, 55, 52, 51, 59, 53, 56, 54,
];
const PLACES = new Map([...new Set([...FIRST_DRUMS, ...KIT_KEYS])].map((key, place) => [key, place]));
const place = (key: MidiNote): number => PLACES.get(key) ?? PLACES.size + key;

/** Every drum that is struck, in the order of a kit. */
export function drumsStruck({ setup, events }: Pick<Performance, 'setup' | 'events'>): readonly MidiNote[] {
  const kits = new Set(setup.filter(({ drums }) => drums).map(({ id }) => id));
  const keys = new Set(
    events.flatMap((event) => (event.kind === 'note' && kits.has(event.voice) ? [event.pitch] : [])),
  );
  return [...keys].sort((a, b) => place(a) - place(b));
}

/** Drums on pads: one key after the other from {@link FIRST_PAD} up. */
export const onPads = (struck: readonly MidiNote[]): DrumKeys =>
  new Map(struck.map((key, index) => [key, Math.min(127, FIRST_PAD + index)]));

/**
 * A drum put on another key: the drum that had it takes the key that becomes free, so that no two ever share one.
 *
 * @param struck  all drums of the kit
 */
export function withDrumOn(keys: DrumKeys, struck: readonly MidiNote[], drum: MidiNote, key: MidiNote): DrumKeys {
  const on = (other: MidiNote): MidiNote => keys.get(other) ?? other;
  const had = struck.find((other) => other !== drum && on(other) === key);
  return new Map([...keys, [drum, key], ...(had === undefined ? [] : [[had, on(drum)] as const])]);
}

/** A performance with its drums on other keys. */
export function laidOut(whole: Performance, keys: DrumKeys): Performance {
  if (keys.size === 0) return whole;
  const kits = new Set(whole.setup.filter(({ drums }) => drums).map(({ id }) => id));
  const moved = (event: NoteEvent): NoteEvent => ({ ...event, pitch: keys.get(event.pitch) ?? event.pitch });
  return {
    ...whole,
    events: whole.events.map((event) => (event.kind === 'note' && kits.has(event.voice) ? moved(event) : event)),
  };
}

import { LIMITS, withEnding } from '../song/limits';
import type { LineId } from '../song/schema';
import { stacked } from '../song/voices';
import type { MidiNote } from '../theory/units';
import { drumName } from './drum-names';
import type { NoteEvent, Performance, PerformanceEvent } from './performance';
import type { Voice, VoiceId } from './setup';

/**
 * A performance in which the voices of some lines are lines of their own, each on the same instrument at the same level.
 * It is parted as it sounds, so that together they are what was heard.
 *
 * @param whole  a performance from its very beginning
 * @param parts  the lines that are taken apart; one that never sounds two notes together stays as it is
 */
export function voicesApart(whole: Performance, parts: ReadonlySet<LineId>): Performance {
  const notesOf = (id: VoiceId): NoteEvent[] =>
    whole.events.filter((event) => event.kind === 'note').filter(({ voice }) => voice === id);
  const split = new Map(
    whole.setup
      .filter(({ line }) => parts.has(line))
      .map(({ id }) => [id, stacked(notesOf(id), ({ at }) => at)] as const)
      .filter(([, lines]) => lines.length > 1),
  );
  const nameOf = (id: string, index: number): string => `${id}, voice ${index + 1}`;
  const setup = whole.setup.flatMap((voice): Voice[] =>
    (split.get(voice.id) ?? [null]).map((notes, index) =>
      notes
        ? {
            ...voice,
            id: nameOf(voice.id, index),
            line: nameOf(voice.line, index),
            name: withEnding(voice.name, `, voice ${index + 1}`, LIMITS.name),
          }
        : voice,
    ),
  );
  const apart = [...split].flatMap(([id, lines]) =>
    lines.flatMap((notes, index) => notes.map((note) => ({ ...note, voice: nameOf(id, index) }))),
  );
  // How the line is bent and moves in the mix holds of each of its voices.
  const others = whole.events.flatMap((event): PerformanceEvent[] => {
    const lines = split.get(event.voice);
    if (!lines) return [event];
    return event.kind === 'note' ? [] : lines.map((_, index) => ({ ...event, voice: nameOf(event.voice, index) }));
  });
  const events = [...others, ...apart];
  return { ...whole, setup, events: events.sort((a, b) => a.at - b.at) };
}

/**
 * A performance in which every drum that is struck is a line of its own, by its name, on the kit that it belongs to.
 *
 * @param whole  a performance from its very beginning
 */
export function drumsApart(whole: Performance): Performance {
  const idOf = (kit: VoiceId, key: MidiNote): VoiceId => `${kit}, key ${key}`;
  const keysOf = (id: VoiceId): MidiNote[] => [
    ...new Set(whole.events.flatMap((event) => (event.kind === 'note' && event.voice === id ? [event.pitch] : []))),
  ];
  const kits = new Set(whole.setup.filter(({ drums }) => drums).map(({ id }) => id));
  const setup = whole.setup.flatMap((voice): Voice[] => {
    if (!voice.drums) return [voice];
    return keysOf(voice.id)
      .sort((a, b) => a - b)
      .map((key) => ({
        ...voice,
        id: idOf(voice.id, key),
        line: idOf(voice.line, key),
        kit: voice.id,
        name: withEnding(voice.name, `, ${drumName(key)}`, LIMITS.name),
      }));
  });
  const first = new Map(setup.flatMap(({ id, kit }) => (kit === undefined ? [] : [[kit, id] as const])).reverse());
  const events = whole.events.flatMap((event): PerformanceEvent[] => {
    if (!kits.has(event.voice)) return [event];
    if (event.kind === 'note') return [{ ...event, voice: idOf(event.voice, event.pitch) }];
    // What moves the whole kit is said once.
    const voice = first.get(event.voice);
    return voice === undefined ? [] : [{ ...event, voice }];
  });
  return { ...whole, setup, events };
}

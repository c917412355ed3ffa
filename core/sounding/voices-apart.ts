import { LIMITS, withEnding } from '../song/limits';
import type { LineId } from '../song/schema';
import { stacked } from '../song/voices';
import type { NoteEvent, Performance } from './performance';
import type { Voice } from './setup';

/**
 * A performance in which the voices of some lines are lines of their own, each on the same instrument at the same level.
 * It is parted as it sounds, so that together they are what was heard.
 *
 * @param whole  a performance from its very beginning
 * @param parts  the lines that are taken apart; one that never sounds two notes together stays as it is
 */
export function voicesApart(whole: Performance, parts: ReadonlySet<LineId>): Performance {
  const notesOf = (line: LineId): NoteEvent[] =>
    whole.events.filter((event) => event.kind === 'note').filter(({ voice }) => voice === line);
  const split = new Map(
    [...parts]
      .map((line) => [line, stacked(notesOf(line), ({ at }) => at)] as const)
      .filter(([, lines]) => lines.length > 1),
  );
  const nameOf = (line: LineId, index: number): LineId => `${line}, voice ${index + 1}`;
  const setup = whole.setup.flatMap((voice): Voice[] =>
    (split.get(voice.id) ?? [null]).map((notes, index) =>
      notes
        ? { ...voice, id: nameOf(voice.id, index), name: withEnding(voice.name, `, voice ${index + 1}`, LIMITS.name) }
        : voice,
    ),
  );
  const apart = [...split].flatMap(([line, lines]) =>
    lines.flatMap((notes, index) => notes.map((note) => ({ ...note, voice: nameOf(line, index) }))),
  );
  const events = [...whole.events.filter(({ voice }) => !split.has(voice)), ...apart];
  return { ...whole, setup, events: events.sort((a, b) => a.at - b.at) };
}

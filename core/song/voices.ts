import type { MidiNote, Ticks } from '../theory/units';
import { LIMITS, withEnding } from './limits';
import { partTake, type Takes } from './resolve';
import type { Brief, Note, Part, PartTake, Role, Score, Take, PartId } from './schema';
import { voiceTake } from './take';
import { chosenId, withChoices, withoutPart } from './section';

/** Notes by what begins together, in the order in which they come. */
export function struckTogether<T>(notes: readonly T[], startOf: (note: T) => Ticks): T[][] {
  const strokes = new Map<Ticks, T[]>();
  for (const note of notes) strokes.set(startOf(note), [...(strokes.get(startOf(note)) ?? []), note]);
  return [...strokes.values()];
}

/** Notes that begin together as one line for each voice, the highest first; where fewer sound, the upper voices do. */
export function stacked<T extends { readonly pitch: MidiNote }>(
  notes: readonly T[],
  startOf: (note: T) => Ticks,
): T[][] {
  const voices: T[][] = [];
  for (const stack of struckTogether(notes, startOf))
    stack.sort((a, b) => b.pitch - a.pitch).forEach((note, voice) => (voices[voice] ??= []).push(note));
  return voices;
}

export const voicesOf = (notes: readonly Note[]): Note[][] => stacked(notes, ({ start }) => start);

/** The top voice is a melody of its own, the others answer it. */
const voiceRole = (voice: number): Role => (voice === 0 ? 'melody' : 'counter');

const reach = (brief: Brief, notes: readonly Note[]): Brief => ({
  ...brief,
  voices: 1,
  low: Math.min(brief.low, ...notes.map(({ pitch }) => pitch)),
  high: Math.max(brief.high, ...notes.map(({ pitch }) => pitch)),
});

/**
 * A song in which one part is replaced by a part for each of its voices, so that each can be edited, mixed and handed
 * over alone. Every section's chosen take is split; the others stay behind with the part.
 *
 * @param newId  makes ids, given what for
 * @returns the song and the takes that were made; unchanged where the part has no two voices
 */
export function splitVoices(
  score: Score,
  takes: Takes,
  partId: PartId,
  newId: (kind: string) => string,
): { readonly score: Score; readonly takes: readonly Take[]; readonly parts: readonly string[] } {
  const part = score.parts.find(({ id }) => id === partId);
  const split = score.sections.map((section) => {
    const take = partTake(takes, chosenId(section, partId));
    return { section, take, voices: take ? voicesOf(take.notes) : [] };
  });
  const count = Math.max(0, ...split.map(({ voices }) => voices.length));
  if (!part || count < 2) return { score, takes: [], parts: [] };
  const parts = Array.from({ length: count }, (_, voice): Part => ({
    ...part,
    id: newId('part'),
    name: withEnding(part.name, `, voice ${voice + 1}`, LIMITS.name),
    role: voiceRole(voice),
    colour: (part.colour + voice) % 10,
    brief: reach(
      part.brief,
      split.flatMap(({ voices }) => voices[voice] ?? []),
    ),
  }));
  const made: PartTake[] = [];
  const sections = split.map(({ section, take, voices }) => {
    const rest = withoutPart(section, partId);
    if (!take) return rest;
    const lines = parts.map((line, voice) =>
      voiceTake(newId('take'), take, line, voices[voice] ?? [], `voice ${voice + 1} of ${part.name}`),
    );
    made.push(...lines);
    return withChoices(
      rest,
      lines.map((line) => [line.part, line.id]),
    );
  });
  const at = score.parts.indexOf(part);
  return {
    score: { ...score, parts: [...score.parts.slice(0, at), ...parts, ...score.parts.slice(at + 1)], sections },
    takes: made,
    parts: parts.map(({ id }) => id),
  };
}

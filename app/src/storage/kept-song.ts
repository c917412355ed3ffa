import '@fendro/core/song/validation';
import * as z from 'zod';

const names = z.array(z.object({ name: z.string() }));
const keptSchema = z.object({ score: z.object({ parts: names, sections: names }) });

/** What parts and sections a song file names, of whatever version it is: enough to say what is in it. */
export function partsAndSections(song: unknown): {
  readonly parts: readonly string[];
  readonly sections: readonly string[];
} {
  const kept = keptSchema.safeParse(song);
  const named = (list: readonly { readonly name: string }[]): string[] => list.map(({ name }) => name);
  return kept.success
    ? { parts: named(kept.data.score.parts), sections: named(kept.data.score.sections) }
    : { parts: [], sections: [] };
}

/**
 * Frozen: from version 7 to version 8. It imports nothing of today's code, so that it goes on meaning what it meant.
 *
 * In version 8 a section may be one of several versions; every section of version 7 stands alone.
 */
type Raw = Record<string, unknown>;

export function from7to8(song: Raw): Raw {
  const score = song['score'] as Raw;
  const sections = (score['sections'] as Raw[]).map((section) => ({ version: null, ...section }));
  return { ...song, version: 8, score: { ...score, sections } };
}

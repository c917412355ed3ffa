/**
 * Frozen: from version 8 to version 9. It imports nothing of today's code, so that it goes on meaning what it meant.
 *
 * In version 9 a note may sound by chance, be struck again and carry curves; no note of version 8 does.
 */
type Raw = Record<string, unknown>;

export const from8to9 = (song: Raw): Raw => ({ ...song, version: 9 });

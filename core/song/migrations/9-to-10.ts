/**
 * Frozen: from version 9 to version 10. It imports nothing of today's code, so that it goes on meaning what it meant.
 *
 * In version 10 a part may have a tone, an octave and further instruments, its tone may move, and the whole mix has a
 * level; nothing of version 9 says any of that.
 */
type Raw = Record<string, unknown>;

export const from9to10 = (song: Raw): Raw => ({ ...song, version: 10 });

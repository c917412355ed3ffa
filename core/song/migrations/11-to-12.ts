/**
 * Frozen: from version 11 to version 12. It imports nothing of today's code, so that it goes on meaning what it meant.
 *
 * In version 12 a part may deal what it plays to several parts, a take may be kept from behind that, and briefs and
 * patterns may lean by themselves; nothing of version 11 says any of that.
 */
type Raw = Record<string, unknown>;

export const from11to12 = (song: Raw): Raw => ({ ...song, version: 12 });

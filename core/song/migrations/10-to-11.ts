/**
 * Frozen: from version 10 to version 11. It imports nothing of today's code, so that it goes on meaning what it meant.
 *
 * In version 11 a take may have a pattern by which it goes on by itself, a line of the logbook may say which pass was
 * heard, a part may have treatments, and a take may be kept from behind them; nothing of version 10 says any of that.
 */
type Raw = Record<string, unknown>;

export const from10to11 = (song: Raw): Raw => ({ ...song, version: 11 });

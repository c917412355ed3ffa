import type { Role } from './schema';

/** Roles that strike drums rather than pitches: they sound on channel 10 and never follow keys or chords. */
export const isDrumRole = (role: Role): boolean => role === 'drums' || role === 'percussion';

/** Roles that are one line of single notes, each with a role of its own against its chord. */
export const isLine = (role: Role): boolean =>
  role === 'melody' || role === 'solo' || role === 'counter' || role === 'ostinato';

/** Roles that play the chords, so that the chord line need not. */
export const ACCOMPANYING: readonly Role[] = ['comping', 'strum', 'picking', 'arpeggio', 'pad', 'ensemble'];

/** Which role each listens to when it is drafted: the bass to the kick, an answer to the melody. */
export const LISTENS_TO: Readonly<Partial<Record<Role, Role>>> = { bass: 'drums', counter: 'melody' };

const RANKS: Readonly<Partial<Record<Role, number>>> = { drums: 0, melody: 1, counter: 3 };

/** The order in which a band is drafted: who is listened to comes first. */
export const draftingRank = (role: Role): number => RANKS[role] ?? 2;

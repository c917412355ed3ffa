import type { Percent } from '../theory/units';
import type { BriefWord } from './brief-words';
import type { Brief, Role } from './schema';

/** All that a role is, in one place; its drafter has the same name in `compose/draft.ts`. */
interface RoleRow {
  readonly name: string;
  /** What it does with notes: one line of its own, the chords, the bass under them, or drums that know no pitch. */
  readonly plays: 'line' | 'chords' | 'bass' | 'drums';
  /** What it sounds on where a style says nothing. */
  readonly instrument: string;
  /** What it is asked for unless a style or the writer says otherwise. */
  readonly brief: Brief;
  /** The words of its brief's sentence, in order. */
  readonly words: readonly BriefWord[];
  /** Settings that stand among the exact controls only. */
  readonly further: readonly BriefWord[];
  /** Whether its onsets may be set to a grid of their own. */
  readonly hasGrid: boolean;
  /** Whom it listens to when it is drafted. */
  readonly listensTo: Role | null;
  /** The order in which a band is drafted, the least first: who is listened to comes before who listens. */
  readonly rank: number;
  /** Energy in % below which it rests by itself: what drives goes first, what carries the song never. */
  readonly restsBelow: Percent;
}

const brief = (low: number, high: number, busyness: number, more: Partial<Brief> = {}): Brief => ({
  low,
  high,
  busyness,
  syncopation: 25,
  stride: 35,
  anchoring: 20,
  recall: 60,
  breath: 50,
  loudness: 84,
  adventure: 20,
  length: 60,
  voices: 4,
  grid: null,
  rolls: 0,
  dynamics: 50,
  humanise: 0,
  follows: true,
  time: null,
  way: null,
  pickup: 0,
  ...more,
});

type Ready = 'hasGrid' | 'listensTo' | 'rank' | 'restsBelow';
const row = (own: Omit<RoleRow, Ready> & Partial<Pick<RoleRow, Ready>>): RoleRow => ({
  hasGrid: false,
  listensTo: null,
  rank: 2,
  restsBelow: 0,
  ...own,
});

const HANDS: readonly BriefWord[] = ['dynamics', 'humanise'];

const ROLE_TABLE: Readonly<Record<Role, RoleRow>> = {
  melody: row({
    name: 'Melody',
    plays: 'line',
    instrument: 'flute',
    brief: brief(60, 79, 4, { loudness: 92 }),
    words: ['busyness', 'stride', 'register', 'syncopation', 'breath', 'adventure'],
    further: ['anchoring', 'recall', 'length', 'pickup', 'loudness', ...HANDS],
    hasGrid: true,
    rank: 1,
  }),
  solo: row({
    name: 'Solo',
    plays: 'line',
    instrument: 'clean-guitar',
    brief: brief(60, 84, 7, { loudness: 98, syncopation: 40, stride: 50, recall: 35, adventure: 40, pickup: 40 }),
    words: ['busyness', 'stride', 'register', 'syncopation', 'breath', 'adventure'],
    further: ['anchoring', 'recall', 'length', 'pickup', 'loudness', ...HANDS],
    hasGrid: true,
  }),
  counter: row({
    name: 'Counter-melody',
    plays: 'line',
    instrument: 'clarinet',
    brief: brief(55, 72, 3, { loudness: 78, anchoring: 70 }),
    words: ['busyness', 'stride', 'register', 'breath', 'adventure'],
    further: ['anchoring', 'length', 'loudness', ...HANDS],
    hasGrid: true,
    listensTo: 'melody',
    rank: 3,
    restsBelow: 24,
  }),
  ostinato: row({
    name: 'Riff',
    plays: 'line',
    instrument: 'marimba',
    brief: brief(52, 72, 6, { loudness: 80, syncopation: 40, recall: 100, breath: 20, anchoring: 60 }),
    words: ['busyness', 'register', 'syncopation', 'stride', 'adventure'],
    further: ['length', 'loudness', ...HANDS],
    hasGrid: true,
    restsBelow: 20,
  }),
  comping: row({
    name: 'Keys',
    plays: 'chords',
    instrument: 'grand-piano',
    brief: brief(52, 76, 4, { loudness: 78 }),
    words: ['busyness', 'register', 'syncopation', 'voices', 'length', 'loudness', 'adventure'],
    further: HANDS,
  }),
  strum: row({
    name: 'Strummed guitar',
    plays: 'chords',
    instrument: 'steel-guitar',
    brief: brief(40, 78, 6, { loudness: 80, voices: 6 }),
    words: ['busyness', 'register', 'length', 'loudness'],
    further: HANDS,
  }),
  picking: row({
    name: 'Picked guitar',
    plays: 'chords',
    instrument: 'nylon-guitar',
    brief: brief(40, 76, 8, { loudness: 76, breath: 10 }),
    words: ['busyness', 'register', 'loudness'],
    further: HANDS,
  }),
  arpeggio: row({
    name: 'Arpeggio',
    plays: 'chords',
    instrument: 'electric-piano',
    brief: brief(48, 76, 8, { loudness: 74, breath: 10 }),
    words: ['busyness', 'register', 'breath', 'loudness', 'adventure'],
    further: HANDS,
  }),
  pad: row({
    name: 'Pad',
    plays: 'chords',
    instrument: 'warm-pad',
    brief: brief(55, 79, 1, { loudness: 70 }),
    words: ['register', 'busyness', 'loudness', 'adventure'],
    further: ['voices', ...HANDS],
  }),
  ensemble: row({
    name: 'Ensemble',
    plays: 'chords',
    instrument: 'string-ensemble',
    brief: brief(48, 79, 3, { loudness: 78, voices: 3 }),
    words: ['voices', 'busyness', 'register', 'breath', 'adventure'],
    further: ['stride', 'length', 'loudness', ...HANDS],
    hasGrid: true,
    restsBelow: 16,
  }),
  bass: row({
    name: 'Bass',
    plays: 'bass',
    instrument: 'fingered-bass',
    brief: brief(28, 50, 4, { loudness: 90 }),
    words: ['busyness', 'register', 'syncopation', 'adventure'],
    further: ['length', 'loudness', ...HANDS],
    listensTo: 'drums',
  }),
  drums: row({
    name: 'Drums',
    plays: 'drums',
    instrument: 'standard-kit',
    brief: brief(35, 81, 12, { loudness: 88 }),
    words: ['busyness', 'recall', 'rolls', 'loudness', 'adventure'],
    further: HANDS,
    rank: 0,
    restsBelow: 12,
  }),
  percussion: row({
    name: 'Percussion',
    plays: 'drums',
    instrument: 'standard-kit',
    brief: brief(35, 81, 8, { loudness: 74 }),
    words: ['busyness', 'recall', 'loudness', 'adventure'],
    further: HANDS,
    restsBelow: 28,
  }),
};

/** A role's own row: name, instrument, brief, words, and how it behaves in a band. */
export const roleOf = (role: Role): RoleRow => ROLE_TABLE[role];

/** Roles that strike drums rather than pitches: they sound on channel 10 and never follow keys or chords. */
export const isDrumRole = (role: Role): boolean => roleOf(role).plays === 'drums';

/** Roles that are one line of single notes, each with a role of its own against its chord. */
export const isLine = (role: Role): boolean => roleOf(role).plays === 'line';

/** Roles that play the chords, so that the chord line need not. */
export const isAccompaniment = (role: Role): boolean => roleOf(role).plays === 'chords';

/** Parts in the order in which a band is drafted: who is listened to comes first. */
export const inDraftingOrder = <T extends { readonly role: Role }>(parts: readonly T[]): T[] =>
  [...parts].sort((a, b) => roleOf(a.role).rank - roleOf(b.role).rank);

/** The part of a band that another listens to when it is drafted, where there is one. */
export const listenedTo = <T extends { readonly role: Role }>(part: T, band: readonly T[]): T | undefined =>
  band.find((other) => other !== part && other.role === roleOf(part.role).listensTo);

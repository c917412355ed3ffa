import { clamp, type Percent, type Semitones } from '../theory/units';
import { roleOf } from './roles';
import type { Brief, Role, SectionKind } from './schema';

/**
 * How each kind of section leans: what a listener tells a chorus from a verse by (Van Balen, Burgoyne, Wiering and
 * Veltkamp, An analysis of chorus features in popular song, 2013). A profile moves a brief and never leaves its limits.
 */
interface Profile {
  /** How far the middle of a line's register moves. */
  readonly register: Semitones;
  /** How much busier lines are, and what accompanies them, in %. */
  readonly lines: Percent;
  readonly band: Percent;
  /** How much more of what was heard returns. */
  readonly recall: Percent;
}

const PROFILES: Readonly<Record<SectionKind, Profile>> = {
  intro: { register: -1, lines: -15, band: -20, recall: 0 },
  verse: { register: -1.5, lines: -6, band: -16, recall: 0 },
  'pre-chorus': { register: 0, lines: 6, band: 0, recall: 0 },
  chorus: { register: 1.5, lines: 8, band: 18, recall: 10 },
  bridge: { register: 0.5, lines: -10, band: -8, recall: -20 },
  solo: { register: 0, lines: 0, band: 0, recall: 0 },
  outro: { register: -1, lines: -15, band: -20, recall: 0 },
};

/** A register keeps at least this many semitones. */
const ROOM: Semitones = 12;

const isLead = (role: Role): boolean => role === 'melody' || role === 'solo' || role === 'counter';

/** A brief as a section of some kind leans it. */
export function withProfile(brief: Brief, kind: SectionKind, role: Role): Brief {
  const { register, lines, band, recall } = PROFILES[kind];
  const room = Math.max(0, brief.high - brief.low - ROOM);
  // The middle moves by half of what one end gives up.
  const narrowed = isLead(role) ? Math.min(room, Math.round(2 * Math.abs(register))) : 0;
  const busier = 1 + (isLead(role) ? lines : band) / 100;
  return {
    ...brief,
    low: register > 0 ? brief.low + narrowed : brief.low,
    high: register < 0 ? brief.high - narrowed : brief.high,
    busyness: clamp(brief.busyness * busier, 0.5, 24),
    recall: roleOf(role).plays === 'line' ? clamp(brief.recall + recall, 0, 100) : brief.recall,
  };
}

/** What a profile does to a role, in words: “lower, sparser”; empty where it does nothing. */
export function tellProfile(kind: SectionKind, role: Role): string {
  const { register, lines, band, recall } = PROFILES[kind];
  const more = isLead(role) ? lines : band;
  return [
    isLead(role) && register !== 0 ? (register > 0 ? 'higher' : 'lower') : '',
    more === 0 ? '' : more > 0 ? 'busier' : 'sparser',
    roleOf(role).plays === 'line' && recall !== 0 ? (recall > 0 ? 'returns more' : 'returns less') : '',
  ]
    .filter(Boolean)
    .join(', ');
}

import type { Brief, ChordSetting, HarmonyBrief, Role, SectionKind } from './schema';

const brief = (low: number, high: number, busyness: number, more: Partial<Brief> = {}): Brief => ({
  low,
  high,
  busyness,
  syncopation: 25,
  stride: 35,
  anchoring: 60,
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

/** What each role is asked for unless a style or the writer says otherwise. */
export const DEFAULT_BRIEFS: Readonly<Record<Role, Brief>> = {
  melody: brief(60, 79, 4, { loudness: 92 }),
  solo: brief(60, 84, 7, { loudness: 98, syncopation: 40, stride: 50, recall: 35, adventure: 40, pickup: 40 }),
  counter: brief(55, 72, 3, { loudness: 78, anchoring: 70 }),
  ostinato: brief(52, 72, 6, { loudness: 80, syncopation: 40, recall: 100, breath: 20 }),
  comping: brief(52, 76, 4, { loudness: 78 }),
  strum: brief(40, 78, 6, { loudness: 80, voices: 6 }),
  picking: brief(40, 76, 8, { loudness: 76, breath: 10 }),
  arpeggio: brief(48, 76, 8, { loudness: 74, breath: 10 }),
  pad: brief(55, 79, 1, { loudness: 70 }),
  ensemble: brief(48, 79, 3, { loudness: 78, voices: 3 }),
  bass: brief(28, 50, 4, { loudness: 90 }),
  drums: brief(35, 81, 12, { loudness: 88 }),
  percussion: brief(35, 81, 8, { loudness: 74 }),
};

/** How each kind of section likes to end. */
const CADENCE_OF: Readonly<Record<SectionKind, HarmonyBrief['cadence']>> = {
  intro: 'open',
  verse: 'open',
  'pre-chorus': 'half',
  chorus: 'authentic',
  bridge: 'half',
  solo: 'open',
  outro: 'authentic',
};

export const harmonyBriefFor = (
  kind: SectionKind,
  style: Pick<HarmonyBrief, 'pace' | 'colouring' | 'adventure'>,
): HarmonyBrief => ({
  pace: style.pace,
  colouring: style.colouring,
  adventure: style.adventure,
  cadence: CADENCE_OF[kind],
  first: null,
  last: null,
  under: null,
});

/** Bars that each kind of section starts with. */
export const USUAL_BARS: Readonly<Record<SectionKind, number>> = {
  intro: 4,
  verse: 8,
  'pre-chorus': 4,
  chorus: 8,
  bridge: 8,
  solo: 8,
  outro: 4,
};

/** How a section's chords sound by themselves until the writer sets something else. */
export const PLAIN_CHORDS: ChordSetting = {
  family: 'keyboard',
  spread: 'free',
  bass: 'as it comes',
  smooth: true,
  rhythm: null,
  loudness: 72,
  roll: 0,
};

/**
 * A brief taken over from another part or from the shelf: the whole of it for the same role, clamped to what the
 * instrument reaches; otherwise everything but register, voices, drum time and the way of a bass, which belong to a
 * role.
 *
 * @param own     the part's brief as it is
 * @param limits  lowest and highest note of the part's instrument
 */
export function takenBrief(
  from: { readonly role: Role; readonly brief: Brief },
  role: Role,
  own: Brief,
  limits: { readonly low: number; readonly high: number },
): Brief {
  if (from.role !== role)
    return { ...from.brief, low: own.low, high: own.high, voices: own.voices, time: own.time, way: own.way };
  const low = Math.min(Math.max(from.brief.low, limits.low), limits.high);
  return { ...from.brief, low, high: Math.max(low, Math.min(from.brief.high, limits.high)) };
}

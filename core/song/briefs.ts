import type { Percent } from '../theory/units';
import type { Brief, ChordSetting, HarmonyBrief, Role, SectionKind } from './schema';

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

/** Loops and forms turn round where other choruses close. */
const goesRound = ({ loops = 0, forms }: { readonly loops?: Percent; readonly forms?: unknown }): boolean =>
  loops >= 50 || forms !== undefined;

export const harmonyBriefFor = (
  kind: SectionKind,
  style: Pick<HarmonyBrief, 'pace' | 'colouring' | 'adventure'> & {
    readonly loops?: Percent;
    readonly forms?: unknown;
  },
): HarmonyBrief => ({
  pace: style.pace,
  colouring: style.colouring,
  adventure: style.adventure,
  cadence: kind === 'chorus' && goesRound(style) ? 'open' : CADENCE_OF[kind],
  form: null,
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

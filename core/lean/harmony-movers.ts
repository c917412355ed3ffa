import { COLOURINGS, PACES, type HarmonyBrief } from '../song/schema';
import { clamp } from '../theory/units';
import { shareBy, type Movers } from './moving';

/** So many notches on among some choices, as far as they go. */
const onward = <T>(choices: readonly T[], now: T, notches: number): T =>
  choices[clamp(choices.indexOf(now) + Math.round(notches), 0, choices.length - 1)] ?? now;

/** How the settings of what chords are asked for lean. */
export const HARMONY_MOVERS: Movers<HarmonyBrief> = {
  adventure: (brief, notches) => ({ ...brief, adventure: shareBy(brief.adventure, notches) }),
  pace: (brief, notches) => ({ ...brief, pace: onward(PACES, brief.pace, notches) }),
  colouring: (brief, notches) => ({ ...brief, colouring: onward(COLOURINGS, brief.colouring, notches) }),
};

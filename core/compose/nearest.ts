import type { Brief } from '../song/schema';
import { range } from '../theory/units';
import type { Unmet } from './context';
import { draft, type DraftRequest } from './draft';

/** The least change of a brief that lets it be met. */
export type NearestBrief = Partial<Pick<Brief, 'low' | 'high' | 'anchoring' | 'voices'>>;

/** How far a register is widened before it is given up, in semitones. */
const WIDEST = 48;
/** Up to an octave every semitone is tried, beyond it every third. */
const FINE = 12;
const COARSE = 3;
/** The lowest and highest MIDI notes that a register is widened to: those of a grand piano. */
const KEYBOARD = { low: 21, high: 108 } as const;
const MOST_VOICES = 6;
/** Draws that must fit before a brief counts as one that can be met. */
const PROOFS = 2;

/** Registers wider by more and more semitones, added above, below or at both ends; the nearest first. */
function* widened({ low, high }: Brief): Generator<NearestBrief> {
  for (const more of range(WIDEST + 1)) {
    if (more === 0 || (more > FINE && more % COARSE !== 0)) continue;
    for (let below = 0; below <= more; below += more > FINE ? COARSE : 1) {
      const change = { low: low - below, high: high + more - below };
      if (change.low >= KEYBOARD.low && change.high <= KEYBOARD.high) yield change;
    }
  }
}

/** Changes that may let a brief be met, the least first. */
function* candidates(brief: Brief, { setting }: Unmet): Generator<NearestBrief> {
  if (setting === 'voices') for (const fewer of range(brief.voices - 1)) yield { voices: brief.voices - 1 - fewer };
  if (setting === 'anchoring')
    for (const anchoring of [90, 75, 60, 40]) if (anchoring < brief.anchoring) yield { anchoring };
  if (setting === undefined) return;
  yield* widened(brief);
  // Full chords on a guitar may want more strings as well.
  if (brief.voices < MOST_VOICES) for (const change of widened(brief)) yield { ...change, voices: MOST_VOICES };
}

/**
 * The nearest brief that can be met, where one cannot: the setting to blame is moved as little as possible, and the
 * register is widened where that alone does not help.
 *
 * @returns the change, or null where no change of the brief helps
 */
export function nearestBrief(request: DraftRequest, unmet: Unmet): NearestBrief | null {
  const { brief } = request.asking;
  if (!brief) return null;
  for (const change of candidates(brief, unmet)) {
    const changed = { ...request, asking: { ...request.asking, brief: { ...brief, ...change } } };
    if (range(PROOFS).every((attempt) => draft(changed, attempt).ok)) return change;
  }
  return null;
}

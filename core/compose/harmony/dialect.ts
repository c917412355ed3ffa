import { sameChord } from '../../theory/chord';
import { isMinorish, type Key } from '../../theory/key';
import { pitchClassOf } from '../../theory/pitch';
import { scaleOf } from '../../theory/scale';
import { modulo } from '../../theory/units';
import { FORBIDDEN, linkLayers, type Links } from '../../trellis/trellis';
import { logWeight } from '../../trellis/weights';
import type { HarmonyContext } from '../context';
import type { Candidate } from './vocabulary';

/** What it costs to stay on a chord from bar to bar, and where a bar is split for the sake of two. */
export const AGAIN = { bar: -450, split: -1500 } as const;

/** Weights of moving from chord to chord: the style's dialect by degree, as it stands. */
export function linkCandidates(candidates: readonly Candidate[], { style, key }: HarmonyContext, again: number): Links {
  const { moves, modal } = dialectOf(style, key);
  const weights = candidates.map((from) => candidates.map((to) => moveWeight(from, to, moves, modal, again)));
  return linkLayers(candidates.length, candidates.length, (from, to) => weights[from]?.[to] ?? FORBIDDEN);
}

/** The moves of a style in a key, and whether its flat seventh does the dominant's work. */
export function dialectOf(
  style: HarmonyContext['style'],
  key: Key,
): { readonly moves: Moves; readonly modal: boolean } {
  const scale = scaleOf(key.scale);
  const minor = isMinorish(scale);
  return { moves: minor ? style.harmony.minor : style.harmony.major, modal: !minor && scale.degrees.includes('b7') };
}

export type Moves = HarmonyContext['style']['harmony']['major'];

/** The weight of moving from chord to chord in a dialect, in hundredths of a nat. */
export function moveWeight(
  from: Candidate,
  to: Candidate,
  moves: Moves,
  modal: boolean,
  again: number = AGAIN.bar,
): number {
  if (from.leadsTo !== null) return from.leadsTo === pitchClassOf(to.chord.root) && to.leadsTo === null ? 0 : FORBIDDEN;
  if (sameChord(from.chord, to.chord)) return again;
  const share = dialectShare(from.degree, to.degree, moves, modal);
  // A degree that is borrowed flat or sharp may turn the dialect's fourth into a tritone.
  const stumbles =
    (from.kind === 'borrowed' || to.kind === 'borrowed') &&
    modulo(pitchClassOf(to.chord.root) - pitchClassOf(from.chord.root), 12) === TRITONE;
  return logWeight(share) - (stumbles ? STUMBLE : 0);
}

const TRITONE = 6;
/** What a borrowed chord costs that lies a tritone from its neighbour. */
const STUMBLE = 300;

/** The share of moves that a dialect does not have. */
const UNHEARD = 0.015;

/**
 * Share of a move in the dialect; in mixolydian and its like the flat seventh takes over most of the dominant's work.
 */
function dialectShare(from: number, to: number, moves: Moves, modal: boolean): number {
  const row = moves[modal && from === 7 ? 5 : from] ?? {};
  const total = Object.values(row).reduce((sum, weight) => sum + weight, 0);
  const at = (degree: number): number => row[degree] ?? 0;
  const weight = modal && to === 7 ? at(7) + at(5) * 0.6 : modal && to === 5 ? at(5) * 0.4 : at(to);
  return total === 0 ? UNHEARD : Math.max(weight / total, UNHEARD);
}

import { TEMPO_LIMITS } from '@fendro/core/song/schema';
import { SCALES } from '@fendro/core/theory/scale';
import { readNumber } from './read-number';

/** Scales by family, as menus list them. */
export const SCALE_GROUPS = [...new Set(SCALES.map(({ family }) => family))].map((family) => ({
  family,
  scales: SCALES.filter((scale) => scale.family === family),
}));

export type ReadTempo =
  { readonly tempo: number; readonly problem: null } | { readonly tempo: null; readonly problem: string };

/** Reads a typed tempo in beats a minute, to hundredths, or says what is wrong with it. */
export function readTempo(text: string): ReadTempo {
  const tempo = readNumber(text);
  if (tempo === null) return { tempo: null, problem: 'Type the tempo as a number, such as 96.' };
  if (tempo < TEMPO_LIMITS.low || tempo > TEMPO_LIMITS.high)
    return {
      tempo: null,
      problem: `The tempo can be ${TEMPO_LIMITS.low} to ${TEMPO_LIMITS.high} beats a minute; it stays as it was.`,
    };
  return { tempo: Math.round(tempo * 100) / 100, problem: null };
}

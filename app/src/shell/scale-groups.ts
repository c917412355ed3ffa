import { TEMPO_LIMITS } from '@fendro/core/song/schema';
import { SCALES } from '@fendro/core/theory/scale';

/** Scales by family, as menus list them. */
export const SCALE_GROUPS = [...new Set(SCALES.map(({ family }) => family))].map((family) => ({ family, scales: SCALES.filter((scale) => scale.family === family) }));

/** What is wrong with a typed tempo, or null. */
export function tempoProblem(text: string): string | null {
  const tempo = Number(text.replace(',', '.'));
  if (text.trim() === '' || !Number.isFinite(tempo)) return 'Type the tempo as a number, such as 96.';
  if (tempo < TEMPO_LIMITS.low || tempo > TEMPO_LIMITS.high) return `The tempo can be ${TEMPO_LIMITS.low} to ${TEMPO_LIMITS.high} beats a minute; it stays as it was.`;
  return null;
}

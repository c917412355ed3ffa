import { TEMPO_LIMITS } from '@fendro/core/song/schema';
import { tonicsFor } from '@fendro/core/theory/key';
import { METRES, metreName } from '@fendro/core/theory/metre';
import { pitchClassOf, printedName } from '@fendro/core/theory/pitch';
import { SCALES } from '@fendro/core/theory/scale';
import { choicesOf, type Choice } from './fields/choice-field';
import type { NumberBounds } from './read-number';

/** Scales by family, as lists show them. */
export const SCALE_CHOICES: readonly Choice<string>[] = SCALES.map(({ id, name, family }) => ({
  value: id,
  text: name,
  group: family,
}));

export const METRE_CHOICES: readonly Choice<string>[] = choicesOf(METRES.map(metreName));

/** Twelve tonics as they are spelled in a scale, by pitch class. */
export const tonicChoices = (scale: string): readonly Choice<number>[] =>
  tonicsFor(scale).map((tonic) => ({ value: pitchClassOf(tonic), text: printedName(tonic) }));

/** Beats a minute, to hundredths. */
export const TEMPO_BOUNDS: NumberBounds = { least: TEMPO_LIMITS.low, most: TEMPO_LIMITS.high, digits: 2 };
export const TEMPO_TOLD = `The tempo can be ${TEMPO_LIMITS.low} to ${TEMPO_LIMITS.high} beats a minute; it stays as it was.`;

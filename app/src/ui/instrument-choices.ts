import type { Instrument } from '@fendro/core/sounding/instruments';
import type { Choice } from './fields/choice-field';

/** Instruments as choices, by family. */
export const instrumentChoices = (instruments: readonly Instrument[]): readonly Choice<string>[] =>
  instruments.map(({ id, name, family }) => ({ value: id, text: name, group: family.replace('-', ' ') }));

import { SECTION_KINDS, type SectionKind } from '../../song/schema';

/** A section's kind by its heading or marker, where that names one. */
export function kindOf(name: string): SectionKind {
  const plain = name.toLowerCase();
  const refrain = /\b(?:refrain|hook)\b/.test(plain);
  const named = SECTION_KINDS.toSorted((a, b) => b.length - a.length).find((kind) => plain.includes(kind));
  return named ?? (refrain ? 'chorus' : 'verse');
}

export interface NumberBounds {
  readonly least: number;
  readonly most: number;
  /** Digits behind the point that are kept; none where only whole numbers are meant. */
  readonly digits?: number;
}

/**
 * Reads a number as people write it: digits, with a point or a comma before the decimals. “1e1”, “0x10” and the like are
 * no numbers here.
 *
 * @returns null where the text is no number, lies out of bounds or is no whole number where one is meant
 */
export function readNumber(text: string, { least, most, digits = 0 }: NumberBounds): number | null {
  const plain = text.trim();
  if (!/^-?\d{1,9}(?:[.,]\d{1,9})?$/.test(plain)) return null;
  const typed = Number(plain.replace(',', '.'));
  if (typed < least || typed > most || (digits === 0 && !Number.isInteger(typed))) return null;
  return Math.round(typed * 10 ** digits) / 10 ** digits;
}

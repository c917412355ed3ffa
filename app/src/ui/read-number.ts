/**
 * Reads a number as people write it: digits, with a point or a comma before the decimals. “1e1”, “0x10” and the like
 * are
 * no numbers here.
 *
 * @returns null where the text is no number
 */
export function readNumber(text: string): number | null {
  const plain = text.trim();
  return /^-?\d{1,9}(?:[.,]\d{1,9})?$/.test(plain) ? Number(plain.replace(',', '.')) : null;
}

/** Reads a whole number within limits, both included; null where it is none. */
export function readWhole(text: string, low: number, high: number): number | null {
  const number = readNumber(text);
  return number !== null && Number.isInteger(number) && number >= low && number <= high ? number : null;
}

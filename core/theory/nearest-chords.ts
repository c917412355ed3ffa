/** Qualities that songwriters use most, most used first: what a mistyped chord was probably meant to be. */
const QUALITIES = [
  '',
  'm',
  '7',
  'm7',
  'maj7',
  'sus4',
  'sus2',
  'add9',
  '6',
  '9',
  'dim',
  'm7b5',
  'dim7',
  'aug',
  '7sus4',
  'maj9',
  'm9',
  'm6',
  '11',
  '13',
  'm11',
  '7b9',
  '7#9',
  '7#11',
  '7b5',
  '7#5',
  'maj7#11',
  '6/9',
  'mmaj7',
  '5',
  'madd9',
  '9sus4',
  '7alt',
  'maj13',
  'm13',
] as const;

/** How many are offered. */
const OFFERED = 3;

/**
 * Edits (insert, delete, replace, swap neighbours) between two short texts (Damerau–Levenshtein, restricted form).
 */
function editDistance(a: string, b: string): number {
  const rows: number[][] = [Array.from({ length: b.length + 1 }, (_, index) => index)];
  for (let i = 1; i <= a.length; i++) {
    const row = [i];
    for (let j = 1; j <= b.length; j++) {
      const same = a[i - 1] === b[j - 1];
      let cost = Math.min(
        (rows[i - 1]?.[j] ?? 0) + 1,
        (row[j - 1] ?? 0) + 1,
        (rows[i - 1]?.[j - 1] ?? 0) + (same ? 0 : 1),
      );
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1])
        cost = Math.min(cost, (rows[i - 2]?.[j - 2] ?? 0) + 1);
      row.push(cost);
    }
    rows.push(row);
  }
  return rows[a.length]?.[b.length] ?? Math.max(a.length, b.length);
}

/** A root for text that has none: the German H is B, otherwise the first note letter in it. */
function rootOf(text: string): { readonly root: string; readonly rest: string } | null {
  const german = /^[Hh](.*)$/u.exec(text);
  if (german) return { root: 'B', rest: german[1] ?? '' };
  const found = /([A-Ga-g])([#b♯♭]?)(.*)$/u.exec(text);
  return found ? { root: (found[1] ?? '').toUpperCase() + (found[2] ?? ''), rest: found[3] ?? '' } : null;
}

/**
 * The chords that a text which cannot be read most likely means.
 *
 * @returns up to three symbols that can be read; none when the text names no note at all
 */
export function nearestChords(text: string): string[] {
  const found = rootOf(text.trim());
  if (!found) return [];
  const slash = /^(.*?)(\/[A-Ga-g][#b♯♭]?)$/u.exec(found.rest);
  const rest = slash ? (slash[1] ?? '') : found.rest;
  return QUALITIES.map((quality, rank) => ({ quality, cost: editDistance(rest, quality) + rank / 100 }))
    .sort((a, b) => a.cost - b.cost)
    .slice(0, OFFERED)
    .map(({ quality }) => `${found.root}${quality}${slash?.[2] ?? ''}`);
}

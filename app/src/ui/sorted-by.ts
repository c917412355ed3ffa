import type { Sort } from '@angular/material/sort';

type Value = string | number;

/**
 * The rows of a table in the order that its head asks for; as they came where it asks for none.
 *
 * @param by  what a column is sorted by, where it is not the row's own property of that name
 */
export function sortedBy<T extends object>(
  rows: readonly T[],
  { active, direction }: Sort,
  by: Readonly<Record<string, (row: T) => Value>> = {},
): readonly T[] {
  if (direction === '') return rows;
  const value = by[active] ?? ((row: T) => (row as Readonly<Record<string, Value>>)[active] ?? '');
  const sign = direction === 'asc' ? 1 : -1;
  return rows.toSorted((a, b) => {
    const [first, second] = [value(a), value(b)];
    return typeof first === 'number' && typeof second === 'number'
      ? sign * (first - second)
      : sign * String(first).localeCompare(String(second), 'en', { numeric: true });
  });
}

/** Lists with the same things in the same order: for signals that hand on a list only when it has changed. */
export const sameItems = (a: readonly unknown[], b: readonly unknown[]): boolean =>
  a.length === b.length && a.every((item, index) => item === b[index]);

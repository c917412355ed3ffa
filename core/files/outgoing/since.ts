import type { Fingerprint } from './fingerprint';

/** The files that were handed over last, by name. */
export type HandedOver = Readonly<Record<string, Fingerprint>>;

interface Printed {
  readonly name: string;
  readonly print: Fingerprint;
}

/** What has become of a file since it was handed over last. */
export type Since = 'new' | 'changed' | 'same';

export const sinceThen = (before: HandedOver, { name, print }: Printed): Since => {
  const known = Object.hasOwn(before, name) ? before[name] : undefined;
  return known === undefined ? 'new' : known === print ? 'same' : 'changed';
};

/** Files that were handed over and are none of the song's any more, by name. */
export const goneSince = (before: HandedOver, files: readonly Printed[]): readonly string[] =>
  Object.keys(before).filter((name) => files.every((file) => file.name !== name));

/**
 * What is known as handed over after some files went out.
 *
 * @param all  every file that the song has now: others are forgotten
 */
export function handedNow(before: HandedOver, out: readonly Printed[], all: readonly Printed[]): HandedOver {
  const names = new Set(all.map(({ name }) => name));
  return Object.fromEntries([
    ...Object.entries(before).filter(([name]) => names.has(name)),
    ...out.map(({ name, print }) => [name, print] as const),
  ]);
}

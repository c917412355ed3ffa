/** A fresh id, short enough to read in a file. */
export const newId = (kind: string): string => `${kind}-${crypto.randomUUID().slice(0, 13)}`;

/** A seed for a new song; from here on everything is computed from it. */
export const newSeed = (): number => crypto.getRandomValues(new Int32Array(1))[0] ?? 1;

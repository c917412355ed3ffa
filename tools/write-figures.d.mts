/** Puts one section into docs/figures.md and leaves the others as they are. */
export function writeFigures(title: string, body: string): void;

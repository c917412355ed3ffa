// Puts one section into docs/figures.md and leaves the others as they are.
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { resolve } from 'node:path';

const FILE = resolve(import.meta.dirname, '../docs/figures.md');
const HEAD =
  '# Figures\n\nMade by `npm run bench` (speed and size), `npm run study` (music), `npm run listen` ' +
  '(listening) and `npm run recordings` (recordings that come in). Machines are noisy, so compare ratios.\n';

export function writeFigures(title, body) {
  const now = existsSync(FILE) ? readFileSync(FILE, 'utf8') : HEAD;
  const sections = new Map(
    now
      .split(/^## /m)
      .slice(1)
      .map((text) => [text.slice(0, text.indexOf('\n')), text.slice(text.indexOf('\n') + 1).trim()]),
  );
  sections.set(title, body.trim());
  writeFileSync(
    FILE,
    `${HEAD}${[...sections]
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([name, text]) => `\n## ${name}\n\n${text}\n`)
      .join('')}`,
  );
}

// npm run notices: THIRD-PARTY-NOTICES.md from what ships: packages, fonts, icons and sounds, with their licences.
// With --check it only says whether the file is up to date.
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './ready.mjs';

const FILE = join(root, 'THIRD-PARTY-NOTICES.md');
/** Copied into the application by tools/make-icons.mjs, which alone installs the package. */
const ICONS = {
  name: '@material-symbols/svg-400',
  version: '0.48.2',
  licence: 'Apache-2.0',
  text: readFileSync(join(root, 'app/src/ui/icons.LICENCE.txt'), 'utf8').trim(),
};

/** Installed with what runs, so that a fresh machine can build it, but not shipped. */
const BUILDS = ['@angular/build', '@angular/cli', '@angular/compiler-cli', 'esbuild', 'typescript'];

const { packages } = JSON.parse(readFileSync(join(root, 'package-lock.json'), 'utf8'));

/** Where a package finds another: in its own folder, or in one above. */
function found(from, name) {
  for (let folder = from; ; folder = folder.slice(0, Math.max(0, folder.lastIndexOf('/node_modules/')))) {
    const path = `${folder === '' ? '' : `${folder}/`}node_modules/${name}`;
    if (packages[path] || folder === '') return path;
  }
}

/** What ships: the packages that the application and its server name, and what those need. */
const shipped = new Set();
function ship(from, names) {
  for (const name of names) {
    const path = found(from, name);
    if (shipped.has(path)) continue;
    shipped.add(path);
    ship(path, Object.keys(packages[path]?.dependencies ?? {}));
  }
}
ship(
  '',
  Object.keys(packages[''].dependencies).filter((name) => !BUILDS.includes(name)),
);

const licenceIn = (folder) => {
  const name = readdirSync(folder).find((file) => /^(licen[cs]e|copying)(\.|$)/i.test(file));
  return name ? readFileSync(join(folder, name), 'utf8').trim() : '';
};

const entries = [...shipped]
  .filter((path) => existsSync(join(root, path)))
  .map((path) => {
    const folder = join(root, path);
    const { name, version, license } = JSON.parse(readFileSync(join(folder, 'package.json'), 'utf8'));
    return { name, version, licence: typeof license === 'string' ? license : 'see below', text: licenceIn(folder) };
  })
  .concat(ICONS)
  .sort((a, b) => a.name.localeCompare(b.name, 'en') || a.version.localeCompare(b.version, 'en'));
// One package may lie in several places.
const rows = [...new Map(entries.map((row) => [`${row.name} ${row.version}`, row])).values()];

const byText = new Map();
for (const row of rows) if (row.text !== '') byText.set(row.text, [...(byText.get(row.text) ?? []), row]);

const sounds = readFileSync(join(root, 'app/public/sounds/LICENCE.txt'), 'utf8').trim();
const model = readFileSync(join(root, 'app/public/listening/LICENCE.txt'), 'utf8').trim();
const nameOf = ({ name, version }) => `${name} ${version}`;
const quoted = (text) => ['```text', text.replaceAll('```', "'''"), '```'].join('\n');
const made = `${[
  '# Third-party notices',
  'Made by `npm run notices` from what ships with Fendro. Do not edit.',
  '## Sounds',
  'Trimmed and encoded by `tools/make-sounds.mjs` from the Fluid R3 sound font.',
  quoted(sounds),
  '## Listening',
  'The model that recordings are transcribed by (`app/public/listening`) is that of basic-pitch 1.0.1, unchanged, ' +
    'under the Apache License 2.0.',
  quoted(model),
  '## Packages, fonts and icons',
  ['| package | licence |', '| --- | --- |', ...rows.map((row) => `| ${nameOf(row)} | ${row.licence} |`)].join('\n'),
  ...[...byText].flatMap(([text, own]) => [`### ${own.map(nameOf).join(', ')}`, quoted(text)]),
].join('\n\n')}\n`;

if (!process.argv.includes('--check')) writeFileSync(FILE, made);
else if (!existsSync(FILE) || readFileSync(FILE, 'utf8') !== made) {
  console.error('THIRD-PARTY-NOTICES.md is not what ships now. Run: npm run notices');
  process.exit(1);
}

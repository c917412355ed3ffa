// Makes a fresh machine ready: installs what is missing, builds what is stale. Needs nothing but Node itself.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { brotliCompressSync, constants } from 'node:zlib';
import { BROWSER } from './browser.mjs';

export const root = resolve(import.meta.dirname, '..');
const at = (...parts) => join(root, ...parts);

/** Runs a command in the project's folder and stops everything when it fails. */
export function run(command, args, options = {}) {
  const { status, error } = spawnSync(command, args, { stdio: 'inherit', cwd: root, ...options });
  if (error || status !== 0) {
    console.error(
      `\n“${command} ${args.join(' ')}” ${error ? `could not be started: ${error.message}` : `failed (${status})`}.`,
    );
    process.exit(status || 1);
  }
}

/** Does some work, and says what is done and how long it took. */
function step(title, work) {
  const began = Date.now();
  console.log(`${title} …`);
  work();
  console.log(`${title}: done in ${Math.round((Date.now() - began) / 1000)} s`);
}

export const tool = (name) => at('node_modules', '.bin', name);

const hashOf = (files) => {
  const hash = createHash('sha256');
  for (const file of files) hash.update(file.slice(root.length)).update(readFileSync(file));
  return hash.digest('hex');
};

/** What the build puts among the sources. */
const MADE = ['/public/worklets/', '/public/studio/studio.js'];

function filesUnder(folder) {
  return readdirSync(folder, { withFileTypes: true, recursive: true })
    .filter((entry) => entry.isFile())
    .map((entry) => join(entry.parentPath ?? entry.path, entry.name))
    .filter((file) => !file.endsWith('.spec.ts') && !MADE.some((made) => file.includes(made)))
    .sort();
}

const stamped = (stamp, hash) => existsSync(stamp) && readFileSync(stamp, 'utf8') === hash;

/**
 * The packages of the lock file, installed once for each state of it.
 *
 * @param {{ tests?: boolean }} [wanted]  without tests only what building and serving needs, which is two thirds of it
 */
export function ensureModules({ tests = true } = {}) {
  const stamp = at('node_modules', '.fendro-lock');
  const hash = hashOf([at('package.json'), at('package-lock.json')]);
  const [all, running] = [`${hash} all`, `${hash} running`];
  if (stamped(stamp, all) || (!tests && stamped(stamp, running))) return;
  const options = ['--no-audit', '--no-fund', '--prefer-offline', '--loglevel=error', ...(tests ? [] : ['--omit=dev'])];
  step(`Installing packages (${tests ? 'about a minute' : 'half a minute'})`, () => {
    run('npm', ['ci', ...options], { shell: process.platform === 'win32' });
  });
  writeFileSync(stamp, tests ? all : running);
}

/** Puts a compressed file beside each that gains by it, so that the server need not do so for each request. */
function compressAll(folder) {
  for (const file of filesUnder(folder)) {
    if (!/\.(js|css|svg|json|wasm|webmanifest|txt)$/.test(file)) continue;
    const plain = readFileSync(file);
    if (plain.length < 1024) continue;
    const params = { [constants.BROTLI_PARAM_QUALITY]: 9, [constants.BROTLI_PARAM_SIZE_HINT]: plain.length };
    writeFileSync(`${file}.br`, brotliCompressSync(plain, { params }));
  }
}

/**
 * Builds the application when anything it is made of has changed. No types are checked: lint and `tools/templates.mjs`
 * do that.
 */
export function ensureBuild() {
  const stamp = at('dist', 'built');
  const sources = [
    ...filesUnder(at('app')),
    ...filesUnder(at('core')),
    at('package-lock.json'),
    at('angular.json'),
    at('tsconfig.base.json'),
  ];
  const hash = hashOf(sources);
  if (stamped(stamp, hash) && existsSync(at('dist/app/index.html'))) return;
  step('Building Fendro (under a minute)', () => {
    run(process.execPath, [at('tools/build-worklet.mjs')]);
    // A hundred small files would take longer to load than a few larger ones.
    const env = { ...process.env, NG_BUILD_OPTIMIZE_CHUNKS: '1', NG_BUILD_TYPE_CHECK: '0' };
    run(tool('ng'), ['build', '--progress=false'], { env, stdio: ['ignore', 'ignore', 'inherit'] });
    compressAll(at('dist/app'));
  });
  writeFileSync(stamp, hash);
}

/** What the end-to-end tests need from Debian: the browser, and other people's readers of MIDI and XML. */
const DEBIAN = [
  { package: 'chromium-headless-shell', there: () => existsSync(BROWSER.executablePath) },
  { package: 'midicsv', there: () => existsSync('/usr/bin/midicsv') },
  { package: 'fluidsynth', there: () => existsSync('/usr/bin/fluidsynth') },
  { package: 'fluid-soundfont-gm', there: () => existsSync('/usr/share/sounds/sf2/FluidR3_GM.sf2') },
  { package: 'libxml2-utils', there: () => existsSync('/usr/bin/xmllint') },
  { package: 'sox', there: () => existsSync('/usr/bin/sox') },
  { package: 'python3-mido', there: () => spawnSync('/usr/bin/python3', ['-c', 'import mido']).status === 0 },
];

export function ensureDebian() {
  const missing = DEBIAN.filter(({ there }) => !there()).map((entry) => entry.package);
  if (missing.length === 0) return;
  const asRoot = process.getuid?.() === 0 ? [] : ['sudo'];
  const apt = [...asRoot, 'apt-get'];
  const environment = { env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' } };
  step(`Installing ${missing.join(', ')}`, () => {
    run(apt[0], [...apt.slice(1), 'update', '-qq'], environment);
    run(apt[0], [...apt.slice(1), 'install', '-y', '-qq', '--no-install-recommends', ...missing], environment);
  });
}

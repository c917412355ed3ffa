// Bundles the specs of each room into a few files for Jest, so that Angular, Material and the core are evaluated once a
// file instead of once a spec.
import { build } from 'esbuild';
import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join, relative } from 'node:path';
import { root } from '../ready.mjs';
import { angularSource } from './angular-jit.mjs';

/** The bundles of each Jest project by the folders whose specs they hold; the last one holds all other folders. */
const ROOMS = {
  core: [
    ['core/compose'],
    ['core/files', 'core/notation', 'core/listen'],
    ['core/patterns', 'core/sounding', 'core/live'],
    [],
  ],
  app: [['app/src/desks', 'app/src/commands'], ['app/src/drawers'], ['app/src/pages', 'app/src/ui'], []],
};
const folderOf = (project) => join(root, 'dist', 'specs', project);
const FOLDERS = { core: ['core', 'server'], app: ['app/src'] };

const specsUnder = (folder) =>
  readdirSync(join(root, folder), { recursive: true })
    .filter((name) => name.endsWith('.spec.ts'))
    .map((name) => join(folder, name))
    .sort();

/** The specs of a project as [name of the bundle, paths], as far as a path contains one of the words, if any. */
function bundlesOf(project, words) {
  const specs = FOLDERS[project]
    .flatMap(specsUnder)
    .filter((path) => words.length === 0 || words.some((word) => path.includes(word)));
  const roomOf = (path) =>
    ROOMS[project].findIndex((folders) => folders.some((folder) => path.startsWith(`${folder}/`)));
  return ROOMS[project]
    .map((folders, index, all) => {
      const last = index === all.length - 1;
      const name = last ? 'others' : folders.map((folder) => folder.split('/').at(-1)).join('-');
      return [name, specs.filter((path) => roomOf(path) === (last ? -1 : index))];
    })
    .filter(([, paths]) => paths.length > 0);
}

/** The imports at the top of a spec, and everything below them. */
const HEAD = /^(?:import\b[^;]*;\s*|\/\/[^\n]*\n\s*|\/\*[^]*?\*\/\s*)*/;

/** Wraps a spec in a `describe` with its path: its hooks and variables are its own, and a failure says where it is. */
function asBlock(path, source) {
  const head = HEAD.exec(source)?.[0] ?? '';
  const body = source.slice(head.length).replaceAll(/\b__dirname\b/g, JSON.stringify(dirname(path)));
  return `${head}describe(${JSON.stringify(relative(root, path))}, () => {aroundSpec();${body}\n});`;
}

const sources = {
  name: 'sources',
  setup(bundle) {
    bundle.onLoad({ filter: /\/(app\/src|core|server)\/.*\.ts$/ }, ({ path }) => {
      const source = readFileSync(path, 'utf8');
      const spec = path.endsWith('.spec.ts');
      const [contents, loader] = angularSource(path, spec ? asBlock(path, source) : source);
      return { contents, loader };
    });
  },
};

const STYLES = /\bstyles: \["(?:[^"\\]|\\.)*"(?:, "(?:[^"\\]|\\.)*")*\]/g;

/** Drops the style sheets of Angular Material: jsdom would parse them again for every view, and no spec needs them. */
const withoutStyles = {
  name: 'without-styles',
  setup(bundle) {
    bundle.onLoad({ filter: /@angular\/(material|cdk)\/fesm2022\/.*\.mjs$/ }, ({ path }) => ({
      contents: readFileSync(path, 'utf8').replaceAll(STYLES, 'styles: []'),
      loader: 'js',
    }));
  },
};

/** Stand-ins for what a document of the tests does not have: workers, downloads and the database. */
const standIns = {
  name: 'stand-ins',
  setup(bundle) {
    bundle.onResolve({ filter: /\/(create-[a-z-]+-worker|download)$/ }, ({ path, resolveDir, importer }) => {
      const standIn = join(resolveDir, `${path}.mock.ts`);
      return importer === standIn ? null : { path: standIn };
    });
    bundle.onResolve({ filter: /^localforage$/ }, () => ({ path: join(root, 'app/src/testing/memory-database.ts') }));
  },
};

/** Looking up a global is slow where the global object is a proxy, as the document's of the tests: these are looked up once. */
const GLOBALS =
  'const { Array, ArrayBuffer, BigInt, Boolean, DataView, Error, Float32Array, Float64Array, Infinity, Int16Array, Int32Array, ' +
  'JSON, Map, Math, NaN, Number, Object, Promise, RangeError, RegExp, Set, String, Symbol, TypeError, Uint8Array, Uint16Array, ' +
  'Uint32Array, WeakMap, WeakRef, WeakSet, isNaN, parseFloat, parseInt, undefined } = globalThis;';

const OPTIONS = {
  core: { platform: 'node', external: ['jsdom'] },
  app: {
    platform: 'browser',
    mainFields: ['es2022', 'es2020', 'module', 'browser', 'main'],
    loader: { '.html': 'text' },
    external: ['node:*', 'util', 'jsdom'],
    plugins: [standIns, withoutStyles, sources],
    banner: { js: `(() => { ${GLOBALS}` },
    footer: { js: '})();' },
    inject: [join(root, 'app/src/test-setup.ts')],
  },
};

/**
 * Writes the bundles of a project to dist/specs and removes what lay there.
 *
 * @param project  core or app
 * @param words    only specs whose path contains one of them; all where none is given
 * @returns whether there is a spec
 */
export async function bundleSpecs(project, words = []) {
  const folder = folderOf(project);
  rmSync(folder, { recursive: true, force: true });
  // Jest wants the folder of each project, whichever is run.
  for (const name of Object.keys(ROOMS)) mkdirSync(folderOf(name), { recursive: true });
  const bundles = bundlesOf(project, words);
  await Promise.all(
    bundles.map(([name, paths]) =>
      build({
        stdin: {
          contents: paths.map((path) => `import ${JSON.stringify(`./${path}`)};`).join('\n'),
          resolveDir: root,
          sourcefile: `${name}.ts`,
        },
        outfile: join(folder, `${name}.spec.js`),
        bundle: true,
        format: 'cjs',
        target: 'es2022',
        sourcemap: true,
        tsconfig: join(root, 'tsconfig.base.json'),
        define: { 'import.meta.url': '"file:///specs"' },
        logLevel: 'warning',
        plugins: [sources],
        ...OPTIONS[project],
      }),
    ),
  );
  return bundles.length > 0;
}

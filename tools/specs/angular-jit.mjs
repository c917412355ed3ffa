// Makes Angular's classes ready to be compiled when a spec runs: signal inputs and outputs are told to the decorators,
// templates come as text, styles are left out. What was made before is kept by its content.
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import ts from 'typescript';
import { root } from '../ready.mjs';

const require = createRequire(import.meta.url);
const { replaceResources } = require('jest-preset-angular/build/transformers/replace-resources');
const { angularJitApplicationTransform } = require('jest-preset-angular/build/transformers/jit_transform');

const kept = join(root, 'node_modules', '.cache', 'fendro', 'specs');
const versions = ['typescript', 'esbuild', 'jest-preset-angular'].map(
  (name) => require(`${name}/package.json`).version,
);

const COMPILER = {
  target: ts.ScriptTarget.ES2022,
  module: ts.ModuleKind.ES2022,
  experimentalDecorators: true,
  useDefineForClassFields: true,
  isolatedModules: true,
  noResolve: true,
  noLib: true,
  inlineSourceMap: true,
  inlineSources: true,
};

/** One file by itself as JavaScript, as `ts.transpileModule`, but with what Angular's transformers need: a program. */
function compiled(path, source) {
  const file = ts.createSourceFile(path, source, COMPILER.target);
  let text = '';
  const program = ts.createProgram([path], COMPILER, {
    getSourceFile: (name) => (name === path ? file : undefined),
    writeFile: (_name, output) => (text = output),
    getDefaultLibFileName: () => 'lib.d.ts',
    useCaseSensitiveFileNames: () => true,
    getCanonicalFileName: (name) => name,
    getCurrentDirectory: () => root,
    getNewLine: () => '\n',
    fileExists: (name) => name === path,
    readFile: () => '',
    directoryExists: () => true,
    getDirectories: () => [],
  });
  program.emit(undefined, undefined, undefined, undefined, {
    before: [replaceResources(program), angularJitApplicationTransform(program)],
  });
  return text;
}

function keptOrCompiled(path, source) {
  const hash = createHash('sha256')
    .update(versions.join())
    .update(path.slice(root.length))
    .update(source)
    .digest('hex');
  const file = join(kept, `${hash}.js`);
  if (existsSync(file)) return readFileSync(file, 'utf8');
  const text = compiled(path, source);
  mkdirSync(kept, { recursive: true });
  writeFileSync(file, text);
  return text;
}

/** A source of the application as [text, how esbuild reads it]. */
export const angularSource = (path, source) =>
  /@(Component|Directive|Pipe|Injectable)\(/.test(source) ? [keptOrCompiled(path, source), 'js'] : [source, 'ts'];

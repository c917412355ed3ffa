// Copies the outlines of the icons that Fendro uses into one TypeScript file, so that no icon font has to be loaded.
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { root, run } from './ready.mjs';

/** 23,000 files: they are installed when icons are made, and not by everybody who starts Fendro. */
const PACKAGE = '@material-symbols/svg-400';
const VERSION = '0.48.2';
if (!existsSync(resolve(root, 'node_modules', PACKAGE)))
  run('npm', ['install', '--no-save', '--no-audit', '--no-fund', `${PACKAGE}@${VERSION}`]);

const NAMES = [
  'add',
  'check',
  'close',
  'content_copy',
  'dark_mode',
  'delete',
  'download',
  'edit',
  'folder',
  'folder_zip',
  'headphones',
  'help',
  'library_music',
  'light_mode',
  'more_horiz',
  'play_arrow',
  'redo',
  'remove',
  'repeat',
  'search',
  'stop',
  'timer',
  'tune',
  'undo',
  'upload',
  'volume_off',
  'volume_up',
  'thumb_up',
  'thumb_down',
  'arrow_drop_down',
  'shuffle',
  'cable',
];

const rows = NAMES.map((name) => {
  const svg = readFileSync(resolve(root, `node_modules/${PACKAGE}/rounded/${name}.svg`), 'utf8');
  const path = / d="([^"]+)"/.exec(svg)?.[1];
  if (!path) throw new Error(`no path in ${name}`);
  return `  ${name}:\n    '${path}',`;
});
writeFileSync(
  resolve(root, 'app/src/ui/icons.gen.ts'),
  '// Made by tools/make-icons.mjs from Material Symbols (Apache-2.0). Do not edit.\nexport const ' +
    `ICONS = {\n${rows.join('\n')}\n} as const;\n`,
);

/**
 * Lead sheets of the demo, of drafted songs in every metre and of songs put together at random against the standard's own
 * schema, by xmllint. Stops where one does not hold, or where something that a sheet can have was in none.
 */
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import fc from 'fast-check';
import { chosenMusic } from '@fendro/core/files/outgoing/hand-over';
import { printedSheet } from '@fendro/core/files/outgoing/printed-sheet';
import { isDrumRole } from '@fendro/core/song/roles';
import type { Music } from '@fendro/core/song/resolve';
import { openSong } from '@fendro/core/song/song-file';
import { songOverChords, songWithEndings } from '@fendro/core/testing/sheets';
import { songOf as mixed, twists } from '@fendro/core/testing/songs';
import { STYLES } from '@fendro/core/styles/styles';
import { tonicsFor } from '@fendro/core/theory/key';
import { METRES, metreText } from '@fendro/core/theory/metre';
import { songOf } from './band-song';

const SONGS_IN_A_METRE = 4;
const SCHEMA = resolve(import.meta.dirname, 'musicxml');

interface Named {
  readonly name: string;
  readonly xml: string;
}

/** The lead sheet of every line that has pitches and plays. */
const sheetsOf = (name: string, music: Music): Named[] =>
  music.score.parts
    .filter(({ role }) => !isDrumRole(role))
    .flatMap((part) => {
      const sheet = printedSheet(music, part.id);
      return sheet ? [{ name: `${name}, ${part.name}`, xml: sheet.xml }] : [];
    });

function demo(): Named[] {
  const file = resolve(import.meta.dirname, '../app/public/demo/barometer-falling.json');
  const opened = openSong(JSON.parse(readFileSync(file, 'utf8')));
  if (!opened.ok) throw new Error(opened.reason);
  const { score, ledger } = opened.song;
  return sheetsOf(score.title, chosenMusic(score, ledger.takes));
}

/** Songs in a metre: each of another style and key, its verse twice, so that there is something to repeat. */
function drafted(metre: (typeof METRES)[number], which: number): Named[] {
  return Array.from({ length: SONGS_IN_A_METRE }, (_, index) => {
    const number = which * SONGS_IN_A_METRE + index;
    const style = STYLES[number % STYLES.length];
    if (!style) throw new RangeError('no style');
    const tonics = tonicsFor(style.scales[0] ?? 'major');
    const { score, takes } = songOf(style, { metre, tonic: tonics[(5 * number) % tonics.length] ?? 0 });
    const [first, ...rest] = score.order;
    const order = first ? [first, { ...first, id: 'again' }, ...rest] : [];
    return sheetsOf(`${style.name} in ${metreText(metre)}`, chosenMusic({ ...score, order }, takes));
  }).flat();
}

/** Songs with pick-ups, tempos and metres of their sections, in any order. */
const atRandom = (): Named[] =>
  fc.sample(twists, { seed: 7, numRuns: 40 }).flatMap((twist, index) => sheetsOf(`Song ${index}`, mixed(twist)));

const SYMBOLS = ['Am7/G', 'C/E', 'F#m7b5', 'G7b9', 'Csus4', 'Cadd9', 'N.C.', 'E7#9'];
const sheets = [
  ...demo(),
  ...METRES.flatMap(drafted),
  ...atRandom(),
  ...sheetsOf('Endings', songWithEndings().music),
  ...sheetsOf('Chords', songOverChords(SYMBOLS)),
];
const SEEN = [
  '<repeat',
  '<ending',
  '<tuplet',
  '<tied',
  '<degree',
  '<bass',
  'implicit="yes"',
  '<metronome',
  '<rehearsal',
];
const unseen = SEEN.filter((piece) => sheets.every(({ xml }) => !xml.includes(piece)));
if (unseen.length > 0) throw new Error(`in no lead sheet: ${unseen.join(', ')}`);

const folder = mkdtempSync(join(tmpdir(), 'lead-sheets-'));
const paths = sheets.map(({ xml }, index) => {
  const path = join(folder, `${index}.musicxml`);
  writeFileSync(path, xml);
  return path;
});
const schema = join(SCHEMA, 'musicxml.xsd');
const { status, stderr, error } = spawnSync('xmllint', ['--noout', '--nonet', '--schema', schema, ...paths], {
  env: { ...process.env, XML_CATALOG_FILES: join(SCHEMA, 'catalog.xml') },
  encoding: 'utf8',
  maxBuffer: 1 << 26,
});
rmSync(folder, { recursive: true });
if (error) throw error;
if (status !== 0) {
  const failed = stderr.split('\n').filter((line) => !line.endsWith(' validates'));
  const named = failed.map((line) =>
    line.replace(/^.*?(\d+)\.musicxml/, (all, index: string) => sheets[Number(index)]?.name ?? all),
  );
  console.error(named.slice(0, 40).join('\n'));
  process.exit(1);
}
console.log(`${sheets.length} lead sheets hold against the schema of MusicXML`);

import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { openSong } from '@fendro/core/song/song-file';
import type { Take } from '@fendro/core/song/schema';

const opened = openSong(JSON.parse(readFileSync(resolve('app/public/demo/barometer-falling.json'), 'utf8')));
if (!opened.ok) throw new Error(opened.reason);
const { score, ledger } = opened.song;

/** The demo song, with all its takes. */
export const demoMusic = { score, takes: ledger.takes };

/** The takes that the demo song comes with: all, or those of a part, by its name, in a section. */
export function demoTakes(section?: string, part?: string): Take[] {
  const line = score.parts.find(({ name }) => name === part)?.id;
  return Object.values(ledger.takes).filter(
    (take) => section === undefined || (take.section === section && take.of === 'part' && take.part === line),
  );
}

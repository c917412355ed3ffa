// Writes songs that are larger than a writer's, made of the demo: argument 1 is the folder.
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { openSong } from '@fendro/core/song/song-file';
import type { Song, Take } from '@fendro/core/song/schema';

const opened = openSong(JSON.parse(readFileSync('app/public/demo/barometer-falling.json', 'utf8')));
if (!opened.ok) throw new Error(opened.reason);
const { song } = opened;
const { score, ledger } = song;

/** The running order again and again, to about 200 bars, for eight parts. */
function long(): Song {
  const parts = [...score.parts, ...score.parts.map((part, place) => ({ ...part, id: `more-${place}` }))].slice(0, 8);
  const order = Array.from({ length: 4 }, (_, round) =>
    score.order.map((place, index) => ({ ...place, id: `place-${round}-${index}` })),
  ).flat();
  return { ...song, id: 'bench-long', score: { ...score, title: 'Long', parts, order, energy: [] } };
}

/** As many takes as are asked for: those of the demo again under other ids. */
function full(count: number): Song {
  const own = Object.values(ledger.takes);
  const copies = Array.from({ length: Math.max(0, count - own.length) }, (_, place): Take => {
    const take = own[place % own.length] as Take;
    return { ...take, id: `copy-${place}` };
  });
  const takes = Object.fromEntries([...own, ...copies].map((take) => [take.id, take]));
  return { ...song, id: `bench-${count}`, score: { ...score, title: `Full ${count}` }, ledger: { ...ledger, takes } };
}

const folder = process.argv[2] ?? 'dist';
for (const large of [long(), full(1000), full(5000)])
  writeFileSync(join(folder, `${large.score.title.replace(' ', '-').toLowerCase()}.fendro`), JSON.stringify(large));

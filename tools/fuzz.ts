/**
 * npm run fuzz: 10,000 broken MIDI files through the import. None may throw, hang for two seconds, or come out half
 * read:
 * each is either read whole or refused with a reason. Another number of files: npm run fuzz 500.
 */
import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { deliverAll, deliverOneTrack } from '@fendro/core/files/outgoing/deliver';
import { readImport } from '@fendro/core/files/incoming/midi-import';
import { NOTHING_HEARD } from '@fendro/core/song/resolve';
import { openSong } from '@fendro/core/song/song-file';
import { pickIndex, stream, type Random } from '@fendro/core/trellis/random';

const COUNT = Number(process.argv[2] ?? 10_000);
const SLOWEST_MS = 2000;

const demo = openSong(
  JSON.parse(readFileSync(resolve(import.meta.dirname, '../app/public/demo/barometer-falling.json'), 'utf8')),
);
if (!demo.ok) throw new Error(demo.reason);
const { score, ledger } = demo.song;
const music = { score, takes: ledger.takes, heard: NOTHING_HEARD };
const oneTrack = deliverOneTrack(music);
if (!oneTrack.ok) throw new Error(oneTrack.reason);
const sources = [...deliverAll(music), oneTrack.delivery].map(({ bytes }) => bytes);

/** Ways in which files break on their way: bits, lengths, cuts, doubled and missing stretches. */
const MUTATIONS: readonly ((bytes: Uint8Array, random: Random) => Uint8Array)[] = [
  (bytes, random) => {
    const copy = bytes.slice();
    for (let times = 1 + pickIndex(random, 12); times > 0; times--)
      copy[pickIndex(random, copy.length)] = pickIndex(random, 256);
    return copy;
  },
  (bytes, random) => bytes.slice(0, pickIndex(random, bytes.length)),
  (bytes, random) => {
    const copy = bytes.slice();
    const at = [4, 8, 10, 12, 18, 22][pickIndex(random, 6)] ?? 4;
    for (let byte = 0; byte < 4; byte++) copy[at + byte] = pickIndex(random, 256);
    return copy;
  },
  (bytes, random) => {
    const [at, size] = [pickIndex(random, bytes.length), 1 + pickIndex(random, 64)];
    return Uint8Array.from([...bytes.slice(0, at), ...bytes.slice(at + size)]);
  },
  (bytes, random) => {
    const [at, size] = [pickIndex(random, bytes.length), 1 + pickIndex(random, 64)];
    return Uint8Array.from([...bytes.slice(0, at + size), ...bytes.slice(at)]);
  },
  (bytes, random) => {
    const copy = bytes.slice();
    const at = 22 + pickIndex(random, copy.length - 30);
    copy.fill(0x80 + pickIndex(random, 128), at, at + 1 + pickIndex(random, 8));
    return copy;
  },
];

let read = 0;
let slowest = 0;
const reasons = new Map<string, number>();
for (let index = 0; index < COUNT; index++) {
  const random = stream(20_261, 'fuzz', index);
  const source = sources[pickIndex(random, sources.length)] ?? new Uint8Array(0);
  const mutate = MUTATIONS[index % MUTATIONS.length];
  const bytes = mutate ? mutate(source, random) : source;
  const since = performance.now();
  const result = readImport(bytes);
  slowest = Math.max(slowest, performance.now() - since);
  if (result.ok) {
    read++;
    const { lines, sections } = result.file;
    const sound =
      sections.length > 0 &&
      sections.every(({ bars }) => bars >= 1) &&
      lines.every(({ notes }) =>
        notes.every(
          ({ start, duration, pitch, velocity }) =>
            start >= 0 && duration >= 1 && pitch >= 0 && pitch <= 127 && velocity >= 1 && velocity <= 127,
        ),
      );
    if (!sound) throw new Error(`file ${index} came out half read`);
  } else {
    if (result.reason.length < 15) throw new Error(`file ${index} was refused without a reason: ${result.reason}`);
    const kind = result.reason.replaceAll(/\d+/g, 'N').slice(0, 60);
    reasons.set(kind, (reasons.get(kind) ?? 0) + 1);
  }
  if (slowest > SLOWEST_MS) throw new Error(`file ${index} took ${slowest} ms`);
}
console.log(
  `${COUNT} broken files: ${read} read all the same, ${COUNT - read} refused; the slowest took ${slowest.toFixed(0)} ms.`,
);
for (const [reason, count] of [...reasons].sort((a, b) => b[1] - a[1]))
  console.log(`${String(count).padStart(6)}  ${reason} …`);

// Makes the sound banks in app/public/sounds from Debian's fluid-soundfont-gm (MIT licence).
// Needs: apt-get install fluid-soundfont-gm vorbis-tools. Run: node tools/make-sounds.mjs
// The banks are committed; this script is here so that they can be made again.
import { execFile } from 'node:child_process';
import { copyFileSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { promisify } from 'node:util';
import { BasicSoundBank, SoundBankLoader } from 'spessasynth_core';

const run = promisify(execFile);
const SOURCE = '/usr/share/sounds/sf2/FluidR3_GM.sf2';
const LICENCE = '/usr/share/doc/fluid-soundfont-gm/copyright';
const OUTPUT = resolve(import.meta.dirname, '../app/public/sounds');
const QUALITY = '3';
/** Shorter samples are single cycles: Vorbis gains nothing and their loops would suffer. */
const SHORTEST_TO_ENCODE = 4000;

/** General MIDI programs (counted from 0) of each family; `d` marks a drum kit. Kept equal to core/sounding/instruments.ts. */
const FAMILIES = {
  piano: [0],
  keys: [2, 4, 16, 18, 11, 12, 10],
  guitars: [24, 25, 27, 28, 29],
  basses: [32, 33, 34, 38, 39],
  strings: [48, 45],
  'solo-strings': [40, 42],
  voices: [52, 53],
  winds: [61, 56, 65, 73, 71],
  synths: [89, 81, 80, 90, 50, 62],
  drums: ['d0', 'd25', 'd40'],
};

const work = mkdtempSync(join(tmpdir(), 'fendro-sounds-'));
let serial = 1000;

function load() {
  const bytes = readFileSync(SOURCE);
  const bank = SoundBankLoader.fromArrayBuffer(
    bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength),
  );
  // Two samples share a name; cloning a preset would mix them up.
  const seen = new Map();
  for (const sample of bank.samples) {
    const count = seen.get(sample.name) ?? 0;
    seen.set(sample.name, count + 1);
    if (count > 0) sample.name += `~${count}`;
  }
  return bank;
}

function wave(samples, rate) {
  const bytes = Buffer.alloc(44 + samples.length * 2);
  bytes.write('RIFF', 0);
  bytes.writeUInt32LE(36 + samples.length * 2, 4);
  bytes.write('WAVEfmt ', 8);
  bytes.writeUInt32LE(16, 16);
  bytes.writeUInt16LE(1, 20);
  bytes.writeUInt16LE(1, 22);
  bytes.writeUInt32LE(rate, 24);
  bytes.writeUInt32LE(rate * 2, 28);
  bytes.writeUInt16LE(2, 32);
  bytes.writeUInt16LE(16, 34);
  bytes.write('data', 36);
  bytes.writeUInt32LE(samples.length * 2, 40);
  samples.forEach((value, index) =>
    bytes.writeInt16LE(Math.max(-32768, Math.min(32767, Math.round(value * 32768))), 44 + 2 * index),
  );
  return bytes;
}

async function encode(sample) {
  const number = serial++;
  const input = join(work, `${number}.wav`);
  const output = join(work, `${number}.ogg`);
  writeFileSync(input, wave(sample.getAudioData(), sample.sampleRate));
  await run('oggenc', ['-Q', '-q', QUALITY, '--serial', String(number), '-o', output, input]);
  const ogg = readFileSync(output);
  // A plain sample after an Ogg of odd length would be read off by one byte.
  const even = new Uint8Array(ogg.length + (ogg.length & 1));
  even.set(ogg);
  sample.setCompressedData(even);
}

function select(source, programs) {
  const bank = new BasicSoundBank('sf2');
  for (const entry of programs) {
    const drums = typeof entry === 'string';
    const program = drums ? Number(entry.slice(1)) : entry;
    const preset = source.presets.find((p) => p.program === program && p.isGMGSDrum === drums && p.bankMSB === 0);
    if (!preset) throw new Error(`no preset for ${entry}`);
    bank.clonePreset(preset);
  }
  return bank;
}

/** Drum kits keep the General MIDI keys 35–81 only. */
function trimDrums(bank) {
  const velocities = new Set(Array.from({ length: 127 }, (_, index) => index + 1));
  const keys = new Map(Array.from({ length: 47 }, (_, index) => [35 + index, velocities]));
  bank.trim(new Map(bank.presets.map((preset) => [preset, keys])));
}

mkdirSync(OUTPUT, { recursive: true });
for (const [family, programs] of Object.entries(FAMILIES)) {
  const source = load();
  const bank = select(source, programs);
  if (family === 'drums') trimDrums(bank);
  bank.soundBankInfo = {
    ...source.soundBankInfo,
    name: `Fluid R3 ${family}`,
    comment: 'Trimmed from FluidR3 GM, (c) 2000-2002, 2008 Frank Wen, MIT licence',
  };
  const waiting = bank.samples.filter((sample) => sample.getAudioData().length >= SHORTEST_TO_ENCODE);
  await Promise.all(
    [0, 1].map(async () => {
      for (let sample = waiting.pop(); sample; sample = waiting.pop()) await encode(sample);
    }),
  );
  bank.soundBankInfo.version = { major: 3, minor: 0 };
  const bytes = Buffer.from(bank.writeSF2());
  writeFileSync(join(OUTPUT, `${family}.sf3`), bytes);
  console.log(`${family}: ${bank.presets.length} presets, ${Math.round(bytes.length / 1024)} kB`);
}
copyFileSync(LICENCE, join(OUTPUT, 'LICENCE.txt'));
rmSync(work, { recursive: true });

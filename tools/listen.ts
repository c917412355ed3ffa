/**
 * npm run listen: every style's band over eight bars and its own ending, rendered offline with Fendro's own sounds and
 * mix, and heard by numbers: clipping, parts that drown, and whether the song ends. Writes “Listening” of
 * docs/figures.md.
 */
import { BasicSoundBank, SoundBankLoader, SpessaSynthProcessor } from 'spessasynth_core';
import { NOTHING_HEARD } from '@fendro/core/song/resolve';
import type { Style } from '@fendro/core/song/style';
import { songCourse, tempoOf } from '@fendro/core/sounding/course';
import { perform } from '@fendro/core/sounding/performance';
import { secondsPerTick } from '@fendro/core/sounding/tempo-map';
import { groundFor } from '@fendro/core/styles/band';
import { STYLES } from '@fendro/core/styles/styles';
import { barTicks } from '@fendro/core/theory/metre';
import { songOf } from './band-song';
import { bankOf } from './sound-banks';
import { writeFigures } from './write-figures.mjs';

const RATE = 44_100;
const QUANTUM = 128;
const CHANNELS = 16;
/** A window that is softer than this is a rest, in full scale. */
const GATE = 0.001;
const WINDOW = Math.round(0.2 * RATE);
/** Seconds that are heard after the last note. */
const AFTER = 3;

interface Heard {
  readonly peak: number;
  /** Loudness of each part while it sounds, in dB of full scale. */
  readonly parts: readonly { readonly name: string; readonly level: number }[];
  /** Seconds from the last section's end until nothing is played, and the peak of the last half second. */
  readonly rings: number;
  readonly rest: number;
}

const decibels = (value: number): number => 20 * Math.log10(Math.max(1e-6, value));

async function hear(style: Style): Promise<Heard> {
  const { score, takes, ended } = songOf(style);
  const synth = new SpessaSynthProcessor(RATE, { eventsEnabled: false, effectsEnabled: true });
  await synth.processorInitialized;
  const course = songCourse(score);
  const { setup, events: performed } = perform({ music: { score, takes, heard: NOTHING_HEARD }, course });
  const voices = setup.filter(({ id }) => score.parts.some((part) => part.id === id));
  for (const family of new Set(voices.map(({ instrument }) => instrument.family)))
    synth.soundBankManager.addSoundBank(SoundBankLoader.fromArrayBuffer((await bankOf(family)).slice(0)), family);
  voices.forEach(({ drums, instrument, level, pan }, channel) => {
    synth.midiChannels[channel]?.setDrums(drums);
    synth.programChange(channel, instrument.program);
    synth.controllerChange(channel, 7, level);
    synth.controllerChange(channel, 10, pan);
  });
  const channels = new Map(voices.map(({ id }, channel) => [id, channel]));
  const { secondsAt } = tempoOf(course, score);
  const notes = performed.filter((event) => event.kind === 'note');
  const events = notes
    .flatMap((note) => [
      { at: secondsAt(note.at) * RATE, on: true, note },
      { at: secondsAt(note.end) * RATE, on: false, note },
    ])
    .sort((a, b) => a.at - b.at || Number(a.on) - Number(b.on));
  const last = Math.max(...notes.map(({ end }) => end));
  const frames = Math.ceil(secondsAt(last) * RATE + AFTER * RATE);
  const buffers = Array.from({ length: CHANNELS }, () => [new Float32Array(QUANTUM), new Float32Array(QUANTUM)]);
  const sums = new Map<number, { window: number; windows: number[] }>();
  let [next, peak, rest] = [0, 0, 0];
  for (let frame = 0; frame < frames; frame += QUANTUM) {
    for (; next < events.length && (events[next]?.at ?? 0) < frame + QUANTUM; next++) {
      const event = events[next];
      if (!event) break;
      const channel = channels.get(event.note.voice) ?? 0;
      if (event.on) synth.noteOn(channel, event.note.pitch, event.note.velocity);
      else synth.noteOff(channel, event.note.pitch);
    }
    const [left, right] = [new Float32Array(QUANTUM), new Float32Array(QUANTUM)];
    for (const pair of buffers) for (const side of pair) side.fill(0);
    synth.processSplit(buffers, left, right, 0, QUANTUM);
    for (const channel of channels.values()) {
      const [a, b] = buffers[channel] ?? [];
      if (!a || !b) continue;
      const own = sums.get(channel) ?? { window: 0, windows: [] };
      sums.set(channel, own);
      for (let index = 0; index < QUANTUM; index++) {
        const [l, r] = [a[index] ?? 0, b[index] ?? 0];
        own.window += (l * l + r * r) / 2;
        left[index] = (left[index] ?? 0) + l;
        right[index] = (right[index] ?? 0) + r;
      }
      if (Math.floor((frame + QUANTUM) / WINDOW) > Math.floor(frame / WINDOW)) {
        own.windows.push(Math.sqrt(own.window / WINDOW));
        own.window = 0;
      }
    }
    for (let index = 0; index < QUANTUM; index++) {
      const sample = Math.max(Math.abs(left[index] ?? 0), Math.abs(right[index] ?? 0));
      peak = Math.max(peak, sample);
      if (frame > frames - RATE / 2) rest = Math.max(rest, sample);
    }
  }
  const parts = score.parts.map((part) => {
    const windows = (sums.get(channels.get(part.id) ?? 0)?.windows ?? []).filter((value) => value > GATE);
    const power = windows.reduce((total, value) => total + value * value, 0) / Math.max(1, windows.length);
    return { name: part.name, level: decibels(Math.sqrt(power)) };
  });
  return { peak, parts, rings: secondsAt(last) - secondsAt(ended), rest };
}

/** How far below the loudest part another may lie, in dB. */
const DROWNED = 12;

const HEAD = '| style | peak, dB | softest part, dB under the loudest | ending | plays after the last section |';
const FAULTLESS =
  'Nothing clips, no part lies more than 12 dB under the loudest, and every ending is over within two bars.';

async function listen(): Promise<number> {
  await BasicSoundBank.isSF3DecoderReady;
  const rows: string[] = [];
  const faults: string[] = [];
  for (const style of STYLES) {
    const { peak, parts, rings, rest } = await hear(style);
    const loudest = Math.max(...parts.map(({ level }) => level));
    const softest = parts.reduce((least, part) => (part.level < least.level ? part : least));
    const twoBars =
      2 * barTicks(groundFor(style, { tonic: 0, scale: 'major' }).metre) * secondsPerTick(style.tempo.usual);
    rows.push(
      `| ${style.name} | ${decibels(peak).toFixed(1)} | ${softest.name}, ` +
        `${(softest.level - loudest).toFixed(1)} | ${style.ending} | ${rings.toFixed(1)} s |`,
    );
    if (peak > 1) faults.push(`${style.name} clips: ${peak.toFixed(2)}`);
    for (const part of parts)
      if (part.level < loudest - DROWNED)
        faults.push(`${style.name}: ${part.name} lies ${(loudest - part.level).toFixed(1)} dB under the loudest`);
    if (rings > twoBars + 0.1) faults.push(`${style.name} goes on for ${rings.toFixed(1)} s after its last section`);
    if (rest > 0.05) faults.push(`${style.name} still sounds at the end: ${rest.toFixed(3)}`);
    console.log(rows.at(-1), parts.map(({ name, level }) => `${name} ${level.toFixed(0)}`).join(', '));
  }
  console.log(faults.length === 0 ? 'No clipping, no part drowned, every song ends.' : faults.join('\n'));
  writeFigures(
    'Listening',
    [
      "Every style's own band over eight bars and its ending, rendered offline with the shipped sounds and the " +
        "styles' own levels. The softest part is given against the loudest, by its mean level while it sounds.",
      [HEAD, '|---|---|---|---|---|', ...rows].join('\n'),
      faults.length === 0 ? FAULTLESS : faults.join('; '),
    ].join('\n\n'),
  );
  return faults.length;
}

void listen().then((faults) => process.exit(faults === 0 ? 0 : 1));

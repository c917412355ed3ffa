/// <reference lib="webworker" />
import { BasicSoundBank, SoundBankLoader, SpessaSynthProcessor } from 'spessasynth_core';
import { loudnessOf } from '@fendro/core/sounding/loudness';
import { NOTE_SIZE, toLoudnessWorkerSchema, type FromLoudnessWorker, type ToLoudnessWorker } from './loudness-messages';

/** Enough for loudness, and half as long to render as what is heard. */
const RATE = 32_000;
const QUANTUM = 128;
/** Seconds that are heard after the last note. */
const AFTER = 0.5;

const synths = new Map<string, Promise<SpessaSynthProcessor>>();

/** A synthesizer with one family's sounds; it is kept for the next line. */
async function synthFor(bank: string): Promise<SpessaSynthProcessor> {
  await BasicSoundBank.isSF3DecoderReady;
  const response = await fetch(bank);
  if (!response.ok) throw new Error(String(response.status));
  const synth = new SpessaSynthProcessor(RATE, { eventsEnabled: false, effectsEnabled: false });
  await synth.processorInitialized;
  synth.soundBankManager.addSoundBank(SoundBankLoader.fromArrayBuffer(await response.arrayBuffer()), 'own');
  return synth;
}

/** A line as it sounds, left and right. */
function rendered(
  synth: SpessaSynthProcessor,
  { program, drums, notes }: ToLoudnessWorker,
): [Float32Array, Float32Array] {
  const events: { at: number; on: boolean; pitch: number; velocity: number }[] = [];
  for (let index = 0; index < notes.length; index += NOTE_SIZE) {
    const [start = 0, end = 0, pitch = 0, velocity = 0] = notes.subarray(index, index + NOTE_SIZE);
    events.push({ at: start * RATE, on: true, pitch, velocity }, { at: end * RATE, on: false, pitch, velocity });
  }
  events.sort((a, b) => a.at - b.at || Number(a.on) - Number(b.on));
  const last = events.at(-1)?.at ?? 0;
  const frames = QUANTUM * Math.ceil((last + AFTER * RATE) / QUANTUM);
  const [left, right] = [new Float32Array(frames), new Float32Array(frames)];
  synth.midiChannels[0]?.setDrums(drums);
  synth.programChange(0, program);
  let next = 0;
  for (let frame = 0; frame < frames; frame += QUANTUM) {
    for (let event = events[next]; event && event.at < frame + QUANTUM; event = events[++next])
      if (event.on) synth.noteOn(0, event.pitch, event.velocity);
      else synth.noteOff(0, event.pitch);
    synth.process(left, right, frame, QUANTUM);
  }
  synth.midiChannels[0]?.stopAllNotes(true);
  return [left, right];
}

const measured = async (message: ToLoudnessWorker): Promise<number | null> => {
  if (message.notes.length === 0) return null;
  const known = synths.get(message.bank) ?? synthFor(message.bank);
  synths.set(message.bank, known);
  const [left, right] = rendered(await known, message);
  return loudnessOf(left, right, RATE);
};

addEventListener('message', ({ data }: MessageEvent<unknown>) => {
  const message = toLoudnessWorkerSchema.parse(data);
  const answer = (loudness: number | null): void => {
    postMessage({ id: message.id, loudness } satisfies FromLoudnessWorker);
  };
  measured(message).then(answer, () => {
    synths.delete(message.bank);
    answer(null);
  });
});

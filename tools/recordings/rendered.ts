import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { BasicSoundBank, SoundBankLoader, SpessaSynthProcessor } from 'spessasynth_core';
import { NOTHING_HEARD } from '@fendro/core/song/resolve';
import { KEYS, RATE, type Activations } from '@fendro/core/listen/frames';
import { songCourse, tempoOf } from '@fendro/core/sounding/course';
import { instrumentOf, type Instrument } from '@fendro/core/sounding/instruments';
import { perform } from '@fendro/core/sounding/performance';
import { activationsOf, loadModel, type Model } from '../../app/src/work/listening/model';
import type { BandSong } from '../band-song';
import { bankOf } from '../sound-banks';

/** Renders songs as recordings, and lets the model listen to them; both are kept, since listening takes long. */

const FINE = 2 * RATE;
const QUANTUM = 128;
const AFTER = 2;
const root = resolve(import.meta.dirname, '../..');
const kept = resolve(root, 'dist/recordings');

export interface TrueNote {
  readonly voice: string;
  readonly drums: boolean;
  readonly start: number;
  readonly end: number;
  readonly pitch: number;
}

/** Something rendered and heard: its sound, what the model said of it, and the notes that were struck, in seconds. */
export interface Recording {
  readonly name: string;
  readonly samples: Float32Array;
  readonly activations: Activations;
  readonly notes: readonly TrueNote[];
}

/**
 * @param counts  the voices that play
 * @param plays   the instrument that plays a voice
 */
async function rendered(
  { score, takes }: BandSong,
  counts: (voice: string) => boolean,
  plays: (own: Instrument) => Instrument,
): Promise<{ samples: Float32Array; notes: TrueNote[] }> {
  await BasicSoundBank.isSF3DecoderReady;
  const synth = new SpessaSynthProcessor(FINE, { eventsEnabled: false, effectsEnabled: true });
  await synth.processorInitialized;
  const course = songCourse(score);
  const { setup, events: performed } = perform({ music: { score, takes, heard: NOTHING_HEARD }, course });
  const voices = setup.filter(({ id }) => score.parts.some((part) => part.id === id) && counts(id));
  const instruments = voices.map(({ drums, instrument }) => (drums ? instrument : plays(instrument)));
  for (const family of new Set(instruments.map((instrument) => instrument.family)))
    synth.soundBankManager.addSoundBank(SoundBankLoader.fromArrayBuffer((await bankOf(family)).slice(0)), family);
  voices.forEach(({ drums, level, pan }, channel) => {
    synth.midiChannels[channel]?.setDrums(drums);
    synth.programChange(channel, instruments[channel]?.program ?? 0);
    synth.controllerChange(channel, 7, level);
    synth.controllerChange(channel, 10, pan);
  });
  const { secondsAt } = tempoOf(course, score);
  const notes = performed.flatMap((event) => {
    const channel = voices.findIndex(({ id }) => event.kind === 'note' && id === event.voice);
    return event.kind === 'note' && channel >= 0
      ? [{ ...event, channel, start: secondsAt(event.at), until: secondsAt(event.end) }]
      : [];
  });
  const first = Math.min(0, ...notes.map(({ start }) => start));
  const events = notes
    .flatMap((note) => [
      { at: (note.start - first) * FINE, on: true, note },
      { at: (note.until - first) * FINE, on: false, note },
    ])
    .sort((a, b) => a.at - b.at || Number(a.on) - Number(b.on));
  const frames = QUANTUM * Math.ceil((Math.max(...notes.map(({ until }) => until - first)) + AFTER) * (FINE / QUANTUM));
  const [left, right] = [new Float32Array(frames), new Float32Array(frames)];
  let next = 0;
  for (let frame = 0; frame < frames; frame += QUANTUM) {
    for (let event = events[next]; event && event.at < frame + QUANTUM; event = events[++next])
      if (event.on) synth.noteOn(event.note.channel, event.note.pitch, event.note.velocity);
      else synth.noteOff(event.note.channel, event.note.pitch);
    synth.process(left, right, frame, QUANTUM);
  }
  // Half the rate: what neighbours have in common, which is low pass enough for figures.
  const samples = Float32Array.from({ length: frames / 2 }, (_, at) => {
    const sum = (index: number): number => (left[index] ?? 0) + (right[index] ?? 0);
    return (sum(2 * at - 1) + 2 * sum(2 * at) + sum(2 * at + 1)) / 8;
  });
  return {
    samples,
    notes: notes.map(({ voice, channel, start, until, pitch }) => ({
      voice,
      drums: voices[channel]?.drums ?? false,
      start: start - first,
      end: until - first,
      pitch,
    })),
  };
}

let model: Model | null = null;
async function modelOnce(): Promise<Model> {
  if (model) return model;
  const file = (name: string): Buffer => readFileSync(resolve(root, 'app/public/listening', name));
  const weights = Uint8Array.from(file('weights.bin')).buffer;
  const wasm = resolve(root, 'node_modules/@tensorflow/tfjs-backend-wasm/dist/') + '/';
  model = await loadModel(JSON.parse(file('model.json').toString('utf8')), weights, wasm);
  return model;
}

const floats = (path: string): Float32Array => new Float32Array(Uint8Array.from(readFileSync(path)).buffer);

/** A recording by its name: read where it was kept, else rendered and listened to. */
export async function recordingOf(
  name: string,
  song: () => BandSong,
  counts: (voice: string) => boolean = () => true,
  plays: (own: Instrument) => Instrument = (own) => own,
): Promise<Recording> {
  mkdirSync(kept, { recursive: true });
  const path = (kind: string): string => resolve(kept, `${name}.${kind}`);
  if (!existsSync(path('json'))) {
    const { samples, notes } = await rendered(song(), counts, plays);
    const { notes: sounding, onsets } = await activationsOf(await modelOnce(), samples, () => undefined);
    for (const [kind, values] of Object.entries({ samples, sounding, onsets }))
      writeFileSync(path(kind), new Uint8Array(values.buffer));
    writeFileSync(path('json'), JSON.stringify(notes));
  }
  const onsets = floats(path('onsets'));
  return {
    name,
    samples: floats(path('samples')),
    activations: { frames: onsets.length / KEYS, notes: floats(path('sounding')), onsets },
    notes: JSON.parse(readFileSync(path('json'), 'utf8')) as TrueNote[],
  };
}

/** Everything on a grand piano. */
export const onPiano = (): Instrument => instrumentOf('grand-piano');

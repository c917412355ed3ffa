/// <reference lib="webworker" />
import { keysOfFile } from '@fendro/core/files/incoming/imported-song';
import { heardFile, type Correction } from '@fendro/core/listen/heard-file';
import { heardSound, type HeardSound } from '@fendro/core/listen/heard-sound';
import { toListeningWorkerSchema, type FromListeningWorker } from './listening-messages';
import { activationsOf, loadModel } from './model';

/** Listens to recordings away from the page; what it has heard stays here, to be written down in other ways. */

let sound: HeardSound | null = null;
const say = (message: FromListeningWorker): void => {
  postMessage(message);
};

async function part(base: string, name: string): Promise<Response> {
  const response = await fetch(base + name);
  if (!response.ok) throw new Error(`what listens could not be loaded (${name})`);
  return response;
}

async function listen(samples: Float32Array, base: string): Promise<void> {
  const [topology, weights] = await Promise.all([part(base, 'model.json'), part(base, 'weights.bin')]);
  const model = await loadModel(await topology.json(), await weights.arrayBuffer(), base);
  const activations = await activationsOf(model, samples, (share) => {
    say({ kind: 'heard', share });
  });
  sound = heardSound(samples, activations);
}

function write(correction: Correction): void {
  if (!sound) return;
  const { file, first, tempo, metre, even } = heardFile(sound, correction);
  const keys = keysOfFile(file).slice(0, 6);
  say({ kind: 'written', file: file as never, keys, first, tempo, metre: metre as never, even });
}

addEventListener('message', ({ data }: MessageEvent<unknown>) => {
  const message = toListeningWorkerSchema.parse(data);
  const heard = message.kind === 'listen' ? listen(message.samples, message.base) : Promise.resolve();
  heard
    .then(() => {
      write(message.kind === 'write' ? message.correction : {});
    })
    .catch((problem: unknown) => {
      say({ kind: 'refused', reason: problem instanceof Error ? problem.message : String(problem) });
    });
});

import { setWasmPaths } from '@tensorflow/tfjs-backend-wasm';
import { loadGraphModel } from '@tensorflow/tfjs-converter';
import { env, io, ready, setBackend, tensor3d, tidy, type Tensor } from '@tensorflow/tfjs-core';
import { HOP, KEYS, type Activations } from '@fendro/core/listen/frames';

/**
 * A small network that hears which keys sound and which are struck (R. Bittner and others, “A Lightweight
 * Instrument-Agnostic Model for Polyphonic Note Transcription and Multipitch Estimation”, 2022). It hears two seconds at
 * a time, in windows that overlap, since it hears little at their edges.
 */

/** Samples and frames of one window. */
const WINDOW = 43_844;
const FRAMES = 172;
/** So many frames are shared by one window and the next; half of them are left out at each edge. */
const SHARED = 30;
const STEP = (FRAMES - SHARED) * HOP;
const EDGE = SHARED / 2;
/** The model's names for what it says of notes and of their onsets. */
const [NOTES, ONSETS] = ['Identity_1', 'Identity_2'] as const;

export type Model = Awaited<ReturnType<typeof loadGraphModel>>;

/**
 * Gets the model ready.
 *
 * @param topology  its graph, as its file says it
 * @param wasm      the folder that the runtime's WebAssembly lies in, with a slash at its end
 */
export async function loadModel(topology: unknown, weights: ArrayBuffer, wasm: string): Promise<Model> {
  const { modelTopology, weightsManifest } = topology as {
    readonly modelTopology: object;
    readonly weightsManifest: readonly { readonly weights: io.WeightsManifestEntry[] }[];
  };
  // Threads would ask for a page that is cut off from all others.
  env().set('WASM_HAS_MULTITHREAD_SUPPORT', false);
  setWasmPaths(wasm);
  await setBackend('wasm');
  await ready();
  const weightSpecs = weightsManifest.flatMap((group) => group.weights);
  return loadGraphModel(io.fromMemory({ modelTopology, weightSpecs, weightData: weights }));
}

/**
 * Listens to a whole recording.
 *
 * @param samples  one channel at `RATE`
 * @param heard    told the share that has been heard, 0 to 1, window by window
 */
export async function activationsOf(
  model: Model,
  samples: Float32Array,
  heard: (share: number) => void,
): Promise<Activations> {
  const frames = Math.ceil(samples.length / HOP);
  const [notes, onsets] = [new Float32Array(frames * KEYS), new Float32Array(frames * KEYS)];
  for (let first = 0; first < frames; first += FRAMES - SHARED) {
    const from = (first - EDGE) * HOP;
    const window = new Float32Array(WINDOW);
    window.set(samples.subarray(Math.max(0, from), from + WINDOW), Math.max(0, -from));
    const out = tidy(() => model.execute(tensor3d(window, [1, WINDOW, 1]), [NOTES, ONSETS]) as Tensor[]);
    for (const [index, into] of [notes, onsets].entries()) {
      const values = (await out[index]?.data()) as Float32Array;
      const kept = Math.min(FRAMES - SHARED, frames - first);
      into.set(values.subarray(EDGE * KEYS, (EDGE + kept) * KEYS), first * KEYS);
    }
    for (const tensor of out) tensor.dispose();
    heard(Math.min(1, (from + STEP) / Math.max(1, samples.length)));
  }
  heard(1);
  return { frames, notes, onsets };
}

// The only file with this import.meta.url: Jest puts a mock in its place.
export const createDecodeWorker = (): Worker =>
  new Worker(new URL('./decode.worker', import.meta.url), { type: 'module', name: 'decode' });

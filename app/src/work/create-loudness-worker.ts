// The only file with this import.meta.url: Jest puts a mock in its place.
export const createLoudnessWorker = (): Worker =>
  new Worker(new URL('./loudness.worker', import.meta.url), { type: 'module', name: 'loudness' });

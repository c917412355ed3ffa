// The only file with this import.meta.url: Jest puts a mock in its place.
export const createSoundFilesWorker = (): Worker =>
  new Worker(new URL('./sound-files.worker', import.meta.url), { type: 'module', name: 'sound files' });

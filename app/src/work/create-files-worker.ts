// The only file with this import.meta.url: Jest puts a mock in its place.
export const createFilesWorker = (): Worker =>
  new Worker(new URL('./files.worker', import.meta.url), { type: 'module', name: 'files' });

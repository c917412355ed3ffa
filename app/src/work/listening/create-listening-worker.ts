// The only file with this import.meta.url: Jest puts a mock in its place.
export const createListeningWorker = (): Worker =>
  new Worker(new URL('./listening.worker', import.meta.url), { type: 'module', name: 'listening' });

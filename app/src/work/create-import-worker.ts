// The only file with this import.meta.url: Jest puts a mock in its place.
export const createImportWorker = (): Worker =>
  new Worker(new URL('./import.worker', import.meta.url), { type: 'module', name: 'import' });

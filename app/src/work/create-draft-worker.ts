// The only file with this import.meta.url: Jest puts a mock in its place.
export const createDraftWorker = (): Worker =>
  new Worker(new URL('./draft.worker', import.meta.url), { type: 'module', name: 'draft' });

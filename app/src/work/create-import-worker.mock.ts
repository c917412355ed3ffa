export const createImportWorker = (): Worker => {
  throw new Error('no import worker in unit tests');
};

export const importWorkers = {
  create: (): Worker => {
    throw new Error('no import worker in unit tests');
  },
};

export const createImportWorker = (): Worker => importWorkers.create();

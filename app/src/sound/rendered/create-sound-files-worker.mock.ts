export const soundFilesWorkers = {
  create: (): Worker => {
    throw new Error('no sound is written in unit tests');
  },
};

export const createSoundFilesWorker = (): Worker => soundFilesWorkers.create();

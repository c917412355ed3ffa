export const createSoundFilesWorker = (): Worker => {
  throw new Error('no sound is written in unit tests');
};

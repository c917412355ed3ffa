export const createDecodeWorker = (): Worker => {
  throw new Error('no sound in unit tests');
};

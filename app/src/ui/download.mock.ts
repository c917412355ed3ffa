import * as real from './download';

/** A stand-in whose downloads a spec can look at. */
export const downloads = { download: real.download };

export const download: typeof real.download = (...file) => {
  downloads.download(...file);
};
export const downloadAddress = real.downloadAddress;

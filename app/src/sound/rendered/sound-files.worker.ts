/// <reference lib="webworker" />
import { readBank, SongSynth } from '../../../synth/song-synth';
import { writeSound, type NewSynth, type SoundWish } from './sound-files-work';
import type { FromSoundWorker } from './sound-messages';

/** How often it is told how far the work is. */
const TOLD_EVERY_MS = 100;

const tell = (message: FromSoundWorker): void => {
  postMessage(message);
};

/** Makes synthesizers that share some banks. */
function synthsWith(banks: SoundWish['banks']): NewSynth {
  const read = banks.map(({ family, bytes }) => [family, readBank(bytes)] as const);
  return async (rate) => {
    const synth = new SongSynth(rate);
    await synth.initialized;
    for (const [family, bank] of read) synth.useBank(family, bank);
    return synth;
  };
}

/** Renders and writes sound away from the page; whoever gives it up ends the worker. */
addEventListener('message', ({ data: { banks, ...wish } }: MessageEvent<SoundWish>) => {
  let told = 0;
  void (async () => {
    const written = await writeSound(wish, synthsWith(banks), (progress) => {
      if (performance.now() - told < TOLD_EVERY_MS) return;
      told = performance.now();
      tell({ kind: 'progress', ...progress });
    });
    tell({ kind: 'written', ...written, peaks: [...written.peaks] });
  })().catch((problem: unknown) => {
    tell({ kind: 'failed', reason: problem instanceof Error ? problem.message : String(problem) });
  });
});

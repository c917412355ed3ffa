/// <reference lib="webworker" />
import { BasicSoundBank, SoundBankLoader } from 'spessasynth_core';

/**
 * Turns a compressed sound bank into plain samples. On the audio thread this would stop the music for a third of a
 * second.
 */
addEventListener('message', ({ data }: MessageEvent<{ readonly id: string; readonly bytes: ArrayBuffer }>) => {
  void (async () => {
    await BasicSoundBank.isSF3DecoderReady;
    const bank = SoundBankLoader.fromArrayBuffer(data.bytes);
    await bank.setSampleFormat({ format: 'pcm' });
    const bytes = bank.writeSF2();
    postMessage({ id: data.id, bytes }, [bytes]);
  })().catch((problem: unknown) => {
    postMessage({ id: data.id, reason: String(problem) });
  });
});

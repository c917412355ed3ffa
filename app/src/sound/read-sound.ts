import { storing, type Wave } from '@fendro/core/live/wave';
import { LONGEST_GUIDE } from '@fendro/core/song/schema';
import { inSlices } from '../ui/in-slices';

/** Samples a second of what is read from files, and of their sound here. */
const RATE = 48_000;

/**
 * The sound of a file as one channel.
 *
 * @param rate  samples a second
 * @throws Error in words where the browser cannot read it, or it is too long
 */
export async function readMono(bytes: ArrayBuffer, rate: number): Promise<Float32Array> {
  const reader = new OfflineAudioContext(1, 1, rate);
  const decoded = await reader.decodeAudioData(bytes).catch(() => {
    throw new Error('the browser cannot read its sound. WAV, MP3, FLAC and Ogg files can be read.');
  });
  if (decoded.duration > LONGEST_GUIDE) throw new Error(`it is longer than ${LONGEST_GUIDE / 60} minutes.`);
  if (decoded.length === 0) throw new Error('there is no sound in it.');
  // The browser mixes its channels down, and does so beside the page.
  const mixer = new OfflineAudioContext(1, decoded.length, rate);
  const source = new AudioBufferSourceNode(mixer, { buffer: decoded });
  source.connect(mixer.destination);
  source.start();
  return (await mixer.startRendering()).getChannelData(0);
}

/**
 * A sound file as it is stored.
 *
 * @throws Error as above
 */
export const readSound = async (bytes: ArrayBuffer): Promise<Wave> => ({
  rate: RATE,
  samples: await inSlices(storing(await readMono(bytes, RATE))),
});

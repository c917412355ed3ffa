import { openZip } from '@fendro/core/files/outgoing/archive';
import type { Stretch } from '@fendro/core/files/outgoing/deliver';
import type { Music } from '@fendro/core/song/resolve';
import type { PartId } from '@fendro/core/song/schema';
import type { Family } from '@fendro/core/sounding/instruments';
import { writingWav, type WavBits } from '@fendro/core/sounding/wav';
import { heldBack, peakOf, rendering, turnDown, type Stereo } from './rendering';
import { partSound, songSound, type Renderer, type SongSound } from './song-sound';
import type { SoundProgress, WrittenSound } from './sound-messages';

/** A file of sound that is asked for. */
export interface AskedSound {
  readonly name: string;
  /** The part that sounds in it by itself; the whole song where it is null. */
  readonly part: PartId | null;
}

export interface SoundWish {
  readonly music: Music;
  /** The sounds that it needs, as plain samples. */
  readonly banks: readonly { readonly family: Family; readonly bytes: ArrayBuffer }[];
  /** In place of the whole song. */
  readonly stretch?: Stretch | undefined;
  readonly files: readonly AskedSound[];
  /** Frames a second. */
  readonly rate: number;
  readonly bits: WavBits;
}

/** A synthesizer with all sounds, in which nothing has sounded yet. */
export type NewSynth = (rate: number) => Promise<Renderer>;

/** Does all of a work. @param tell  hears how far it is */
function wholly<Step, Result>(work: Generator<Step, Result>, tell: (step: Step) => void): Result {
  for (let step = work.next(); ; step = work.next()) {
    if (step.done) return step.value;
    tell(step.value);
  }
}

/**
 * Writes a song and its parts as sound. The whole song is rendered first: by how much it has to be turned down, its parts
 * are turned down too, and so add up to it.
 */
export async function writeSound(
  { music, stretch, files, rate, bits }: Omit<SoundWish, 'banks'>,
  newSynth: NewSynth,
  tell: (progress: SoundProgress) => void,
): Promise<WrittenSound> {
  const sound = songSound(music, rate, stretch);
  const passes = 1 + files.filter(({ part }) => part !== null).length;
  let over = 0;
  const rendered = async (name: string, asked: SongSound, frames?: number): Promise<Stereo> => {
    const synth = await newSynth(rate);
    const result = wholly(rendering(synth, asked, frames), (done) => {
      tell({ name, done: (over + done) / passes });
    });
    over++;
    return result;
  };
  const whole = await rendered(stretch?.name ?? music.score.title, sound);
  const factors = heldBack(whole, rate);
  const frames = whole[0].length;
  const zip = files.length > 1 ? openZip() : null;
  const peaks: number[] = [];
  let bytes = new Uint8Array(0);
  // The song itself first: then its sound is not needed any more.
  const inOrder = [...files.entries()].sort(([, a], [, b]) => Number(a.part !== null) - Number(b.part !== null));
  for (const [index, { name, part }] of inOrder) {
    const channels = part === null ? whole : await rendered(name, partSound(sound, part), frames);
    turnDown(channels, factors);
    peaks[index] = peakOf(channels);
    // Each with a dither of its own: dither that is alike would add up.
    bytes = wholly(writingWav(channels, rate, bits, 1 + index), () => undefined);
    zip?.add(name, bytes);
  }
  const blob = zip ? new Blob(zip.end(), { type: 'application/zip' }) : new Blob([bytes], { type: 'audio/wav' });
  return { blob, seconds: frames / rate, peaks };
}

import * as fc from 'fast-check';
import { unzipSync } from 'fflate';
import type { Music } from '@fendro/core/song/resolve';
import { CEILING } from '@fendro/core/sounding/limiter';
import type { Stretch } from '@fendro/core/files/outgoing/deliver';
import { songCourse, spanOf, tempoOf } from '@fendro/core/sounding/course';
import { songOf, twists } from '@fendro/core/testing/songs';
import { scoreWith } from '@fendro/core/testing/scores';
import { musicOf } from '@fendro/core/testing/sounding';
import { layOut, songTicks } from '@fendro/core/song/resolve';
import { EVENT } from '../../../worklets/protocol';
import { Beeper } from '../../testing/beeper';
import { heldBack, rendering, turnDown, type Stereo } from './rendering';
import { writeSound, type AskedSound } from './sound-files-work';
import { partSound, songSound, type SongSound } from './song-sound';

/** Slow, so that specs are quick: what is told here holds at any rate. */
const RATE = 3000;

function rendered(sound: SongSound, frames?: number): Stereo {
  const work = rendering(new Beeper(sound.rate), sound, frames);
  for (;;) {
    const step = work.next();
    if (step.done) return step.value;
    expect(step.value).toBeGreaterThanOrEqual(0);
    expect(step.value).toBeLessThanOrEqual(1);
  }
}
const { score, takes } = scoreWith(1, 0);
const music: Music = musicOf(score, takes);
const audible = (of: Music): readonly string[] => of.score.parts.filter(({ muted }) => !muted).map(({ id }) => id);

async function bytesOf(blob: Blob): Promise<Uint8Array> {
  return new Uint8Array(
    await new Promise<ArrayBuffer>((resolve, reject) => {
      const reader = new FileReader();
      reader.onload = () => {
        resolve(reader.result as ArrayBuffer);
      };
      reader.onerror = () => {
        reject(new Error('not read'));
      };
      reader.readAsArrayBuffer(blob);
    }),
  );
}
const samplesOf = (wav: Uint8Array): Int16Array => new Int16Array(wav.slice(44).buffer);
const write = (files: readonly AskedSound[], told: string[] = []): ReturnType<typeof writeSound> =>
  writeSound(
    { music, files, rate: RATE, bits: 16 },
    (rate) => Promise.resolve(new Beeper(rate)),
    ({ name, done }) => told.push(`${name} ${done.toFixed(2)}`),
  );

describe('a song as sound', () => {
  it('is the sum of its parts, below full, as long as the song and what rings on', () => {
    fc.assert(
      fc.property(twists, (twist) => {
        const of = songOf(twist);
        const sound = songSound(of, RATE);
        const whole = rendered(sound);
        const frames = whole[0].length;
        const { score: ground } = of;
        const seconds = tempoOf(songCourse(ground), ground).secondsAt(songTicks(ground));
        expect(frames).toBeGreaterThanOrEqual(Math.floor(seconds * RATE));
        const factors = heldBack(whole, RATE);
        const parts = audible(of).map((part) => rendered(partSound(sound, part), frames));
        for (const channels of [whole, ...parts]) turnDown(channels, factors);
        for (const side of [0, 1] as const) {
          // A look for each of millions of samples would take most of a minute.
          let [off, peak] = [0, 0];
          for (let at = 0; at < frames; at += 7) {
            const sum = parts.reduce((total, channels) => total + channels[side][at]!, 0);
            off = Math.max(off, Math.abs(sum - whole[side][at]!));
            peak = Math.max(peak, Math.abs(whole[side][at]!));
          }
          expect(off).toBeLessThan(1e-4);
          expect(peak).toBeLessThanOrEqual(CEILING + 1e-6);
        }
      }),
      { numRuns: 12 },
    );
  });

  it('is a stretch of it, so often round as is asked for: what the song holds there, from its beginning on', () => {
    const place = layOut(score)[1]!;
    const span = spanOf(score, place, { from: 1, to: 3 });
    const stretch = (times: number): Stretch => ({ span, rounds: times, name: 'Two bars' });
    const tempo = tempoOf(songCourse(score), score);
    const seconds = tempo.secondsAt(span.to) - tempo.secondsAt(span.from);
    for (const times of [1, 3]) {
      const { begin, end } = songSound(music, RATE, stretch(times));
      expect(Math.abs((end - begin) / RATE - times * seconds)).toBeLessThan(0.1);
    }
    // Notes that begin well inside lie where they lie in the song, told from the bar line before them.
    const starts = ({ events, begin, end }: SongSound, from: number): number[] =>
      events
        .filter(({ kind }) => kind === EVENT.noteOn)
        .map(({ frame }) => (frame - begin) / RATE - from)
        .filter((at) => at > 0.2 && at < Math.min((end - begin) / RATE, seconds) - 0.2);
    const [own, all] = [
      starts(songSound(music, RATE, stretch(1)), 0),
      starts(songSound(music, RATE), tempo.secondsAt(span.from)),
    ];
    expect(own.length).toBeGreaterThan(5);
    expect(own.length).toBe(all.length);
    own.forEach((at, index) => {
      expect(Math.abs(at - all[index]!)).toBeLessThan(0.002);
    });
    const whole = rendered(songSound(music, RATE, stretch(2)));
    expect(whole[0].some((sample) => Math.abs(sample) > 0.01)).toBe(true);
  });

  it('sets up every voice as its mix says, and none that is muted', () => {
    const quiet = { ...score, parts: score.parts.map((part, index) => ({ ...part, muted: index === 0 })), master: 50 };
    const sound = songSound(musicOf(quiet, takes), RATE);
    expect(sound.master).toBe(0.25);
    expect(sound.voices.map(({ line }) => line)).not.toContain(score.parts[0]!.id);
    const silent = sound.strips.get(score.parts[0]!.id);
    expect(sound.events.some(({ channel }) => channel === silent)).toBe(false);
    const synth = new Beeper(RATE);
    rendering(synth, sound).next();
    for (const { id, level, pan, instrument } of sound.voices) {
      const strip = sound.strips.get(id)!;
      expect(synth.settings.get(`${strip} 7`)).toBe(level);
      expect(synth.settings.get(`${strip} 10`)).toBe(pan);
      expect(synth.settings.get(`${strip} program`)).toBe(instrument.program);
    }
  });

  it('goes out as one WAV file, or as several in a zip that add up to within their dither', async () => {
    const told: string[] = [];
    const alone = await write([{ name: 'Rain.wav', part: null }], told);
    expect(alone.blob.type).toBe('audio/wav');
    const song = samplesOf(await bytesOf(alone.blob));
    expect(song.length / 2 / RATE).toBeCloseTo(alone.seconds, 3);
    expect(told.length).toBeGreaterThan(0);

    const asked = score.parts.map(({ id }, index) => ({ name: `${index}.wav`, part: id }));
    const several = await write([...asked, { name: 'Rain.wav', part: null }]);
    expect(several.seconds).toBe(alone.seconds);
    const files = unzipSync(await bytesOf(several.blob));
    expect(Object.keys(files).sort()).toEqual([...asked.map(({ name }) => name), 'Rain.wav'].sort());
    const parts = asked.map(({ name }) => samplesOf(files[name]!));
    const whole = samplesOf(files['Rain.wav']!);
    const off = whole.reduce((most, sample, at) => {
      const sum = parts.reduce((total, part) => total + part[at]!, 0);
      return Math.max(most, Math.abs(sum - sample));
    }, 0);
    expect(off).toBeLessThanOrEqual(2 * (parts.length + 1));
    asked.forEach((_, index) => {
      const most = parts[index]!.reduce((peak, sample) => Math.max(peak, Math.abs(sample)), 0);
      expect(Math.abs(most / 32_767 - several.peaks[index]!)).toBeLessThan(1e-4);
    });
  });
});

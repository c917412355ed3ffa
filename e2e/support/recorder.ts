import type { Page } from '@playwright/test';

interface Recorded {
  fendroFrames?: [frame: number, left: Float32Array, right: Float32Array][];
  fendroRate?: number;
  fendroContext?: AudioContext;
  /** Wall time less the time of what leaves the speakers, in ms, again and again. */
  fendroOffsets?: number[];
}

/** Where the recording worklet is served from, so that it comes from the page's own origin as its policy demands. */
export const RECORDER_ADDRESS = '/recorder-for-tests.js';

/** The header of a request that wants sounds decoded, “whole” or “short” (plain-sounds.ts). */
export const PLAIN_SOUNDS = 'x-plain-sounds';

/** Blocks that are handed over together: a message for each would keep the page busy with nothing else. */
const TOGETHER = 16;

/** Hands all blocks that pass to the page, each with its absolute frame. */
export const RECORDER_SCRIPT = `registerProcessor('recorder', class extends AudioWorkletProcessor {
  blocks = [];
  process([input]) {
    if (input[0]) this.blocks.push([currentFrame, input[0].slice(), (input[1] ?? input[0]).slice()]);
    if (this.blocks.length === ${TOGETHER} || !input[0]) {
      if (this.blocks.length > 0) this.port.postMessage(this.blocks);
      this.blocks = [];
    }
    return true;
  }
});`;

/** Runs in the page before Fendro: listens in on whatever is connected to the speakers. */
export function recordSound(address: string): void {
  const page = globalThis as unknown as Recorded & { AudioNode?: typeof AudioNode };
  if (!page.AudioNode) return;
  page.fendroFrames = [];
  // eslint-disable-next-line @typescript-eslint/unbound-method -- called with the node it is taken from
  const connect = AudioNode.prototype.connect as (this: AudioNode, target: AudioNode) => AudioNode;
  AudioNode.prototype.connect = function (this: AudioNode, target: AudioNode) {
    if (target instanceof AudioDestinationNode) {
      const context = this.context as AudioContext;
      page.fendroRate = context.sampleRate;
      page.fendroContext = context;
      void context.audioWorklet.addModule(address).then(() => {
        const tap = new AudioWorkletNode(context, 'recorder', { numberOfOutputs: 0 });
        tap.port.onmessage = ({ data }: MessageEvent<[number, Float32Array, Float32Array][]>) =>
          page.fendroFrames?.push(...data);
        connect.call(this, tap);
      });
    }
    return connect.call(this, target);
  } as typeof connect as never;
}

/** Root mean square of the last seconds, 0–1. */
export const loudness = (page: Page, seconds: number): Promise<number> =>
  page.evaluate((length) => {
    const { fendroFrames = [], fendroRate = 48_000 } = globalThis as unknown as Recorded;
    const blocks = fendroFrames.slice(-Math.ceil((length * fendroRate) / 128));
    const squares = blocks.reduce((sum, [, left]) => sum + left.reduce((total, value) => total + value * value, 0), 0);
    return Math.sqrt(squares / Math.max(1, blocks.length * 128));
  }, seconds);

/** Seconds of sound that were listened to since the start, or since it was forgotten. */
export const secondsHeard = (page: Page): Promise<number> =>
  page.evaluate(() => {
    const { fendroFrames = [], fendroRate = 48_000 } = globalThis as unknown as Recorded;
    return (fendroFrames.length * 128) / fendroRate;
  });

/** Samples a second of what was recorded. */
export const recordedRate = (page: Page): Promise<number> =>
  page.evaluate(() => (globalThis as unknown as Recorded).fendroRate ?? 48_000);

/**
 * All that was recorded of the left side, without gaps. It comes as one text: a list of so many numbers takes half a
 * minute on its way.
 */
export async function recordedFrom(page: Page): Promise<Float32Array> {
  const text = await page.evaluate(async () => {
    const { fendroFrames = [] } = globalThis as unknown as Recorded;
    const url = await new Promise<string>((resolve, reject) => {
      const reader = new FileReader();
      reader.onload = () => {
        resolve(reader.result as string);
      };
      reader.onerror = () => {
        reject(new Error('not read'));
      };
      reader.readAsDataURL(new Blob(fendroFrames.map(([, left]) => left as Float32Array<ArrayBuffer>)));
    });
    return url.slice(url.indexOf(',') + 1);
  });
  const bytes = Buffer.from(text, 'base64');
  return new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength));
}

/** Begins to look when what leaves the speakers does so. */
export const watchSound = (page: Page): Promise<void> =>
  page.evaluate(() => {
    const recorded = globalThis as unknown as Recorded;
    const offsets: number[] = (recorded.fendroOffsets = []);
    setInterval(() => {
      const { contextTime = 0, performanceTime = 0 } = recorded.fendroContext?.getOutputTimestamp() ?? {};
      if (contextTime > 0) offsets.push(performanceTime - 1000 * contextTime);
    }, 20);
  });

/** By how many ms sound came later at most than at the beginning of what was looked at, by the middle of ten looks. */
export const soundCameLater = (page: Page): Promise<number> =>
  page.evaluate(() => {
    const { fendroOffsets = [] } = globalThis as unknown as Recorded;
    const middle = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1] ?? 0;
    const middles = fendroOffsets.slice(9).map((_, at) => middle(fendroOffsets.slice(at, at + 10)));
    return Math.max(0, ...middles.map((offset) => Math.abs(offset - (middles[0] ?? 0))));
  });

/** Greatest sample of the last seconds. */
export const peak = (page: Page, seconds: number): Promise<number> =>
  page.evaluate((length) => {
    const { fendroFrames = [], fendroRate = 48_000 } = globalThis as unknown as Recorded;
    return fendroFrames
      .slice(-Math.ceil((length * fendroRate) / 128))
      .reduce((most, [, left, right]) => Math.max(most, ...left.map(Math.abs), ...right.map(Math.abs)), 0);
  }, seconds);

/** Onsets in seconds: where the short-time level of the left channel rises steeply after a quiet moment. */
export const onsets = (page: Page): Promise<number[]> =>
  page.evaluate(() => {
    const { fendroFrames = [], fendroRate = 48_000 } = globalThis as unknown as Recorded;
    const WINDOW = 64;
    const found: number[] = [];
    let before = 0;
    let last = -1;
    for (const [frame, left] of fendroFrames) {
      for (let at = 0; at < left.length; at += WINDOW) {
        let level = 0;
        for (let index = at; index < at + WINDOW; index++) level = Math.max(level, Math.abs(left[index] ?? 0));
        const time = (frame + at) / fendroRate;
        if (level > 0.02 && level > 4 * before && time - last > 0.12) {
          found.push(time);
          last = time;
        }
        before = Math.max(level, before * 0.93);
      }
    }
    return found;
  });

export const forgetSound = (page: Page): Promise<void> =>
  page.evaluate(() => {
    (globalThis as unknown as Recorded).fendroFrames = [];
  });

/**
 * How long strokes take from the key to the first sample that is heard of them, in seconds: as often as asked, each
 * after a silence.
 *
 * @param codes  keys that go down together
 */
export const strokeDelays = (page: Page, codes: readonly string[], count: number): Promise<number[]> =>
  page.evaluate(
    async ([keys, times]) => {
      const recorded = globalThis as unknown as Recorded;
      const { fendroRate = 48_000, fendroContext } = recorded;
      const press = (kind: string, code: string): void => {
        document.body.dispatchEvent(new KeyboardEvent(kind, { code, key: code, bubbles: true, cancelable: true }));
      };
      const soundsFrom = (from: number): number | null => {
        for (const [frame, left] of recorded.fendroFrames ?? []) {
          const at = left.findIndex((value, index) => (frame + index) / fendroRate >= from && Math.abs(value) > 0.002);
          if (at >= 0) return (frame + at) / fendroRate - from;
        }
        return null;
      };
      const rest = (ms: number): Promise<void> => new Promise((done) => setTimeout(done, ms));
      const delays: number[] = [];
      while (delays.length < times) {
        recorded.fendroFrames = [];
        const pressed = fendroContext?.currentTime ?? 0;
        for (const code of keys) press('keydown', code);
        let delay: number | null = null;
        while (delay === null) {
          await rest(50);
          delay = soundsFrom(pressed);
        }
        delays.push(delay);
        for (const code of keys) press('keyup', code);
        const quiet = (): boolean =>
          (recorded.fendroFrames ?? []).slice(-40).every(([, left]) => left.every((value) => Math.abs(value) < 0.0005));
        do await rest(100);
        while (!quiet());
      }
      return delays;
    },
    [codes, count] as const,
  );

/** Hands on what comes in, block by block, each with the frame on which it came. */

/** Blocks that are handed over together: a message for each would keep the page busy with nothing else. */
const TOGETHER = 32;
const BLOCK = 128;

class Recorder extends AudioWorkletProcessor {
  private kept = new Float32Array(TOGETHER * BLOCK);
  private filled = 0;
  private from = 0;

  process(inputs: Float32Array[][]): boolean {
    const [channels = []] = inputs;
    const [first] = channels;
    if (this.filled === 0) this.from = currentFrame;
    if (first)
      for (let at = 0; at < first.length; at++)
        this.kept[this.filled + at] = channels.reduce((sum, channel) => sum + (channel[at] ?? 0), 0) / channels.length;
    else this.kept.fill(0, this.filled, this.filled + BLOCK);
    this.filled += first?.length ?? BLOCK;
    if (this.filled >= this.kept.length) {
      this.port.postMessage({ frame: this.from, samples: this.kept }, [this.kept.buffer]);
      this.kept = new Float32Array(TOGETHER * BLOCK);
      this.filled = 0;
    }
    return true;
  }
}

registerProcessor('fendro-recorder', Recorder);

import { SongSynth } from '../synth/song-synth';
import type { FromProcessor, ToProcessor } from './protocol';

const REPORT_EVERY_FRAMES = 2048;

/**
 * The song's synthesizer on the audio thread. Nothing here depends on how busy the page is: what is queued will sound in
 * time.
 */
class SongProcessor extends AudioWorkletProcessor {
  private readonly synth = new SongSynth(sampleRate);
  private reported = 0;
  private ready = false;
  private alive = true;

  constructor() {
    super();
    this.port.onmessage = ({ data }: MessageEvent<ToProcessor>) => {
      this.receive(data);
    };
    this.synth.initialized.then(
      () => {
        this.ready = true;
        this.send({ kind: 'ready' });
      },
      (problem: unknown) => {
        this.send({ kind: 'failed', reason: String(problem) });
      },
    );
  }

  private send(message: FromProcessor): void {
    this.port.postMessage(message);
  }

  private receive(message: ToProcessor): void {
    const { synth } = this;
    switch (message.kind) {
      case 'bank':
        this.addBank(message.id, message.bytes);
        break;
      case 'drop bank':
        synth.dropBank(message.id);
        break;
      case 'block':
        synth.queue(message.events);
        break;
      case 'switch':
        synth.cut(message.channel, message.frame);
        synth.queue(message.events);
        break;
      case 'cancel':
        synth.cut(message.channel, 0, message.pitch);
        break;
      case 'now':
        synth.applyNow(message.events);
        break;
      case 'strips':
        synth.grow(message.count);
        break;
      case 'grip':
        synth.grip(message.channel, message.controller, message.on);
        break;
      case 'gain':
        synth.setGain(message.channel, message.gain);
        break;
      case 'master':
        synth.setMaster(message.gain);
        break;
      case 'drums':
        synth.setDrums(message.channel, message.on);
        break;
      case 'stop':
        synth.stop();
        break;
      case 'close':
        this.alive = false;
        break;
    }
  }

  private addBank(id: string, bytes: ArrayBuffer): void {
    try {
      this.synth.addBank(id, bytes);
      this.send({ kind: 'bank added', id });
    } catch (problem) {
      this.send({ kind: 'bank refused', id, reason: String(problem) });
    }
  }

  process(_inputs: Float32Array[][], outputs: Float32Array[][]): boolean {
    const left = outputs[0]?.[0];
    const right = outputs[0]?.[1];
    if (!this.ready || !left || !right) return this.alive;
    this.synth.render(left, right, currentFrame);
    this.report(currentFrame + left.length);
    return this.alive;
  }

  private report(frame: number): void {
    if (frame - this.reported < REPORT_EVERY_FRAMES) return;
    this.reported = frame;
    const { peaks, late } = this.synth;
    this.send({ kind: 'levels', peaks, reduction: this.synth.takeReduction(), late });
    peaks.fill(0);
  }
}

registerProcessor('fendro-song', SongProcessor);

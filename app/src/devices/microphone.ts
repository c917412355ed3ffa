import { inWords } from '../ui/in-words';

/** A microphone that is open: what it hears, as a node of the sound's own graph. */
export interface OpenMicrophone {
  readonly node: AudioNode;
  /** How long sound takes from the air to there, in seconds. */
  readonly latency: number;
  /** A simulated one hears nothing: it is cued instead. @param when  a moment that is heard, in seconds of the context */
  cue?(when: number): void;
  close(): void;
}

export interface Microphone {
  readonly id: string;
  readonly name: string;
  readonly simulated: boolean;
  /** @throws Error in words where it cannot be heard */
  open(context: AudioContext): Promise<OpenMicrophone>;
}

/** What voices need and recordings do not is off: it would turn music up and down. */
const AS_IT_IS = { echoCancellation: false, noiseSuppression: false, autoGainControl: false } as const;

const REFUSED: Readonly<Record<string, string>> = {
  NotAllowedError: 'the browser does not let this page listen: allow the microphone for this page in its settings',
  NotFoundError: 'there is none: connect one, then try again',
  NotReadableError: 'another program has it, or the system does not let it be heard',
};

/** The microphone that the writer lets the browser have. */
const REAL_MICROPHONE: Microphone = {
  id: 'microphone',
  name: 'Microphone',
  simulated: false,
  async open(context) {
    const devices = (navigator as { readonly mediaDevices?: MediaDevices }).mediaDevices;
    if (!devices) throw new Error('this browser gives no page a microphone over this connection');
    const stream = await devices.getUserMedia({ audio: AS_IT_IS }).catch((problem: unknown) => {
      const name = problem instanceof Error ? problem.name : '';
      throw new Error(REFUSED[name] ?? inWords(problem));
    });
    const [track] = stream.getAudioTracks();
    const settings = track?.getSettings() as { readonly latency?: number } | undefined;
    const node = context.createMediaStreamSource(stream);
    return {
      node,
      latency: settings?.latency ?? context.baseLatency,
      close: () => {
        node.disconnect();
        for (const each of stream.getTracks()) each.stop();
      },
    };
  },
};

/** How long a simulated voice takes to arrive, in seconds. */
const SIMULATED_LATENCY = 0.012;
/** A hummed note: its pitch in Hz, its partials, and how long it lasts, in seconds. */
const HUM = { pitch: 220, partials: [1, 0.5, 0.3, 0.12], lasts: 0.3, begins: 0.004 } as const;

function hum(context: AudioContext): AudioBuffer {
  const rate = context.sampleRate;
  const buffer = context.createBuffer(1, Math.round(HUM.lasts * rate), rate);
  const samples = Float32Array.from({ length: buffer.length }, (_, at) => {
    const time = at / rate;
    const shape = Math.min(1, time / HUM.begins) * (1 - time / HUM.lasts) ** 2;
    const wave = HUM.partials.reduce(
      (sum, share, index) => sum + share * Math.sin(2 * Math.PI * HUM.pitch * (index + 1) * time),
      0,
    );
    return 0.3 * shape * wave;
  });
  buffer.copyToChannel(samples, 0);
  return buffer;
}

/** A singer who hums a note on every beat that she hears; never shown as a real microphone. */
const SIMULATED_MICROPHONE: Microphone = {
  id: 'simulated microphone',
  name: 'Simulated microphone',
  simulated: true,
  open(context) {
    const node = context.createGain();
    const sound = hum(context);
    return Promise.resolve({
      node,
      latency: SIMULATED_LATENCY,
      cue: (when) => {
        const source = new AudioBufferSourceNode(context, { buffer: sound });
        source.connect(node);
        source.start(when + SIMULATED_LATENCY);
      },
      close: () => {
        node.disconnect();
      },
    });
  },
};

export const MICROPHONES: readonly Microphone[] = [REAL_MICROPHONE, SIMULATED_MICROPHONE];

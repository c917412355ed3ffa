import { computed, effect, inject, Injectable, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import { guidesOf, guideStart } from '@fendro/core/song/guides';
import { playing, type Wave } from '@fendro/core/live/wave';
import { limiterDelay } from '@fendro/core/sounding/limiter';
import { inSlices } from '../ui/in-slices';
import { SoundStorage } from '../storage/sound-storage';
import { selectOwnScore, selectPlaced } from '../store/selectors';
import { SoundEngine } from './engine';
import { guideSegments, type GuideSegment, type LaidGuide } from './guide-segments';
import { Playback } from './playback';

const LOOK_EVERY_MS = 100;
/** A stretch that begins within this is begun; later ones may still change. */
const SOON_SECONDS = 0.5;
/** What begins and ends inside of a recording is faded over this, so that it does not click. */
const FADE_SECONDS = 0.005;
/** A stretch that is found again a hair elsewhere is the same, in seconds. */
const SAME = 0.01;

interface Sounding {
  readonly segment: GuideSegment;
  readonly source: AudioBufferSourceNode;
  /** Fades in and out; then comes the level. */
  readonly edge: GainNode;
  readonly gain: GainNode;
}

const levelOf = (level: number): number => (level / 100) ** 2;

/** Sounds the song's guides beside the music, each at its place. */
@Injectable({ providedIn: 'root' })
export class GuidePlayer {
  private readonly store = inject(Store);
  private readonly engine = inject(SoundEngine);
  private readonly playback = inject(Playback);
  private readonly storage = inject(SoundStorage);
  private readonly score = this.store.selectSignal(selectOwnScore);
  private readonly placed = this.store.selectSignal(selectPlaced);
  private readonly laid = computed((): readonly LaidGuide[] => {
    const score = this.score();
    if (!score || this.playback.guest()) return [];
    return guidesOf(score).flatMap((guide) => {
      const start = guideStart(guide, this.placed());
      return start === null ? [] : [{ guide, start }];
    });
  });
  private readonly waves = new Map<string, Promise<Wave | null>>();
  private readonly buffers = new Map<string, AudioBuffer>();
  private sounding: readonly Sounding[] = [];
  private out: GainNode | null = null;

  constructor() {
    const needed = computed(() => this.playback.playing() && this.laid().length > 0);
    effect((ends) => {
      if (!needed()) return;
      const timer = setInterval(() => {
        this.look();
      }, LOOK_EVERY_MS);
      untracked(() => {
        this.look();
      });
      ends(() => {
        clearInterval(timer);
        this.end(this.sounding);
        this.sounding = [];
      });
    });
    // What is changed is heard at once.
    effect(() => {
      this.laid();
      untracked(() => {
        for (const { guide } of this.laid()) void this.prepare(guide.sound);
        if (this.playback.playing()) this.look();
      });
    });
  }

  /** A recorded sound; null where this browser does not have it. */
  wave(sound: string): Promise<Wave | null> {
    const known = this.waves.get(sound);
    if (known) return known;
    const asked = this.storage.get(sound).catch(() => null);
    this.waves.set(sound, asked);
    // It may come yet: with a song file, or when storage answers again.
    void asked.then((wave) => {
      if (!wave && this.waves.get(sound) === asked) this.waves.delete(sound);
    });
    return asked;
  }

  /** Has a sound that was just recorded at hand, whether it could be stored or not. */
  keep(sound: string, wave: Wave): void {
    this.waves.set(sound, Promise.resolve(wave));
  }

  private async prepare(sound: string): Promise<void> {
    const { audio } = this.engine;
    if (!audio || this.buffers.has(sound)) return;
    const wave = await this.wave(sound);
    if (!wave || wave.samples.length === 0 || this.buffers.has(sound)) return;
    const buffer = audio.createBuffer(1, wave.samples.length, wave.rate);
    buffer.copyToChannel(await inSlices(playing(wave.samples)), 0);
    this.buffers.set(sound, buffer);
  }

  /** Begins what begins soon, ends what is no longer to be heard, and lets what goes on longer than was known go on. */
  private look(): void {
    const rate = this.engine.sampleRate;
    const now = this.engine.frame;
    const wanted = guideSegments(this.playback.queued, this.laid(), rate);
    const going = this.sounding.filter(({ segment }) => segment.to > now);
    const found = going.map((one) => [one, wanted.find((other) => same(other, one.segment, rate))] as const);
    this.end(found.flatMap(([one, segment]) => (segment ? [] : [one])));
    this.sounding = found.flatMap(([one, segment]) => (segment ? [this.goOn(one, segment)] : []));
    const until = now + SOON_SECONDS * rate;
    for (const segment of wanted) {
      const known = this.sounding.some((one) => same(segment, one.segment, rate));
      if (!known && segment.from < until && segment.to > now) this.begin(segment);
    }
  }

  /** All guides leave by one way. */
  private outOf(audio: AudioContext): AudioNode {
    if (this.out?.context !== audio) {
      this.out = new GainNode(audio);
      this.out.connect(audio.destination);
    }
    return this.out;
  }

  private goOn(one: Sounding, segment: GuideSegment): Sounding {
    one.gain.gain.value = levelOf(segment.guide.level);
    if (segment.to !== one.segment.to) this.endAt(one, segment.to);
    return { ...one, segment };
  }

  /** When a frame of the music is heard, in seconds of the sound's clock: it goes through the limiter before. */
  private when(frame: number): number {
    return (frame + limiterDelay(this.engine.sampleRate)) / this.engine.sampleRate;
  }

  private endAt({ source, edge }: Pick<Sounding, 'source' | 'edge'>, frame: number): void {
    const ends = this.when(frame);
    const fades = Math.max(this.engine.audio?.currentTime ?? 0, ends - FADE_SECONDS);
    edge.gain.cancelScheduledValues(fades - FADE_SECONDS);
    edge.gain.setValueAtTime(1, fades);
    edge.gain.linearRampToValueAtTime(0, Math.max(fades + FADE_SECONDS, ends));
    source.stop(ends + 2 * FADE_SECONDS);
  }

  private begin(segment: GuideSegment): void {
    const { audio } = this.engine;
    const buffer = this.buffers.get(segment.guide.sound);
    if (!audio || !buffer) {
      void this.prepare(segment.guide.sound);
      return;
    }
    const begins = this.when(segment.from);
    const late = Math.max(0, audio.currentTime - begins);
    const source = new AudioBufferSourceNode(audio, { buffer });
    const [gain, edge] = [
      new GainNode(audio, { gain: levelOf(segment.guide.level) }),
      new GainNode(audio, { gain: 0 }),
    ];
    source.connect(edge).connect(gain).connect(this.outOf(audio));
    edge.gain.setValueAtTime(0, begins + late);
    edge.gain.linearRampToValueAtTime(1, begins + late + FADE_SECONDS);
    source.start(begins + late, segment.offset + late);
    this.endAt({ source, edge }, segment.to);
    this.sounding = [...this.sounding, { segment, source, edge, gain }];
  }

  private end(those: readonly Sounding[]): void {
    for (const { source, gain } of those) {
      source.stop();
      gain.disconnect();
    }
  }
}

/** Whether two stretches are one recording that began at one moment, wherever it ends by now. */
const same = (a: GuideSegment, b: GuideSegment, rate: number): boolean =>
  a.guide.id === b.guide.id &&
  a.guide.sound === b.guide.sound &&
  Math.abs(a.from - a.offset * rate - (b.from - b.offset * rate)) < SAME * rate;

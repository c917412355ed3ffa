import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import { joined, toStored } from '@fendro/core/live/wave';
import { placeOfTick } from '@fendro/core/song/guides';
import { LONGEST_GUIDE } from '@fendro/core/song/schema';
import { TICKS_PER_QUARTER } from '@fendro/core/theory/units';
import { MICROPHONES, type Microphone, type OpenMicrophone } from '../../devices/microphone';
import { SoundEngine } from '../../sound/engine';
import { guideClips } from '../../sound/guide-clips';
import { Playback } from '../../sound/playback';
import { endFrame, frameAt, type Pass } from '../../sound/schedule';
import { SoundStorage } from '../../storage/sound-storage';
import { News } from '../../store/news';
import { Notices } from '../../store/notices';
import { selectOwnScore, selectPlaced, selectSection } from '../../store/selectors';
import { SessionActions, sessionFeature } from '../../store/session';
import type { Choice } from '../../ui/fields/choice-field';
import { inWords } from '../../ui/in-words';
import { pageMemory } from '../../ui/page-memory';
import { RecordingSettings } from '../playing/record-settings';
import { GuideDesk, type NewGuide } from './guide-desk';

const LOOK_EVERY_MS = 100;
/** What comes in is handed over in pieces of this length: the last one is waited for. */
const LAST_PIECE_MS = 120;
/** A round of which less was recorded was begun by mistake, in seconds. */
const LEAST_SECONDS = 0.5;
/** Bytes of a second of stored sound. */
const BYTES_A_SECOND = 2 * 48_000;
/** With less room than this nothing is recorded; with less than the other, the writer is told how much there is. */
const LEAST_ROOM = 20 * BYTES_A_SECOND;
const PLENTY = 600 * BYTES_A_SECOND;

const KEPT_UNDER = 'fendro microphone';

/** The microphone of an id; the writer's own where there is none such. */
const microphoneOf = (id: string | null): Microphone =>
  MICROPHONES.find((microphone) => microphone.id === id) ?? (MICROPHONES[0] as Microphone);

interface Block {
  readonly frame: number;
  readonly samples: Int16Array;
}

/** One recording, from when the microphone was opened. */
interface Run {
  readonly microphone: OpenMicrophone;
  readonly node: AudioWorkletNode;
  readonly blocks: Block[];
  /** All that was queued meanwhile, by its first frame. */
  readonly passes: Map<number, Pass>;
  /** The frame from which on it counts: where the music was when it was begun. */
  readonly from: number;
  /** Seconds that there is room for. */
  readonly most: number;
  readonly clicked: boolean;
  /** Beats up to this frame were given to a simulated singer. */
  cued: number;
}

/** Records what a microphone hears while the music plays, as guides under the song: a round of a loop, a guide. */
@Injectable({ providedIn: 'root' })
export class GuideRecorder {
  private readonly store = inject(Store);
  private readonly engine = inject(SoundEngine);
  private readonly playback = inject(Playback);
  private readonly storage = inject(SoundStorage);
  private readonly desk = inject(GuideDesk);
  private readonly settings = inject(RecordingSettings);
  private readonly news = inject(News);
  private readonly notices = inject(Notices);
  private readonly placed = this.store.selectSignal(selectPlaced);
  private readonly score = this.store.selectSignal(selectOwnScore);
  private readonly section = this.store.selectSignal(selectSection);
  private readonly metronome = this.store.selectSignal(sessionFeature.selectMetronome);
  /** The microphones that there are, by name. */
  readonly choices: readonly Choice<string>[] = MICROPHONES.map(({ id, name }) => ({ value: id, text: name }));
  readonly microphone = signal<Microphone>(microphoneOf(pageMemory.get(KEPT_UNDER)));
  private readonly run = signal<Run | null>(null);
  private readonly opening = signal(false);
  readonly state = computed(() => (this.run() ? 'recording' : this.opening() ? 'opening' : 'ready'));

  constructor() {
    // Where the music stops, the recording is over.
    const goes = computed(() => this.playback.playing() || this.playback.waiting());
    effect(() => {
      const over = !goes();
      untracked(() => {
        if (this.run() && over) void this.end();
      });
    });
    effect((ends) => {
      // Who begins anew is looked at at once: the first beat is soon.
      this.playback.beginnings();
      if (!this.run()) return;
      untracked(() => {
        this.look();
      });
      const timer = setInterval(() => {
        this.look();
      }, LOOK_EVERY_MS);
      ends(() => {
        clearInterval(timer);
      });
    });
  }

  /** Listens with another microphone from the next recording on. */
  choose(id: string): void {
    this.microphone.set(microphoneOf(id));
    pageMemory.set(KEPT_UNDER, id);
  }

  async toggle(): Promise<void> {
    if (this.run()) await this.end();
    else if (!this.opening()) await this.begin();
  }

  private async begin(): Promise<void> {
    if (!this.section() || this.desk.toldFull()) return;
    const room = await this.roomTold();
    if (room === null) return;
    this.opening.set(true);
    try {
      await this.listen(room);
    } catch (problem) {
      this.notices.say(`The ${this.microphone().name.toLowerCase()} cannot be heard: ${inWords(problem)}.`);
    } finally {
      this.opening.set(false);
    }
  }

  /** Seconds that there is room for; told where that is little, null where it is too little. */
  private async roomTold(): Promise<number | null> {
    const room = (await this.storage.room()) ?? PLENTY;
    const seconds = Math.floor(room / BYTES_A_SECOND);
    if (room < LEAST_ROOM) {
      this.notices.sayUntilRead(
        'The browser’s storage is full: nothing was recorded. Take recordings out, or make room on this machine.',
      );
      return null;
    }
    if (room < PLENTY) this.notices.say(`The browser’s storage has room for ${Math.floor(seconds / 60)} more minutes.`);
    return Math.min(LONGEST_GUIDE, seconds);
  }

  private async listen(most: number): Promise<void> {
    if (!(await this.engine.start())) return;
    const { audio } = this.engine;
    if (!audio) return;
    await audio.audioWorklet.addModule('worklets/recorder.js');
    const microphone = await this.microphone().open(audio);
    const node = new AudioWorkletNode(audio, 'fendro-recorder', { numberOfOutputs: 0 });
    const blocks: Block[] = [];
    node.port.onmessage = ({ data }: MessageEvent<{ frame: number; samples: Float32Array }>) => {
      blocks.push({ frame: data.frame, samples: toStored(data.samples) });
    };
    microphone.node.connect(node);
    const { countIn, clicks } = this.settings.now();
    const clicked = clicks && !this.metronome();
    if (clicked) this.store.dispatch(SessionActions.metronomeToggled());
    const playing = this.playback.playing();
    const from = playing ? this.engine.frame : 0;
    this.run.set({ microphone, node, blocks, passes: new Map(), from, most, clicked, cued: from });
    if (!playing) void this.playback.play(undefined, countIn);
    this.news.say(playing || countIn === 0 ? 'Recording a guide' : 'Counting in');
  }

  /** Remembers what is queued, cues who hears nothing, and ends what has no more room. */
  private look(): void {
    const run = this.run();
    if (!run) return;
    for (const pass of this.playback.queued) run.passes.set(pass.frame, pass);
    this.cue(run);
    const [first] = run.blocks;
    if (first && this.engine.frame - first.frame > run.most * this.engine.sampleRate) {
      this.notices.say('The recording ended: there is no room for more.');
      void this.end();
    }
  }

  /** A simulated singer hears every beat as it leaves the speakers. */
  private cue(run: Run): void {
    if (!run.microphone.cue) return;
    const rate = this.engine.sampleRate;
    const until = this.engine.frame + (3 * LOOK_EVERY_MS * rate) / 1000;
    for (const pass of this.playback.queued) {
      if (pass.frame >= until || endFrame(pass) < run.cued) continue;
      const first = Math.ceil(pass.from / TICKS_PER_QUARTER) * TICKS_PER_QUARTER;
      for (let tick = first; tick < pass.to; tick += TICKS_PER_QUARTER) {
        const frame = frameAt(pass, tick);
        if (frame >= run.cued && frame < until) run.microphone.cue((frame + this.engine.delay) / rate);
      }
    }
    run.cued = Math.max(run.cued, until);
  }

  /** Ends the recording and lays its rounds under the song. What plays goes on. */
  private async end(): Promise<void> {
    const run = this.run();
    if (!run) return;
    for (const pass of this.playback.queued) run.passes.set(pass.frame, pass);
    const rate = this.engine.sampleRate;
    const delay = Math.round(this.engine.delay + run.microphone.latency * rate);
    const to = this.engine.frame;
    this.run.set(null);
    if (run.clicked && this.metronome()) this.store.dispatch(SessionActions.metronomeToggled());
    await new Promise((resolve) => setTimeout(resolve, LAST_PIECE_MS));
    run.node.port.onmessage = null;
    run.node.disconnect();
    run.microphone.close();
    const passes = [...run.passes.values()].sort((a, b) => a.frame - b.frame);
    const clips = guideClips(passes, { from: Math.max(run.from, run.blocks[0]?.frame ?? to), to }, delay);
    const made = clips
      .filter((clip) => clip.to - clip.from >= LEAST_SECONDS * rate)
      .flatMap((clip): NewGuide[] => {
        const there = placeOfTick(clip.tick, this.placed());
        const wave = { rate, samples: joined(run.blocks, clip.from, clip.to) };
        return there ? [{ wave, name: 'Guide', ...there }] : [];
      });
    if (made.length === 0) this.notices.say('Nothing was recorded: let it run for a bar at least.');
    else {
      await this.desk.add(made);
      this.news.say(made.length === 1 ? 'A guide was recorded' : `${made.length} rounds were recorded`);
    }
  }
}

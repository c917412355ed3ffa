import { DestroyRef, inject, Injectable, signal } from '@angular/core';
import type { Wave } from '@fendro/core/live/wave';
import { isRecording } from '@fendro/core/files/incoming/file-kinds';
import { RATE } from '@fendro/core/listen/frames';
import type { Correction } from '@fendro/core/listen/heard-file';
import { laidUnder } from '@fendro/core/listen/laid-under';
import { addGuides, guidesAreFull } from '@fendro/core/song/guides';
import { LIMITS } from '@fendro/core/song/limits';
import type { OccurrenceId, Score } from '@fendro/core/song/schema';
import { guideName } from '../../desks/guides/guide-desk';
import { GuideSounds } from '../../desks/guides/guide-sounds';
import { readMono, readSound } from '../../sound/read-sound';
import { newId } from '../../store/ids';
import { Notices } from '../../store/notices';
import { inWords } from '../../ui/in-words';
import { ListeningClient, type HeardRecording } from '../../work/listening/listening-client';
import type { WrittenSound } from '../../work/listening/listening-messages';
import { MidiFileDesk } from './midi-file-desk';

/** How sound is read from files; specs put another way in its place, since they have no browser's decoder. */
@Injectable({ providedIn: 'root' })
export class SoundReader {
  readonly mono = readMono;
  readonly wave = readSound;
}

/** Files that come in, and recordings among them: listened to, set right by hand, and laid under what they become. */
@Injectable()
export class RecordingDesk {
  private readonly midi = inject(MidiFileDesk);
  private readonly client = inject(ListeningClient);
  private readonly sounds = inject(GuideSounds);
  private readonly reader = inject(SoundReader);
  private readonly notices = inject(Notices);
  /** The share that has been heard, 0 to 1, while a recording is listened to. */
  readonly heard = signal<number | null>(null);
  /** The recording as it is written down; null where what is open is none. */
  readonly written = signal<WrittenSound | null>(null);
  /** Whether it lies under the song that it becomes. */
  readonly lies = signal(true);
  private recording: HeardRecording | null = null;
  private work: AbortController | null = null;
  private correction: Correction = {};
  private asked = 0;

  constructor() {
    inject(DestroyRef).onDestroy(() => {
      this.work?.abort();
      this.recording?.end();
    });
  }

  /** Opens a file of either kind; what was open before stays until it has been read. */
  async open(file: File): Promise<void> {
    this.work?.abort();
    const work = new AbortController();
    this.work = work;
    this.heard.set(null);
    this.midi.leave();
    const bytes = await file.arrayBuffer();
    if (work.signal.aborted) return;
    if (isRecording(new Uint8Array(bytes))) await this.listen(file.name, bytes, work.signal);
    else if (await this.midi.take(file)) this.forget();
    if (this.work === work) this.work = null;
  }

  /** Gives up what is being read or listened to. */
  cancel(): void {
    this.work?.abort();
    this.midi.cancel();
    this.heard.set(null);
    this.midi.reading.set(false);
  }

  private async listen(name: string, bytes: ArrayBuffer, signal: AbortSignal): Promise<void> {
    this.heard.set(0);
    try {
      const samples = await this.reader.mono(bytes.slice(0), RATE);
      const wave = await this.reader.wave(bytes);
      if (signal.aborted) return;
      const told = (share: number): void => {
        if (!signal.aborted) this.heard.set(share);
      };
      const recording = await this.client.listen(samples, told, signal);
      this.forget();
      this.recording = recording;
      this.written.set(recording.written);
      this.midi.show(name, recording.written, (score, place) => this.under(score, place, name, wave));
      if (recording.written.file.lines.length === 0) this.midi.problem.set(`${name}: no notes were heard in it.`);
    } catch (problem) {
      if (!signal.aborted) this.midi.problem.set(`${name}: ${inWords(problem)}`);
    } finally {
      if (!signal.aborted) {
        this.heard.set(null);
        this.midi.reading.set(false);
      }
    }
  }

  /** Lets go of the recording that was open. */
  private forget(): void {
    this.recording?.end();
    this.recording = null;
    this.written.set(null);
    this.correction = {};
  }

  /** Sets something right that was heard wrong; the last of several corrections is the one that counts. */
  async correct(change: Correction): Promise<void> {
    const { recording } = this;
    const now = this.written();
    if (!recording || !now) return;
    // What is not set right stays as it is shown: bar lines where they are, the metre as it is.
    const correction = { metre: now.metre, line: now.first, ...this.correction, ...change };
    this.correction = correction;
    const asked = ++this.asked;
    try {
      const written = await recording.write(correction);
      if (asked !== this.asked || recording !== this.recording) return;
      this.written.set(written);
      this.midi.rewrite(written);
    } catch (problem) {
      this.midi.problem.set(inWords(problem));
    }
  }

  /** Lets bars begin so many beats later; earlier below 0. */
  shift(beats: number): Promise<void> {
    const { first = 0, tempo = 120 } = this.written() ?? {};
    return this.correct({ line: (this.correction.line ?? first) + (beats * 60) / (this.correction.tempo ?? tempo) });
  }

  /** The song with the recording under its first bar, where that is wanted and there is room. */
  private async under(score: Score, place: OccurrenceId, name: string, wave: Wave): Promise<Score> {
    const written = this.written();
    if (!written || !this.lies()) return score;
    if (guidesAreFull(score)) {
      this.notices.say(`${name} does not lie under the song: a song holds ${LIMITS.guides} recordings.`);
      return score;
    }
    const { leftOut, at, offset } = laidUnder(written.first, written.file.sections[0]?.tempo ?? 120);
    const samples = wave.samples.slice(Math.round(leftOut * wave.rate));
    if (samples.length === 0) return score;
    const sound = await this.sounds.add({ ...wave, samples });
    const seconds = samples.length / wave.rate;
    return addGuides(score, [
      { id: newId('guide'), name: guideName(name), place, at, offset, level: 80, muted: false, seconds, sound },
    ]);
  }
}

import { inject, Injectable, signal } from '@angular/core';
import { download } from '../ui/download';
import { inWords } from '../ui/in-words';
import { SoundFilesClient } from '../sound/rendered/sound-files-client';
import type { SoundWish } from '../sound/rendered/sound-files-work';
import type { SoundProgress, WrittenSound } from '../sound/rendered/sound-messages';
import { Guide } from './guide';

/** A peak, 0–1, in dB below full. */
const decibels = (peak: number): string => `${(20 * Math.log10(peak)).toFixed(1).replace('-', '−')} dB`;

const clock = (seconds: number): string =>
  `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, '0')}`;

/** What was written, by numbers. */
function facts(name: string, files: SoundWish['files'], { seconds, peaks }: WrittenSound): string {
  const silent = files.filter((_, index) => peaks[index] === 0).map((file) => file.name);
  const loudest = Math.max(0, ...peaks);
  return [
    `${name} was handed over: ${clock(seconds)} with what rings on`,
    ...(loudest > 0 ? [`, its highest peak ${decibels(loudest)}`] : []),
    '.',
    ...(silent.length > 0 ? [` Nothing sounds in ${silent.join(', ')}.`] : []),
  ].join('');
}

/** The song on its way into files of sound. It goes on wherever the writer is meanwhile. */
@Injectable({ providedIn: 'root' })
export class SoundWriting {
  private readonly client = inject(SoundFilesClient);
  private readonly guide = inject(Guide);
  /** How far it is; null while nothing is being written. */
  readonly progress = signal<SoundProgress | null>(null);
  readonly said = signal('');
  readonly problem = signal<string | null>(null);
  private leaving: AbortController | null = null;

  /**
   * Writes files and hands them to the browser's downloads, several of them in a zip.
   *
   * @param name  of what is handed over
   */
  async write(name: string, wish: Omit<SoundWish, 'banks'>): Promise<void> {
    if (this.progress()) return;
    const leaving = new AbortController();
    this.leaving = leaving;
    this.said.set('');
    this.problem.set(null);
    this.progress.set({ name, done: 0 });
    try {
      const written = await this.client.write(
        wish,
        (progress) => {
          this.progress.set(progress);
        },
        leaving.signal,
      );
      download(name, written.blob, written.blob.type);
      this.said.set(facts(name, wish.files, written));
      this.guide.finish();
    } catch (problem) {
      if (leaving.signal.aborted) this.said.set('Writing was given up; nothing was handed over.');
      else this.problem.set(inWords(problem));
    } finally {
      this.progress.set(null);
    }
  }

  giveUp(): void {
    this.leaving?.abort();
  }
}

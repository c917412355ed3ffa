import { inject, Injectable, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { guidesOf } from '@fendro/core/song/guides';
import type { Score } from '@fendro/core/song/schema';
import { storedWav } from '@fendro/core/sounding/wav';
import type { Wave } from '@fendro/core/live/wave';
import { GuidePlayer } from '../../sound/guide-player';
import { SoundStorage } from '../../storage/sound-storage';
import { SongStorage } from '../../storage/song-storage';
import { newId } from '../../store/ids';
import { Notices } from '../../store/notices';
import { selectSong } from '../../store/selectors';
import { download } from '../../ui/download';
import { inWords } from '../../ui/in-words';

/** How long a sound stays that no song names: a week. */
const KEPT_MS = 7 * 24 * 3_600_000;

const soundsIn = (score: Score | null): readonly string[] => (score ? guidesOf(score).map(({ sound }) => sound) : []);

/** Sounds of guides, kept beside the song; one that cannot be stored is told at once, and can be taken as a file. */
@Injectable({ providedIn: 'root' })
export class GuideSounds {
  private readonly storage = inject(SoundStorage);
  private readonly player = inject(GuidePlayer);
  private readonly songs = inject(SongStorage);
  private readonly notices = inject(Notices);
  private readonly song = inject(Store).selectSignal(selectSong);
  private swept = false;
  /** Sounds that are only on this page so far. */
  readonly unstored = signal<ReadonlySet<string>>(new Set());

  /** A sound by its name; null where this browser does not have it. */
  of(sound: string): Promise<Wave | null> {
    return this.player.wave(sound);
  }

  /** Stores a sound. @returns its name */
  async add(wave: Wave): Promise<string> {
    const name = `sound-${Date.now()}-${newId('of')}`;
    this.player.keep(name, wave);
    await this.store(name, wave);
    return name;
  }

  /**
   * Frees sounds that no song names any more, once they have lain so long that nobody will take back what let go of them.
   * Where it is not sure, nothing is freed.
   */
  async sweep(): Promise<void> {
    if (this.swept) return;
    this.swept = true;
    const named = await this.songs.guideSounds().catch(() => null);
    if (!named) return;
    const { past, future, score } = this.song();
    const known = new Set([...named, ...[score, ...[...past, ...future].map((step) => step.before)].flatMap(soundsIn)]);
    const since = Date.now() - KEPT_MS;
    const stays = (name: string): boolean => known.has(name) || Number(/^sound-(\d+)-/.exec(name)?.[1]) > since;
    await this.storage.sweep(stays).catch(() => undefined);
  }

  /** Stores a sound that came with a song under the name that the song knows. */
  async bring(name: string, wave: Wave): Promise<void> {
    this.player.keep(name, wave);
    await this.store(name, wave);
  }

  private async store(name: string, wave: Wave): Promise<void> {
    try {
      await this.storage.put(name, wave);
      this.unstored.update((names) => new Set([...names].filter((other) => other !== name)));
    } catch (problem) {
      this.unstored.update((names) => new Set(names).add(name));
      const text =
        `The recording could not be stored: ${inWords(problem)}. It is on this page until you close it: ` +
        'keep it as a file now.';
      this.notices.sayUntilRead(text, {
        label: 'Keep as a file',
        run: () => {
          this.download(wave, 'guide');
        },
      });
    }
  }

  download(wave: Wave, name: string): void {
    download(`${name}.wav`, storedWav(wave.rate, wave.samples), 'audio/wav');
  }
}

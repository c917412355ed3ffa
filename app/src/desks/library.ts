import { inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import { scoreProblem } from '@fendro/core/song/check';
import { withFreshSections } from '@fendro/core/song/fresh-sections';
import { LIMITS, shortened, withEnding } from '@fendro/core/song/limits';
import { openingSong, type OpenedSong } from '@fendro/core/song/song-file';
import { SONG_VERSION, type Ground, type Score, type Song, type Take } from '@fendro/core/song/schema';
import { startScore } from '@fendro/core/styles/band';
import type { Style } from '@fendro/core/song/style';
import { withStyle } from '@fendro/core/styles/styles';
import { SongStorage, type SongEntry } from '../storage/song-storage';

export type { SongEntry };
import { pageMemory, tabMemory } from '../ui/page-memory';
import { newId, newSeed } from '../store/ids';
import { Saving } from '../store/saving';
import { selectSong } from '../store/selectors';
import { SongActions } from '../store/song.actions';
import { inSlices } from '../ui/in-slices';
import { inWords } from '../ui/in-words';

const DEMO_ADDRESS = 'demo/barometer-falling.json';
const LAST_OPEN = 'last open';
const TAB_OPEN = 'fendro song of this tab';
const PAGE_OPEN = 'fendro song open last';
const GONE = 'This song is not in the browser’s storage any more.';

/** How opening went; `song` is the one that could not be opened, where storage holds something of it. */
export type Result =
  | { readonly ok: true; readonly remark: string | null }
  | { readonly ok: false; readonly reason: string; readonly song?: string };

type Shown = Extract<OpenedSong, { ok: true }> & {
  readonly older?: boolean;
  readonly clock?: number;
  readonly journalled?: boolean;
};

/** What the writer is told of a song that did not open quite as it was. */
function remarkOn({ setAside, older = false }: Shown): string | null {
  const pieces =
    setAside.length === 0
      ? ''
      : `${setAside.length} damaged ${setAside.length === 1 ? 'piece was' : 'pieces were'} set aside; everything else is here.`;
  const before = older
    ? 'The last state of this song could not be read: you see the one that was saved before it, and the ' +
      'last changes are missing. Look it through before you go on.'
    : '';
  return [before, pieces].filter((text) => text !== '').join(' ') || null;
}

/** Starting, opening, copying and removing songs. */
@Injectable({ providedIn: 'root' })
export class Library {
  private readonly store = inject(Store);
  private readonly storage = inject(SongStorage);
  private readonly saving = inject(Saving);
  private readonly state = this.store.selectSignal(selectSong);

  /** Opens what was open last, else what was changed last; on the very first start, the demo. */
  async openLast(): Promise<Result> {
    if (this.state().open) return { ok: true, remark: null };
    let last: string | null;
    let songs: readonly SongEntry[];
    try {
      // A tab that is reloaded shows its own song again, whatever others have opened since.
      last = tabMemory.get(TAB_OPEN) ?? pageMemory.get(PAGE_OPEN) ?? (await this.storage.recall(LAST_OPEN));
      songs = await this.storage.list();
    } catch (problem) {
      return {
        ok: false,
        reason:
          `Your songs could not be reached: ${inWords(problem)}. They are not lost by this. Try again, or ` +
          'close other tabs with Fendro first.',
      };
    }
    const next = last ?? songs[0]?.id ?? null;
    if (next === null) return this.openDemo();
    const result = await this.open(next);
    if (result.ok || result.song !== undefined) return result;
    // It is gone from storage altogether; another one is opened, and that is said.
    const other = songs.find(({ id }) => id !== next);
    const opened = other ? await this.open(other.id) : await this.openDemo();
    const instead = other ? `“${other.title}”` : 'The demo song';
    return opened.ok
      ? {
          ok: true,
          remark: `The song that was open last is not in the browser’s storage any more. ${instead} is open instead.`,
        }
      : opened;
  }

  async open(id: string): Promise<Result> {
    if (id === this.state().open?.id) return { ok: true, remark: null };
    try {
      const opened = await this.storage.open(id);
      if (opened === null) return { ok: false, reason: GONE };
      return opened.ok ? await this.show(opened) : { ...opened, song: id };
    } catch (problem) {
      return { ok: false, reason: `This song could not be read: ${inWords(problem)}.`, song: id };
    }
  }

  /** Opens the demo anew, as a song of its own that can be changed freely. */
  async openDemo(): Promise<Result> {
    try {
      const response = await fetch(DEMO_ADDRESS);
      if (!response.ok)
        return {
          ok: false,
          reason: `The demo song could not be loaded (${response.status}). Reload the page to try again.`,
        };
      return await this.openAsNew(await inSlices(openingSong(await response.json())));
    } catch (problem) {
      return {
        ok: false,
        reason: `The demo song could not be loaded (${inWords(problem)}). Reload the page to try again.`,
      };
    }
  }

  async start(title: string, ground: Ground, style: Style): Promise<Result> {
    return this.adopt(withStyle(startScore(title, ground, style, newId), style), []);
  }

  /** Makes a song of a new score or of music that came from elsewhere, and opens it. */
  async adopt(score: Score, takes: readonly Take[]): Promise<Result> {
    const ledger = { takes: Object.fromEntries(takes.map((take) => [take.id, take])), heard: [] };
    const problem = scoreProblem(score, ledger.takes);
    if (problem !== null) return { ok: false, reason: problem };
    const song: Song = {
      format: 'fendro-song',
      version: SONG_VERSION,
      id: newId('song'),
      seed: newSeed(),
      score,
      ledger,
      hearing: {},
    };
    return this.show({ ok: true, song, setAside: [] }, true);
  }

  /** Opens a song that came from outside under ids that no other song has. */
  async openAsNew(opened: OpenedSong): Promise<Result> {
    return opened.ok
      ? this.show({ ...opened, song: withFreshSections({ ...opened.song, id: newId('song') }, newId) }, true)
      : opened;
  }

  private async show(opened: Shown, isNew = false): Promise<Result> {
    await this.saving.now();
    await this.saving.claim(opened.song.id);
    this.store.dispatch(SongActions.opened({ song: opened.song }));
    this.saving.startFrom(opened.clock ?? 0, opened.journalled ?? false);
    tabMemory.set(TAB_OPEN, opened.song.id);
    pageMemory.set(PAGE_OPEN, opened.song.id);
    if (isNew) await this.saving.nowNew();
    await this.storage.remember(LAST_OPEN, opened.song.id).catch(() => undefined);
    return { ok: true, remark: remarkOn(opened) };
  }

  async list(): Promise<SongEntry[]> {
    // The song that is open may not be there yet, or not as it is now.
    await this.saving.now();
    return this.storage.list();
  }

  async duplicate(id: string): Promise<Result> {
    // The song that is open may have changes on their way to storage.
    await this.saving.now();
    const opened = await this.storage.open(id);
    if (!opened?.ok) return { ok: false, reason: opened?.reason ?? GONE };
    const title = withEnding(opened.song.score.title, ' (copy)', LIMITS.title);
    const copy = withFreshSections({ ...opened.song, id: newId('song') }, newId);
    await this.storage.save({ ...copy, score: { ...copy.score, title } }, 1, Date.now());
    return { ok: true, remark: remarkOn(opened) };
  }

  async rename(id: string, title: string): Promise<Result> {
    return this.changeAlone(id, async () => {
      const opened = await this.storage.open(id);
      if (!opened?.ok) return { ok: false, reason: opened?.reason ?? GONE };
      await this.storage.save(
        { ...opened.song, score: { ...opened.song.score, title: shortened(title, LIMITS.title) } },
        opened.clock + 1,
        Date.now(),
      );
      this.storage.settled(id);
      return { ok: true, remark: remarkOn(opened) };
    });
  }

  /** Takes a song away and hands it back, so that this can be undone. */
  async remove(id: string): Promise<Result & { readonly gone?: Song }> {
    let gone: Song | undefined;
    const result = await this.changeAlone(id, async () => {
      const opened = await this.storage.open(id);
      if (opened?.ok) gone = opened.song;
      await this.storage.remove(id);
      return { ok: true, remark: null };
    });
    return gone ? { ...result, gone } : result;
  }

  private async changeAlone(id: string, change: () => Promise<Result>): Promise<Result> {
    let result: Result = { ok: false, reason: 'It is open in another tab: do this there, or close it there first.' };
    await this.saving.alone(id, async () => {
      result = await change();
    });
    return result;
  }

  /** A song as it is stored; null where there is none. */
  stored(id: string): Promise<OpenedSong | null> {
    return this.storage.open(id);
  }

  /** All that storage holds of a song, as one file's text, whether it can be opened or not. */
  rawFile(id: string): Promise<string> {
    return this.storage.raw(id);
  }

  async putBack(song: Song): Promise<void> {
    await this.storage.save(song, 1, Date.now());
  }
}

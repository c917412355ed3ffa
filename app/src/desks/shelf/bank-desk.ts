import { inject, Injectable, signal } from '@angular/core';
import { withoutDoubles, type FoundPhrase } from '@fendro/core/files/incoming/bank';
import { listed } from '@fendro/core/song/limits';
import { isDrumRole } from '@fendro/core/song/roles';
import { newId } from '../../store/ids';
import { Shelf } from '../../store/shelf';
import { inWords } from '../../ui/in-words';
import { FilesClient } from '../../work/files-client';

/** Phrases that one bank brings at most. */
const MOST = 2_000;
/** Files that are named where they could not be read. */
const NAMED = 4;

/** Under which terms, and from whom, a folder's music comes. */
export interface BankTerms {
  readonly source: string;
  readonly licence: string;
}

/** MIDI files, mostly a whole folder of them, whose phrases and drum patterns come onto the shelf. */
@Injectable({ providedIn: 'root' })
export class BankDesk {
  private readonly files = inject(FilesClient);
  private readonly shelf = inject(Shelf);
  /** How far it is; null while nothing is read. */
  readonly progress = signal<{ readonly done: number; readonly of: number } | null>(null);
  /** What came of it, in words. */
  readonly told = signal<string | null>(null);
  private work: AbortController | null = null;

  async fill(files: readonly File[], { source, licence }: BankTerms): Promise<void> {
    if (this.work) return;
    const music = files.filter(({ name }) => /\.midi?$/i.test(name));
    if (music.length === 0) {
      this.told.set('There is no MIDI file in it: their names end in .mid or .midi.');
      return;
    }
    const work = new AbortController();
    this.work = work;
    this.told.set(null);
    this.progress.set({ done: 0, of: music.length });
    const found: FoundPhrase[] = [];
    const unread: string[] = [];
    const asked = music.map((file) => ({
      from: { source, licence, file: file.name.slice(0, 200) },
      read: async () => new Uint8Array(await file.arrayBuffer()),
    }));
    try {
      await this.files.bank(
        asked,
        (answer, place) => {
          if (answer.ok) found.push(...answer.phrases);
          else unread.push(music[place]?.name ?? '');
          this.progress.set({ done: place + 1, of: music.length });
        },
        work.signal,
      );
      this.told.set(await this.put(found, unread, music.length));
    } catch (problem) {
      this.told.set(
        work.signal.aborted
          ? 'It was given up; nothing was put on the shelf.'
          : `The files could not be read: ${inWords(problem)}. Nothing was put on the shelf.`,
      );
    } finally {
      this.work = null;
      this.progress.set(null);
    }
  }

  /** Gives up what is being read. */
  cancel(): void {
    this.work?.abort();
  }

  /** Puts what is not there yet on the shelf, and says what came. */
  private async put(found: readonly FoundPhrase[], unread: readonly string[], files: number): Promise<string> {
    const { fresh, doubles } = withoutDoubles(found, this.shelf.contents().phrases);
    const come = fresh.slice(0, MOST).map((phrase) => ({ ...phrase, id: newId('phrase') }));
    const count = await this.shelf.bring(come.map((item) => ({ kind: 'phrases', item })));
    const drums = come.filter(({ role }) => isDrumRole(role)).length;
    const parts = [
      `${counted(come.length - drums, 'phrase')} and ${counted(drums, 'drum pattern')} came from ${counted(files - unread.length, 'file')}`,
      ...(doubles > 0 ? [`${counted(doubles, 'double')} stayed out`] : []),
      ...(fresh.length > MOST ? [`${counted(fresh.length - MOST, 'more')} did not: a bank brings up to ${MOST}`] : []),
      ...(count < come.length ? [`${counted(come.length - count, 'one')} could not be kept`] : []),
      ...(unread.length > 0
        ? [
            `${listed(unread.slice(0, NAMED))}${unread.length > NAMED ? ` and ${unread.length - NAMED} others` : ''} could not be read`,
          ]
        : []),
    ];
    return `${parts.join('; ')}.`;
  }
}

const counted = (count: number, what: string): string =>
  `${count} ${count === 1 || what === 'more' ? what : `${what}s`}`;

import { inject, Injectable } from '@angular/core';
import { fileNameOf } from '@fendro/core/files/outgoing/file-names';
import { listed } from '@fendro/core/song/limits';
import { readStyle } from '@fendro/core/styles/style-file';
import { copyOfStyle } from '@fendro/core/styles/style-text';
import { readShelfFile, shelfFileText, type KindedItem } from '../../storage/shelf-file';
import { newId } from '../../store/ids';
import { Shelf } from '../../store/shelf';
import { download } from '../../ui/download';
import { itemsOf, type Thing } from './things';

const count = (number: number, one: string, many: string): string => `${number} ${number === 1 ? one : many}`;

/** Things of the shelf as files: out under a name, and in beside what is there. */
@Injectable({ providedIn: 'root' })
export class Sharing {
  private readonly shelf = inject(Shelf);

  /** Saves things as one file, with their tags and folders. */
  save(things: readonly Thing[], name: string): void {
    const contents = this.shelf.contents();
    const items = things.flatMap((thing) => itemsOf(contents, thing));
    download(fileNameOf([name], '.fendro-shelf'), shelfFileText(items), 'application/json');
  }

  /**
   * Puts what is in files on the shelf; what is there already stays.
   *
   * @returns what came of each, in words
   */
  async open(files: readonly File[]): Promise<readonly string[]> {
    const told: string[] = [];
    for (const file of files) told.push(`${file.name}: ${await this.read(await file.text())}`);
    return told;
  }

  private async read(text: string): Promise<string> {
    const style = readStyle(text);
    const read = style.ok ? { ok: true as const, items: [ownStyle(style.style)], unread: [] } : readShelfFile(text);
    if (!read.ok) return read.reason;
    const things = read.items.filter(({ kind }) => kind !== 'labels');
    const come = await this.shelf.bring(things);
    await this.shelf.bring(read.items.filter(({ kind }) => kind === 'labels'));
    const there = things.length - come;
    return (
      [
        `${count(come, 'thing', 'things')} came onto the shelf`,
        ...(there > 0
          ? [`${count(there, 'was', 'were')} there already and stayed as ${there === 1 ? 'it is' : 'they are'}`]
          : []),
        ...(read.unread.length > 0 ? [`${listed(read.unread)} could not be read`] : []),
      ].join('; ') + '.'
    );
  }
}

const ownStyle = (style: Parameters<typeof copyOfStyle>[0]): KindedItem => ({
  kind: 'styles',
  item: copyOfStyle(style, newId('style'), style.name),
});

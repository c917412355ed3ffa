import { computed, inject, Injectable, signal } from '@angular/core';
import { LIMITS, shortened } from '@fendro/core/song/limits';
import { tellIssue } from '@fendro/core/song/check';
import { LONGEST_PHRASE_NAME } from '@fendro/core/song/own-phrase';
import type { Style } from '@fendro/core/song/style';
import {
  EMPTY_SHELF,
  idOf,
  itemKey,
  KIND_NAMES,
  SHELF_ITEMS,
  ShelfStorage,
  type ShelfContents,
  type ShelfItem,
  type ShelfKind,
} from '../storage/shelf-storage';
import { allOf, type KindedItem } from '../storage/shelf-file';
import { newId } from './ids';
import { Notices } from './notices';
import { inSlices } from '../ui/in-slices';
import { inWords } from '../ui/in-words';

export type ShelfProgression = ShelfItem<'progressions'>;

/** What could not be written is tried again after this. */
const RETRY_MS = 4000;

/** One thing that is not in the database yet. */
interface Change {
  readonly kind: ShelfKind;
  readonly name: string;
  /** Null where it is taken off the shelf. */
  readonly item: ShelfItem<ShelfKind> | null;
  readonly at: number;
}

/** Kinds whose things are named by the writer and get ids here, and how long a name may be. */
const NAME_LENGTHS = {
  progressions: LIMITS.title,
  briefs: LIMITS.name,
  chains: LIMITS.name,
  patterns: LIMITS.name,
  leanings: LIMITS.name,
  bands: LIMITS.name,
  starts: LIMITS.name,
  phrases: LONGEST_PHRASE_NAME,
} as const satisfies Partial<Record<ShelfKind, number>>;
export type NamedKind = keyof typeof NAME_LENGTHS;

export const isNamedKind = (kind: ShelfKind): kind is NamedKind => kind in NAME_LENGTHS;

/** The shelf with changes made to it: what is put there stands first, or where the same thing stood. */
function withChanges(contents: ShelfContents, changes: readonly Change[]): ShelfContents {
  const lists = [...new Set(changes.map(({ kind }) => kind))].map((kind) => {
    const list: readonly ShelfItem<ShelfKind>[] = contents[kind];
    const changed = new Map(changes.filter((own) => own.kind === kind).map(({ name, item }) => [name, item]));
    const there = new Set(list.map(idOf));
    const stays = list.flatMap((own) => {
      const now = changed.get(idOf(own));
      return now === undefined ? [own] : now === null ? [] : [now];
    });
    const fresh = [...changed].flatMap(([name, item]) => (item === null || there.has(name) ? [] : [item]));
    return [kind, [...fresh.reverse(), ...stays]] as const;
  });
  return { ...contents, ...Object.fromEntries(lists) };
}

/** Saved things across songs: there at once, everywhere, in every tab and after a reload. */
@Injectable({ providedIn: 'root' })
export class Shelf {
  private readonly storage = inject(ShelfStorage);
  private readonly notices = inject(Notices);
  readonly contents = signal<ShelfContents>(EMPTY_SHELF);
  private readonly unread = signal<string | null>(null);
  private readonly unwritten = signal<string | null>(null);
  /** Told for as long as something cannot be read or kept. */
  readonly problems = computed(() => [this.unread(), this.unwritten()].filter((text) => text !== null));
  private waiting: readonly Change[] = [];
  private writing: Promise<void> = Promise.resolve();
  private retry: ReturnType<typeof setTimeout> | undefined;
  private places: ReadonlyMap<string, number> = new Map();
  /** Other tabs are told of changes, and tell of theirs. */
  private readonly others = typeof BroadcastChannel === 'function' ? new BroadcastChannel('fendro shelf') : null;

  constructor() {
    this.others?.addEventListener('message', () => void this.read());
    void this.read();
  }

  private async read(): Promise<void> {
    try {
      const { contents, setAside, places } = await this.storage.read();
      this.places = new Map([
        ...places,
        ...this.waiting.map(({ kind, name, at }) => [itemKey(kind, name), at] as const),
      ]);
      // What was put there meanwhile is on its way.
      this.contents.set(withChanges(contents, this.waiting));
      const aside = asideInWords(setAside);
      if (aside !== null) this.notices.sayUntilRead(aside);
      this.unread.set(null);
    } catch (problem) {
      this.unread.set(`The shelf could not be read: ${inWords(problem)}. What is on it is untouched.`);
    }
  }

  private change(kind: ShelfKind, name: string, item: ShelfItem<ShelfKind> | null): boolean {
    const problem = item === null ? null : problemOf(kind, item);
    if (problem !== null) this.notices.say(`This ${KIND_NAMES[kind]} was not put on the shelf: ${problem}.`);
    else this.make([{ kind, name, item }]);
    return problem === null;
  }

  /** Makes changes at once, whatever they are: what is put there later stands before what came first. */
  private make(wished: readonly Omit<Change, 'at'>[]): void {
    const places = new Map(this.places);
    let last = Math.max(Date.now() - 1, ...places.values());
    const changes = wished.map(({ kind, name, item }): Change => {
      // What is changed keeps its place; what is new stands first.
      const at = places.get(itemKey(kind, name)) ?? ++last;
      places.set(itemKey(kind, name), at);
      return { kind, name, item, at };
    });
    this.places = places;
    const again = new Set(changes.map(({ kind, name }) => itemKey(kind, name)));
    this.waiting = [...this.waiting.filter(({ kind, name }) => !again.has(itemKey(kind, name))), ...changes];
    this.contents.update((contents) => withChanges(contents, changes));
    this.writing = this.writing.then(() => this.write());
  }

  private async write(): Promise<void> {
    clearTimeout(this.retry);
    try {
      for (const change of this.waiting) {
        if (change.item === null) await this.storage.remove(change.kind, change.name);
        else await this.storage.put(change.kind, change.item, change.at);
        this.waiting = this.waiting.filter((other) => other !== change);
      }
      this.unwritten.set(null);
      this.others?.postMessage('changed');
    } catch (problem) {
      this.unwritten.set(`The shelf could not be saved: ${inWords(problem)}. Fendro goes on trying.`);
      this.retry = setTimeout(() => {
        this.writing = this.writing.then(() => this.write());
      }, RETRY_MS);
    }
  }

  /**
   * Puts things there that came from elsewhere, each in its order; what is there already stays.
   *
   * @returns how many came
   */
  async bring(items: readonly KindedItem[]): Promise<number> {
    const there = new Set(allOf(this.contents()).map(({ kind, item }) => itemKey(kind, idOf(item))));
    const fresh = items.filter(({ kind, item }) => !there.has(itemKey(kind, idOf(item))));
    const sound = await inSlices(soundOnes(fresh));
    if (sound.length > 0) this.make(sound.map(({ kind, item }) => ({ kind, name: idOf(item), item })).reverse());
    return sound.length;
  }

  /** Puts a thing there that has its id, in place of the one that was called so. */
  put<K extends ShelfKind>(kind: K, item: ShelfItem<K>): boolean {
    return this.change(kind, idOf(item), item);
  }

  /** Puts a new thing there under a name, which is shortened to what is kept. */
  add<K extends NamedKind>(kind: K, thing: Omit<ShelfItem<K>, 'id'> & { readonly name: string }): boolean {
    const item = { ...thing, name: shortened(thing.name, NAME_LENGTHS[kind]), id: newId(kind.slice(0, -1)) };
    return this.change(kind, item.id, item as unknown as ShelfItem<K>);
  }

  /** Calls a thing otherwise. */
  rename(kind: NamedKind, id: string, name: string): void {
    const item = this.contents()[kind].find((own) => own.id === id);
    if (item) this.change(kind, id, { ...item, name: shortened(name, NAME_LENGTHS[kind]) });
  }

  remove(kind: ShelfKind, id: string): void {
    this.removeAll([{ kind, id }]);
  }

  /** Takes things off the shelf, and what was noted of them. @returns all that is gone, for who wants it back */
  removeAll(things: readonly { readonly kind: ShelfKind; readonly id: string }[]): readonly KindedItem[] {
    const names = new Set(things.flatMap(({ kind, id }) => [itemKey(kind, id), itemKey('labels', itemKey(kind, id))]));
    const gone = allOf(this.contents()).filter(({ kind, item }) => names.has(itemKey(kind, idOf(item))));
    this.make(gone.map(({ kind, item }) => ({ kind, name: idOf(item), item: null })));
    return gone;
  }

  /** Notes tags, a folder or both of a thing; what is not named stays, and nothing is kept where there is neither. */
  label(kind: ShelfKind, id: string, change: Partial<Pick<ShelfItem<'labels'>, 'tags' | 'folder'>>): boolean {
    const name = itemKey(kind, id);
    const before = this.contents().labels.find((label) => label.id === name);
    const label = { tags: [], folder: null, ...before, ...change, id: name };
    return this.change('labels', name, label.tags.length === 0 && label.folder === null ? null : label);
  }

  /** Puts a style of one's own first; `replaces` is the one that it was changed from. */
  saveStyle(style: Style, replaces: string | null): boolean {
    if (!this.change('styles', style.id, style)) return false;
    if (replaces !== null && replaces !== style.id) this.change('styles', replaces, null);
    return true;
  }

  /** Other keys for a command; null for those that it came with. */
  saveKeys(command: string, keys: readonly string[] | null): boolean {
    return this.change('keys', command, keys === null ? null : { id: command, keys: [...keys] });
  }

  toggleFavourite(id: string): void {
    this.change('favourites', id, this.isFavourite(id) ? null : id);
  }

  isFavourite(id: string): boolean {
    return this.contents().favourites.includes(id);
  }
}

/** What is wrong with a thing, in words; null where nothing is. */
function problemOf(kind: ShelfKind, item: ShelfItem<ShelfKind>): string | null {
  const checked = SHELF_ITEMS[kind].safeParse(item);
  return checked.success ? null : tellIssue(checked.error);
}

/** Those that the shelf could read again, in steps of one each. */
function* soundOnes(items: readonly KindedItem[]): Generator<void, readonly KindedItem[]> {
  const sound: KindedItem[] = [];
  for (const { kind, item } of items) {
    if (problemOf(kind, item) === null) sound.push({ kind, item });
    yield;
  }
  return sound;
}

const asideInWords = (items: readonly string[]): string | null =>
  items.length === 0
    ? null
    : `On the shelf ${items.length} ${items.length === 1 ? 'thing' : 'things'} could not be read and ` +
      `${items.length === 1 ? 'was' : 'were'} set aside, untouched: ` +
      `${items.slice(0, 6).join(', ')}${items.length > 6 ? ' …' : ''}.`;

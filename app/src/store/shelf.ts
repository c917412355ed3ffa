import { computed, inject, Injectable, signal } from '@angular/core';
import { LIMITS, shortened } from '@fendro/core/song/limits';
import { tellIssue } from '@fendro/core/song/check';
import { LONGEST_PHRASE_NAME, type OwnPhrase } from '@fendro/core/song/own-phrase';
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
import { inWords } from '../ui/in-words';

export type ShelfBrief = ShelfItem<'briefs'>;
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

const sameThing = (a: Change, b: Change): boolean => a.kind === b.kind && a.name === b.name;

/** The shelf with a change made to it: what is put there stands first, or where the same thing stood. */
function withChange(contents: ShelfContents, { kind, name, item }: Change): ShelfContents {
  const list: readonly ShelfItem<ShelfKind>[] = contents[kind];
  const stands = list.some((own) => idOf(own) === name);
  const next =
    item === null
      ? list.filter((own) => idOf(own) !== name)
      : stands
        ? list.map((own) => (idOf(own) === name ? item : own))
        : [item, ...list];
  return { ...contents, [kind]: next };
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
      this.contents.set(this.waiting.reduce(withChange, contents));
      const aside = asideInWords(setAside);
      if (aside !== null) this.notices.sayUntilRead(aside);
      this.unread.set(null);
    } catch (problem) {
      this.unread.set(`The shelf could not be read: ${inWords(problem)}. What is on it is untouched.`);
    }
  }

  private change(kind: ShelfKind, name: string, item: ShelfItem<ShelfKind> | null): boolean {
    if (item !== null) {
      const checked = SHELF_ITEMS[kind].safeParse(item);
      if (!checked.success) {
        this.notices.say(`This ${KIND_NAMES[kind]} was not put on the shelf: ${tellIssue(checked.error)}.`);
        return false;
      }
    }
    // What is changed keeps its place; what is new stands first.
    const at = this.places.get(itemKey(kind, name)) ?? Math.max(Date.now(), 1 + Math.max(0, ...this.places.values()));
    this.places = new Map([...this.places, [itemKey(kind, name), at]]);
    const change: Change = { kind, name, item, at };
    this.waiting = [...this.waiting.filter((other) => !sameThing(other, change)), change];
    this.contents.update((contents) => withChange(contents, change));
    this.writing = this.writing.then(() => this.write());
    return true;
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

  /** Puts things there that came from elsewhere, each in its order; what is there already stays. @returns how many came */
  bring(items: readonly KindedItem[]): number {
    const there = new Set(allOf(this.contents()).map(({ kind, item }) => itemKey(kind, idOf(item))));
    // What comes later stands before what came first.
    const fresh = items.filter(({ kind, item }) => !there.has(itemKey(kind, idOf(item)))).reverse();
    return fresh.filter(({ kind, item }) => this.change(kind, idOf(item), item)).length;
  }

  saveProgression(progression: Omit<ShelfProgression, 'id'>): boolean {
    const item = { ...progression, name: shortened(progression.name, LIMITS.title), id: newId('progression') };
    return this.change('progressions', item.id, item);
  }

  removeProgression(id: string): void {
    this.change('progressions', id, null);
  }

  saveRhythm(id: string): void {
    if (!this.contents().rhythms.includes(id)) this.change('rhythms', id, id);
  }

  removeRhythm(id: string): void {
    this.change('rhythms', id, null);
  }

  saveScale(id: string): void {
    if (!this.contents().scales.includes(id)) this.change('scales', id, id);
  }

  savePhrase(phrase: OwnPhrase): boolean {
    return this.change('phrases', phrase.id, { ...phrase, name: shortened(phrase.name, LONGEST_PHRASE_NAME) });
  }

  renamePhrase(id: string, name: string): void {
    const phrase = this.contents().phrases.find((own) => own.id === id);
    if (phrase) this.savePhrase({ ...phrase, name });
  }

  removePhrase(id: string): void {
    this.change('phrases', id, null);
  }

  /** Puts a style of one's own first; `replaces` is the one that it was changed from. */
  saveStyle(style: Style, replaces: string | null): boolean {
    if (!this.change('styles', style.id, style)) return false;
    if (replaces !== null && replaces !== style.id) this.change('styles', replaces, null);
    return true;
  }

  removeStyle(id: string): void {
    this.change('styles', id, null);
  }

  saveBrief(brief: Omit<ShelfBrief, 'id'>): boolean {
    const item = { ...brief, name: shortened(brief.name, LIMITS.name), id: newId('brief') };
    return this.change('briefs', item.id, item);
  }

  removeBrief(id: string): void {
    this.change('briefs', id, null);
  }

  saveChain(chain: Omit<ShelfItem<'chains'>, 'id'>): boolean {
    const item = { ...chain, name: shortened(chain.name, LIMITS.name), id: newId('chain') };
    return this.change('chains', item.id, item);
  }

  removeChain(id: string): void {
    this.change('chains', id, null);
  }

  savePattern(pattern: Omit<ShelfItem<'patterns'>, 'id'>): boolean {
    const item = { ...pattern, name: shortened(pattern.name, LIMITS.name), id: newId('pattern') };
    return this.change('patterns', item.id, item);
  }

  removePattern(id: string): void {
    this.change('patterns', id, null);
  }

  saveLeaning(leaning: Omit<ShelfItem<'leanings'>, 'id'>): boolean {
    const item = { ...leaning, name: shortened(leaning.name, LIMITS.name), id: newId('leaning') };
    return this.change('leanings', item.id, item);
  }

  removeLeaning(id: string): void {
    this.change('leanings', id, null);
  }

  /** Other keys for a command; null for those that it came with. */
  saveKeys(command: string, keys: readonly string[] | null): boolean {
    return this.change('keys', command, keys === null ? null : { id: command, keys: [...keys] });
  }

  saveDevice(device: ShelfItem<'devices'>): boolean {
    return this.change('devices', device.id, device);
  }

  removeDevice(id: string): void {
    this.change('devices', id, null);
  }

  saveControl(control: Omit<ShelfItem<'controls'>, 'id'>): boolean {
    const item = { ...control, id: newId('control') };
    return this.change('controls', item.id, item);
  }

  removeControl(id: string): void {
    this.change('controls', id, null);
  }

  saveRoute(route: ShelfItem<'routes'>): boolean {
    return this.change('routes', route.id, route);
  }

  removeRoute(id: string): void {
    this.change('routes', id, null);
  }

  toggleFavourite(id: string): void {
    this.change('favourites', id, this.isFavourite(id) ? null : id);
  }

  isFavourite(id: string): boolean {
    return this.contents().favourites.includes(id);
  }
}

const asideInWords = (items: readonly string[]): string | null =>
  items.length === 0
    ? null
    : `On the shelf ${items.length} ${items.length === 1 ? 'thing' : 'things'} could not be read and ` +
      `${items.length === 1 ? 'was' : 'were'} set aside, untouched: ` +
      `${items.slice(0, 6).join(', ')}${items.length > 6 ? ' …' : ''}.`;

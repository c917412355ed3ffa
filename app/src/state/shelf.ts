import '@fendro/core/song/validation';
import { Injectable, signal } from '@angular/core';
import localforage from 'localforage';
import * as z from 'zod';
import { ownPhraseSchema, type OwnPhrase } from '@fendro/core/song/own-phrase';
import { briefSchema, chordSpanSchema, ROLES } from '@fendro/core/song/schema';
import { styleSchema, type Style } from '@fendro/core/song/style';
import { newId } from './ids';

/** What can be used again in any song. Rhythms and scales are written out in their ids. */
const shelfSchema = z.object({
  progressions: z.array(z.object({ id: z.string(), name: z.string(), tonic: z.number(), scale: z.string(), length: z.number().int(), bars: z.number().int(), chords: z.array(chordSpanSchema) })),
  rhythms: z.array(z.string()),
  scales: z.array(z.string()),
  favourites: z.array(z.string()),
  phrases: z.array(ownPhraseSchema).default([]),
  styles: z.array(styleSchema).default([]),
  briefs: z.array(z.object({ id: z.string(), name: z.string(), role: z.enum(ROLES), brief: briefSchema })).default([]),
});
export type ShelfContents = z.infer<typeof shelfSchema>;
export type ShelfBrief = ShelfContents['briefs'][number];
export type ShelfProgression = ShelfContents['progressions'][number];

const EMPTY: ShelfContents = { progressions: [], rhythms: [], scales: [], favourites: [], phrases: [], styles: [], briefs: [] };
const KEY = 'shelf';

/** Saved things across songs: there at once, everywhere, and after a reload. */
@Injectable({ providedIn: 'root' })
export class Shelf {
  private readonly store = localforage.createInstance({ name: 'fendro', storeName: 'shelf' });
  readonly contents = signal<ShelfContents>(EMPTY);
  /** Said where something could not be kept. */
  readonly problem = signal<string | null>(null);

  constructor() {
    void this.store.getItem<unknown>(KEY).then((stored) => {
      const read = shelfSchema.safeParse(stored);
      if (read.success) this.contents.set(read.data);
    }).catch(() => undefined);
  }

  private change(change: Partial<ShelfContents>): void {
    this.contents.update((contents) => ({ ...contents, ...change }));
    void this.store.setItem(KEY, this.contents()).then(() => { this.problem.set(null); }).catch(() => { this.problem.set('The shelf could not be saved: the browser’s storage is full or blocked.'); });
  }

  saveProgression(progression: Omit<ShelfProgression, 'id'>): void {
    this.change({ progressions: [{ ...progression, id: newId('progression') }, ...this.contents().progressions] });
  }

  removeProgression(id: string): void {
    this.change({ progressions: this.contents().progressions.filter((own) => own.id !== id) });
  }

  saveRhythm(id: string): void {
    if (!this.contents().rhythms.includes(id)) this.change({ rhythms: [id, ...this.contents().rhythms] });
  }

  removeRhythm(id: string): void {
    this.change({ rhythms: this.contents().rhythms.filter((own) => own !== id) });
  }

  saveScale(id: string): void {
    if (!this.contents().scales.includes(id)) this.change({ scales: [id, ...this.contents().scales] });
  }

  savePhrase(phrase: OwnPhrase): void {
    this.change({ phrases: [phrase, ...this.contents().phrases] });
  }

  renamePhrase(id: string, name: string): void {
    this.change({ phrases: this.contents().phrases.map((own) => (own.id === id ? { ...own, name } : own)) });
  }

  removePhrase(id: string): void {
    this.change({ phrases: this.contents().phrases.filter((own) => own.id !== id) });
  }

  /** Puts a style of one's own first; `replaces` is the one that it was changed from. */
  saveStyle(style: Style, replaces: string | null): void {
    this.change({ styles: [style, ...this.contents().styles.filter(({ id }) => id !== replaces && id !== style.id)] });
  }

  removeStyle(id: string): void {
    this.change({ styles: this.contents().styles.filter((own) => own.id !== id) });
  }

  saveBrief(brief: Omit<ShelfBrief, 'id'>): void {
    this.change({ briefs: [{ ...brief, id: newId('brief') }, ...this.contents().briefs] });
  }

  removeBrief(id: string): void {
    this.change({ briefs: this.contents().briefs.filter((own) => own.id !== id) });
  }

  toggleFavourite(id: string): void {
    const { favourites } = this.contents();
    this.change({ favourites: favourites.includes(id) ? favourites.filter((own) => own !== id) : [id, ...favourites] });
  }

  isFavourite(id: string): boolean {
    return this.contents().favourites.includes(id);
  }
}

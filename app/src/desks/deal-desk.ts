import { computed, inject, Injectable, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { dealPart } from '@fendro/core/song/edit';
import { listed } from '@fendro/core/song/limits';
import type { Deal, Part, PartId } from '@fendro/core/song/schema';
import { stepped } from '@fendro/core/settings/setting';
import { canTake, dealsTo } from '@fendro/core/sounding/dealt';
import { sayDeal, wayOf } from '@fendro/core/treat/deal-settings';
import { News } from '../store/news';
import { selectOwnScore, selectPart } from '../store/selectors';
import { ScoreActions } from '../store/song.actions';

/** How the line of the part in focus is shared out to several, and what is dealt to it. */
@Injectable({ providedIn: 'root' })
export class DealDesk {
  private readonly store = inject(Store);
  private readonly news = inject(News);
  private readonly score = this.store.selectSignal(selectOwnScore);
  private readonly part = this.store.selectSignal(selectPart);
  /** The part whose dealing was opened last; of another part it means nothing. */
  private readonly opened = signal<PartId | null>(null);

  private readonly parts = computed((): readonly Part[] => this.score()?.parts ?? []);
  readonly deal = computed((): Deal | null => this.part()?.deals ?? null);
  readonly open = computed(() => this.opened() !== null && this.opened() === this.part()?.id);
  /** True where there is somebody to deal to. */
  readonly ready = computed(() => this.hands().length > 1);
  /** Who could play the line: those that are dealt to first, in their order, then all others; the part itself is among them. */
  readonly hands = computed((): readonly Part[] => {
    const part = this.part();
    if (!part) return [];
    const to = this.deal()?.to ?? [];
    const place = ({ id }: Part): number => (to.includes(id) ? to.indexOf(id) : to.length);
    return this.parts()
      .filter((other) => canTake(part, other))
      .sort((a, b) => place(a) - place(b));
  });
  readonly said = computed(() => {
    const deal = this.deal();
    return deal ? sayDeal(deal, (id) => this.nameOf(id)) : '';
  });
  /** What other parts deal to this one: “what Pad deals to it”; empty where none does. */
  readonly given = computed(() => {
    const part = this.part();
    const from = this.parts().filter((other) => part && other.id !== part.id && this.reaches(other, part.id));
    return from.length === 0 ? '' : listed(from.map(({ name }) => `what ${name} deals to it`));
  });

  private reaches(from: Part, to: PartId): boolean {
    return dealsTo(from, this.parts()).some(({ id }) => id === to);
  }

  nameOf(id: PartId): string {
    const name = this.parts().find((part) => part.id === id)?.name ?? 'a part that is gone';
    return id === this.part()?.id ? `${name} itself` : name;
  }

  toggle(): void {
    this.opened.set(this.open() ? null : (this.part()?.id ?? null));
  }

  close(): void {
    this.opened.set(null);
  }

  /** Lets a part play its share, behind those that do already, or no longer; with the first of them the line is dealt. */
  give(to: PartId, share: boolean): void {
    const deal = this.deal();
    const others = (deal?.to ?? []).filter((id) => id !== to);
    const now = share ? [...others, to] : others;
    this.edit('deal a part out', now.length === 0 ? null : { ...(deal ?? { way: 'in turn' }), to: now });
    this.news.say(this.said() || 'The part plays its line itself');
  }

  /** Moves a part among those that are dealt to. */
  move(part: PartId, by: 1 | -1): void {
    const deal = this.deal();
    const from = deal?.to.indexOf(part) ?? -1;
    const to = from + by;
    if (!deal || from < 0 || to < 0 || to >= deal.to.length) return;
    const others = deal.to.filter((id) => id !== part);
    this.edit('deal a part out', { ...deal, to: [...others.slice(0, to), part, ...others.slice(to)] });
    this.news.say(this.said());
  }

  step(by: 1 | -1): void {
    const deal = this.deal();
    const next = deal && stepped(wayOf(deal), by);
    if (next) this.setWay(next.value);
  }

  setWay(way: string | number): void {
    const deal = this.deal();
    if (deal && way !== deal.way) this.edit('set a dealing', wayOf(deal).set(way), 'way');
  }

  /** Strikes the dealing out without losing it, or lets it work again. */
  strike(): void {
    const deal = this.deal();
    if (!deal) return;
    const { off, ...on } = deal;
    this.edit(off ? 'let the dealing work' : 'strike the dealing out', off ? on : { ...on, off: true });
    this.news.say(`${this.said()}: ${off ? 'works again' : 'struck out'}`);
  }

  remove(): void {
    if (!this.deal()) return;
    this.close();
    this.edit('take the dealing away', null);
    this.news.say('The part plays its line itself');
  }

  private edit(name: string, deal: Deal | null, kind?: string): void {
    const [score, part] = [this.score(), this.part()];
    if (!score || !part) return;
    this.store.dispatch(
      ScoreActions.revised({
        name,
        score: dealPart(score, part.id, deal),
        takes: [],
        released: [],
        ...(kind === undefined ? {} : { gesture: `deal ${part.id} ${kind}` }),
      }),
    );
  }
}

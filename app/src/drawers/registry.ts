import type { Type } from '@angular/core';
import type { Drawer } from '../store/session';

interface DrawerEntry {
  readonly name: string;
  /** How high it stands until the writer pulls it, in CSS pixels. */
  readonly height: number;
  readonly load: () => Promise<Type<unknown>>;
}

/** Every drawer under the sheet, in the order in which its buttons stand. Another one is another line here. */
export const DRAWERS: Readonly<Record<Drawer, DrawerEntry>> = {
  overview: {
    name: 'Whole song',
    height: 260,
    load: () => import('./overview/overview-drawer').then((m) => m.OverviewDrawer),
  },
  'close-up': {
    name: 'Close-up',
    height: 320,
    load: () => import('./close-up/close-up-drawer').then((m) => m.CloseUpDrawer),
  },
  patterns: {
    name: 'Patterns',
    height: 420,
    load: () => import('./patterns/patterns-drawer').then((m) => m.PatternsDrawer),
  },
  play: { name: 'Play desk', height: 244, load: () => import('./play/play-drawer').then((m) => m.PlayDrawer) },
  guide: { name: 'Guide', height: 220, load: () => import('./guide/guide-drawer').then((m) => m.GuideDrawer) },
  plan: { name: 'Plan', height: 260, load: () => import('./plan/plan-drawer').then((m) => m.PlanDrawer) },
  styles: { name: 'Styles', height: 300, load: () => import('./styles/styles-drawer').then((m) => m.StylesDrawer) },
  phrases: {
    name: 'Phrases',
    height: 300,
    load: () => import('./phrases/phrases-drawer').then((m) => m.PhrasesDrawer),
  },
  shelf: { name: 'Shelf', height: 300, load: () => import('./shelf/shelf-drawer').then((m) => m.ShelfDrawer) },
  logbook: {
    name: 'Logbook',
    height: 280,
    load: () => import('./logbook/logbook-drawer').then((m) => m.LogbookDrawer),
  },
  mix: { name: 'Mix', height: 240, load: () => import('./mix/mix-drawer').then((m) => m.MixDrawer) },
};

export const DRAWER_IDS = Object.keys(DRAWERS) as readonly Drawer[];

/** Has every drawer at hand before it is asked for, once the page has nothing better to do. */
export function warmUpDrawers(): void {
  for (const { load } of Object.values(DRAWERS)) void load();
}

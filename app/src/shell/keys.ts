import { inject, Injectable, signal } from '@angular/core';
import { Router } from '@angular/router';
import { Store } from '@ngrx/store';
import { Playback } from '../sound/playback';
import { Saving } from '../store/saving';
import { HarmonyDesk } from '../desks/harmony-desk';
import {
  selectLine,
  selectPart,
  selectPlaced,
  selectScore,
  selectSection,
  selectSession,
  selectView,
} from '../store/selectors';
import { SessionActions } from '../store/session';
import { ScoreActions, SongActions } from '../store/song.actions';
import { Notices } from '../store/notices';
import { TapTempo } from './tap-tempo';

/** Elements in which letters and Space are typed or pressed, not commanded. */
const usesKeys = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable || ['INPUT', 'SELECT', 'TEXTAREA'].includes(target.tagName));

const usesSpace = (target: EventTarget | null): boolean =>
  usesKeys(target) ||
  (target instanceof HTMLElement &&
    target.closest('button, a, [role="menuitem"], summary') !== null &&
    target.matches(':focus-visible'));

/** Regions that F6 goes round, in order. */
const REGIONS = ['song-line', 'running-order', 'sheet', 'bench', 'drawer'];

/** The keys that work anywhere in the workspace. Regions handle their own before these are asked. */
@Injectable({ providedIn: 'root' })
export class Keys {
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  private readonly playback = inject(Playback);
  private readonly saving = inject(Saving);
  private readonly notices = inject(Notices);
  private readonly tap = inject(TapTempo);
  readonly sheetOpen = signal(false);
  private readonly score = this.store.selectSignal(selectScore);
  private readonly session = this.store.selectSignal(selectSession);
  private readonly placed = this.store.selectSignal(selectPlaced);
  private readonly view = this.store.selectSignal(selectView);
  private readonly section = this.store.selectSignal(selectSection);
  private readonly line = this.store.selectSignal(selectLine);
  private readonly part = this.store.selectSignal(selectPart);
  private readonly desk = inject(HarmonyDesk);

  handle(event: KeyboardEvent): void {
    if (event.defaultPrevented || document.querySelector('.cdk-overlay-backdrop, dialog[open]')) return;
    const done = event.ctrlKey || event.metaKey ? this.command(event) : event.altKey ? false : this.plain(event);
    if (done) event.preventDefault();
  }

  private command(event: KeyboardEvent): boolean {
    const key = event.key.toLowerCase();
    if (key === 'z' && !usesKeys(event.target)) {
      this.store.dispatch(event.shiftKey ? SongActions.redone() : SongActions.undone());
      return true;
    }
    if (key === 'e') {
      void this.router.navigateByUrl('/deliver');
      return true;
    }
    if (key === 's') {
      void this.saving.now().then(() => {
        this.notices.say('Everything is saved as you go.', {
          label: 'Get the song file',
          run: () => void this.router.navigateByUrl('/deliver'),
        });
      });
      return true;
    }
    return false;
  }

  private plain(event: KeyboardEvent): boolean {
    if (event.key === 'F6') return this.nextRegion(event.shiftKey ? -1 : 1);
    if (event.key === ' ') {
      if (usesSpace(event.target)) return false;
      void this.playback.toggle();
      return true;
    }
    if (usesKeys(event.target) || this.router.url !== '/') {
      if (event.key === '?' && !usesKeys(event.target)) this.sheetOpen.set(true);
      return false;
    }
    switch (event.key) {
      case '?':
        this.sheetOpen.set(true);
        return true;
      case 'PageUp':
        return this.moveSection(-1);
      case 'PageDown':
        return this.moveSection(1);
      case 'Escape':
        return this.back();
      case 'Enter':
        return event.shiftKey && this.chooseAll();
      default:
        return this.letter(event.key.toLowerCase());
    }
  }

  private letter(key: string): boolean {
    const part = this.part();
    switch (key) {
      case 'o':
        this.store.dispatch(SessionActions.loopToggled());
        return true;
      case 'm':
        this.store.dispatch(SessionActions.metronomeToggled());
        return true;
      case 't':
        this.tap.tap();
        return true;
      case 'i':
        if (part) this.store.dispatch(SessionActions.aloneToggled({ part: part.id }));
        return part !== null;
      case 'q':
        if (part) this.store.dispatch(ScoreActions.partChanged({ part: part.id, change: { muted: !part.muted } }));
        return part !== null;
      case '-':
        return this.level(-5);
      case '+':
        return this.level(5);
      case 'p': {
        const view = this.view();
        if (view) void this.playback.play(this.playback.span()?.from ?? view.start);
        return true;
      }
      default:
        return false;
    }
  }

  private level(by: number): boolean {
    const part = this.part();
    if (!part) return false;
    const level = Math.max(0, Math.min(100, part.level + by));
    this.store.dispatch(ScoreActions.partChanged({ part: part.id, change: { level }, gesture: `level ${part.id}` }));
    return true;
  }

  private moveSection(by: number): boolean {
    const placed = this.placed();
    const place = placed.findIndex(({ occurrence }) => occurrence.id === this.view()?.occurrence.id);
    const next = placed[Math.max(0, Math.min(placed.length - 1, place + by))];
    if (next) this.store.dispatch(SessionActions.occurrenceViewed({ occurrence: next.occurrence.id }));
    return true;
  }

  /** Back to the chosen take, or out of a bar selection. */
  private back(): boolean {
    if (this.session().pendingGround) {
      this.store.dispatch(SessionActions.groundTried({ pending: null }));
      return true;
    }
    const section = this.section();
    if (section && this.desk.backToChosen(section.id, this.line())) return true;
    if (this.session().bars) this.store.dispatch(SessionActions.barsSelected({ bars: null }));
    else return false;
    return true;
  }

  chooseAll(): boolean {
    this.desk.chooseAll();
    return true;
  }

  private nextRegion(by: 1 | -1): boolean {
    const regions = REGIONS.map((name) => document.querySelector<HTMLElement>(`[data-region="${name}"]`)).filter(
      (region) => region !== null,
    );
    const now = regions.findIndex((region) => region.contains(document.activeElement));
    const next = regions[(now + by + regions.length) % regions.length];
    const first = next?.querySelector<HTMLElement>(
      '[data-region-start], [tabindex="0"], button:not(:disabled), input, select',
    );
    (first ?? next)?.focus();
    return true;
  }
}

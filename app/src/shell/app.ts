import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, untracked } from '@angular/core';
import { Router, RouterOutlet } from '@angular/router';
import { Store } from '@ngrx/store';
import { instrumentOf } from '@fendro/core/sounding/instruments';
import { Banks } from '../sound/banks';
import { SoundEngine } from '../sound/engine';
import { Playback } from '../sound/playback';
import { Drafting } from '../state/drafting';
import { Library } from '../state/library';
import { Saving } from '../state/saving';
import { selectSaving, selectScore } from '../state/selectors';
import { Shelf } from '../state/shelf';
import { Icon } from '../ui/icon';
import { Theme } from '../ui/theme';
import { DraftClient } from '../work/draft-client';
import { GroundQuestion } from './ground-question';
import { Keys } from './keys';
import { KeySheet } from './key-sheet';
import { Notices } from './notices';
import { ScaleEditor } from './scale-editor';
import { SongLine } from './song-line';

/** The frame around every page: the song line, notices, and the keys that work anywhere. */
@Component({
  selector: 'fd-root',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [RouterOutlet, SongLine, GroundQuestion, ScaleEditor, Icon, KeySheet],
  template: `
    <a class="skip" href="#main" (click)="skip($event)">Skip to the page</a>
    @if (score()) { <fd-song-line (scaleAsked)="scaleOpen.set(!scaleOpen())" /> }
    <fd-ground-question />
    @if (scaleOpen()) { <fd-scale-editor (closed)="scaleOpen.set(false)" /> }
    @for (notice of problems(); track notice) {
      <div class="bar" role="alert"><span>{{ notice }}</span></div>
    }
    @for (notice of notices.open(); track notice.id) {
      <div class="bar soft" role="status">
        <span>{{ notice.text }}</span>
        @if (notice.action; as action) { <button class="button small" (click)="notices.act(notice)">{{ action.label }}</button> }
        <button class="button bare small" aria-label="Dismiss" (click)="notices.dismiss(notice.id)"><fd-icon name="close" /></button>
      </div>
    }
    <main id="main" tabindex="-1">
      @if (opened()) { <router-outlet /> } @else if (failure()) {
        <div class="failure"><h1>The song could not be opened</h1><p>{{ failure() }}</p></div>
      } @else { <p class="quiet opening">Opening your song …</p> }
    </main>
    @if (keys.sheetOpen()) { <fd-key-sheet (closed)="keys.sheetOpen.set(false)" /> }
    <div class="spoken-only" aria-live="polite">{{ drafting.news() }}</div>
  `,
  styleUrl: './app.scss',
  host: { '(document:keydown)': 'keys.handle($event)', '(document:pointerdown)': 'wake()', '(document:click)': 'letGo($event)' },
})
export class App {
  private readonly store = inject(Store);
  private readonly library = inject(Library);
  private readonly engine = inject(SoundEngine);
  private readonly banks = inject(Banks);
  private readonly router = inject(Router);
  private readonly playback = inject(Playback);
  private readonly saving = inject(Saving);
  private readonly shelf = inject(Shelf);
  protected readonly keys = inject(Keys);
  protected readonly notices = inject(Notices);
  protected readonly drafting = inject(Drafting);
  protected readonly score = this.store.selectSignal(selectScore);
  protected readonly opened = signal(false);
  protected readonly scaleOpen = signal(false);
  protected readonly failure = signal<string | null>(null);
  private readonly savingState = this.store.selectSignal(selectSaving);

  /** What stays true until it is mended. */
  protected readonly problems = computed(() => {
    const sound = this.engine.state();
    return [
      ...(sound.kind === 'failed' ? [sound.reason] : []),
      ...(this.savingState() === 'failed' ? ['The last changes could not be saved: the browser’s storage is full or blocked. Save the song as a file from the Deliver page, then free some space.'] : []),
      ...(this.shelf.problem() ? [this.shelf.problem() ?? ''] : []),
      ...(this.saving.elsewhere() ? ['This song is open in another tab. Changes made here are not saved; close the other tab and reload this one.'] : []),
    ];
  });

  constructor() {
    inject(Theme);
    inject(DraftClient).warmUp();
    void this.library.openLast().then((result) => {
      if (!result.ok) {
        if (this.score()) this.notices.say(result.reason);
        else this.failure.set(result.reason);
      } else if (result.setAside.length > 0) this.notices.say(`${result.setAside.length} damaged ${result.setAside.length === 1 ? 'piece was' : 'pieces were'} set aside; everything else is here.`);
      this.opened.set(this.score() !== null);
    }).catch((problem: unknown) => { this.failure.set(problem instanceof Error ? problem.message : String(problem)); });
    effect(() => {
      const score = this.score();
      const span = untracked(() => this.playback.span());
      if (!score || !span) return;
      const soon = untracked(() => this.playback.familiesIn(score, span));
      const all = score.parts.map(({ instrument }) => instrumentOf(instrument).family);
      this.banks.warm([...soon, ...all], (family) => this.engine.has([family]));
    });
    effect(() => {
      document.title = this.router.url === '/' ? `${this.score()?.title ?? 'Song'} – Fendro` : document.title;
    });
  }

  /** The first click anywhere wakes the sound, so that play answers at once. */
  protected wake(): void {
    if (this.engine.state().kind === 'asleep') void this.engine.start();
  }

  /** A mouse click leaves no focus on buttons, so that keys go on working where the writer listens. */
  protected letGo(event: MouseEvent): void {
    const button = event.target instanceof Element ? event.target.closest('button') : null;
    if (event.detail > 0 && button === document.activeElement && !button?.matches('[aria-haspopup], [role="menuitem"], [role="spinbutton"]')) button?.blur();
  }

  protected skip(event: Event): void {
    event.preventDefault();
    document.getElementById('main')?.focus();
  }
}

import {
  afterEveryRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  signal,
  untracked,
} from '@angular/core';
import { MatButton } from '@angular/material/button';
import { NavigationEnd, Router, RouterLink, RouterLinkActive, RouterOutlet } from '@angular/router';
import { Store } from '@ngrx/store';
import { instrumentOf } from '@fendro/core/sounding/instruments';
import { Keys } from '../commands/keys';
import { Banks } from '../sound/banks';
import { SoundEngine } from '../sound/engine';
import { Passes } from '../sound/passes';
import { Playback } from '../sound/playback';
import { Library, type Result } from '../desks/library';
import { Notices } from '../store/notices';
import { Saving } from '../store/saving';
import { selectScore, selectSong } from '../store/selectors';
import { Shelf } from '../store/shelf';
import { fetchAhead } from '../ui/fetch-ahead';
import { Theme } from '../ui/theme';
import { DraftClient } from '../work/draft-client';
import { Announcements } from './announcements';
import { FailedOpening } from './failed-opening';
import { FocusKeeper } from './focus-keeper';
import { GroundQuestion } from './ground-question';
import { Mishaps } from '../store/mishaps';
import { ScaleEditor } from './scale-editor';
import { SongLine } from './song-line';
import { wakeDevices } from './wake-devices';
import { wakeGuides } from './wake-guides';
import { inWords } from '../ui/in-words';
import { sessionFeature } from '../store/session';

/** The frame around every page: the song line, what must be warned of, and the keys that work anywhere. */
@Component({
  selector: 'fd-root',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    FailedOpening,
    RouterLink,
    RouterLinkActive,
    RouterOutlet,
    SongLine,
    GroundQuestion,
    ScaleEditor,
    MatButton,
  ],
  template: `
    <a class="skip" href="#main" (click)="skip($event)">Skip to the page</a>
    @if (score()) {
      <fd-song-line (scaleAsked)="scaleOpen.set(!scaleOpen())" />
    }
    @defer (when asking()) {
      <fd-ground-question />
    }
    @if (scaleOpen()) {
      @defer (on immediate) {
        <fd-scale-editor (closed)="scaleOpen.set(false)" />
      }
    }
    @if (!score() && settled()) {
      <nav class="ways-on" aria-label="Fendro">
        <a matButton routerLink="/">Fendro</a>
        <a matButton routerLink="/songs" routerLinkActive="here">Songs</a>
        <a matButton routerLink="/bring-in" routerLinkActive="here">Bring in</a>
        <a matButton routerLink="/help" routerLinkActive="here">Help</a>
      </nav>
    }
    <section aria-label="Warnings">
      @for (notice of problems(); track notice) {
        <div class="bar" role="alert">
          <span>{{ notice }}</span>
        </div>
      }
    </section>
    <main id="main" tabindex="-1">
      @if (score() || (settled() && standsAlone())) {
        <router-outlet />
      } @else if (failure(); as failure) {
        @defer (on immediate) {
          <fd-failed-opening [reason]="failure.reason" [song]="failure.song" (again)="openLast()" (demo)="openDemo()" />
        } @error {
          <p role="alert">{{ failure.reason }} Reload this page to go on.</p>
        }
      } @else if (!settled()) {
        <p class="quiet opening">Opening your song …</p>
      }
    </main>
  `,
  styleUrl: './app.scss',
  host: {
    '(document:keydown)': 'keys.down($event)',
    '(document:keyup)': 'keys.up($event)',
    '(window:blur)': 'keys.letGo()',
    '(document:pointerdown)': 'wake()',
    '(document:click)': 'letGo($event)',
  },
})
export class App {
  private readonly store = inject(Store);
  private readonly library = inject(Library);
  private readonly engine = inject(SoundEngine);
  private readonly banks = inject(Banks);
  private readonly router = inject(Router);
  private readonly playback = inject(Playback);
  private readonly passes = inject(Passes);
  private readonly saving = inject(Saving);
  private readonly shelf = inject(Shelf);
  protected readonly keys = inject(Keys);
  private readonly notices = inject(Notices);
  private readonly mishaps = inject(Mishaps);
  private readonly song = this.store.selectSignal(selectSong);
  private readonly pendingGround = this.store.selectSignal(sessionFeature.selectPendingGround);
  /** True while it is asked how the music follows a change of key. */
  protected readonly asking = computed(() => this.pendingGround() !== null);
  protected readonly score = this.store.selectSignal(selectScore);
  protected readonly scaleOpen = signal(false);
  /** True once the first song is open or could not be opened. */
  protected readonly settled = signal(false);
  private readonly failed = signal<{ readonly reason: string; readonly song?: string } | null>(null);
  protected readonly failure = computed(() => this.mishaps.unshown() ?? this.failed());
  private readonly address = signal('/');
  /** Pages that need no song. */
  protected readonly standsAlone = computed(() => ['/songs', '/bring-in', '/help', '/parts'].includes(this.address()));

  /** What stays true until it is mended. */
  protected readonly problems = computed(() => {
    const sound = this.engine.state();
    return [
      ...(sound.kind === 'failed' ? [sound.reason] : []),
      ...(this.engine.missing() === null ? [] : [this.engine.missing() ?? '']),
      ...(this.saving.failure() === null
        ? []
        : [
            `The last changes are not saved: ${this.saving.failure()}. Fendro goes on trying; until then, keep ` +
              'the song as a file from the Deliver page.',
          ]),
      ...(this.saving.rescued()
        ? ['The browser had deleted this song from its storage. It was written whole again; other songs may be gone.']
        : []),
      ...this.shelf.problems(),
      ...(this.saving.elsewhere()
        ? [
            'This song is open in another tab. Changes made here are not saved until the other tab is closed; if ' +
              'it was changed there, reload this one.',
          ]
        : []),
    ];
  });

  constructor() {
    wakeDevices();
    wakeGuides();
    inject(Theme);
    const drafts = inject(DraftClient);
    fetchAhead(() => {
      drafts.warmUp();
    });
    inject(FocusKeeper);
    inject(Announcements);
    this.router.events.subscribe((event) => {
      if (event instanceof NavigationEnd) this.address.set(event.urlAfterRedirects.split(/[?#]/)[0] ?? '/');
    });
    this.openLast();
    afterEveryRender(() => {
      // The workspace tells for itself.
      const id = untracked(this.song).open?.id;
      if (id !== undefined && untracked(this.address) !== '/') this.mishaps.wasShown(id);
    });
    effect(() => {
      const score = this.score();
      const span = untracked(() => this.playback.span());
      if (!score || !span) return;
      const soon = untracked(() => this.passes.familiesIn(span));
      const all = score.parts.map(({ instrument }) => instrumentOf(instrument).family);
      this.banks.warm([...soon, ...all], (family) => this.engine.has([family]));
    });
    effect(() => {
      document.title = this.router.url === '/' ? `${this.score()?.title ?? 'Song'} – Fendro` : document.title;
    });
  }

  protected openLast(): void {
    this.opens(this.library.openLast());
  }

  protected openDemo(): void {
    this.opens(this.library.openDemo());
  }

  private opens(opening: Promise<Result>): void {
    void opening
      .catch((problem: unknown): Result => ({ ok: false, reason: inWords(problem) }))
      .then((result) => {
        this.failed.set(result.ok ? null : result);
        this.settled.set(true);
        if (result.ok && result.remark !== null) this.notices.sayUntilRead(result.remark);
      });
  }

  /** The first click anywhere wakes the sound, so that play answers at once. */
  protected wake(): void {
    if (this.engine.state().kind === 'asleep') void this.engine.start();
  }

  /** A mouse click leaves no focus on buttons, so that keys go on working where the writer listens. */
  protected letGo(event: MouseEvent): void {
    const button = event.target instanceof Element ? event.target.closest('button') : null;
    if (
      event.detail > 0 &&
      button === document.activeElement &&
      !button?.matches('[aria-haspopup], [role="menuitem"], [role="spinbutton"]')
    )
      document.getElementById('main')?.focus({ preventScroll: true });
  }

  protected skip(event: Event): void {
    event.preventDefault();
    document.getElementById('main')?.focus();
  }
}

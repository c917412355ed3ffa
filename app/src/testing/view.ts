import { signal, type EnvironmentProviders, type Provider, type Type } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { Store, type Action } from '@ngrx/store';
import type { Score } from '@fendro/core/song/schema';
import type { Takes } from '@fendro/core/song/resolve';
import { scoreWith } from '@fendro/core/testing/scores';
import { musicOf, storedSong } from '@fendro/core/testing/sounding';
import type { Span } from '@fendro/core/sounding/course';
import { fireEvent, queries, within, type BoundFunctions } from '@testing-library/dom';
import { Dialogs } from '../commands/dialogs';
import { Keys } from '../commands/keys';
import type { LiveSound } from '../sound/live-sound';
import { Playback } from '../sound/playback';
import type { Position, Watcher } from '../sound/position-watch';
import { type SessionState } from '../store/session';
import { selectOwnScore, selectSession, selectSong } from '../store/selectors';
import { provideIcons } from '../ui/icons';
import { provideMaterial } from '../ui/material';
import { SongActions } from '../store/song.actions';
import { type SongState } from '../store/song.reducer';
import { provideSong } from '../store/provide-song';

/** Shows single components for specs, over the real store and a small song that is open. */

export const SMALL = scoreWith(1, 0);

/** Playback that makes no sound and keeps what it was asked. */
export const silentPlayback = () => ({
  playing: () => false,
  waiting: () => false,
  play: jest.fn(() => Promise.resolve()),
  playIfStopped: jest.fn(),
  toggle: jest.fn(() => Promise.resolve()),
  stop: jest.fn(),
  watch: () => () => undefined,
  placeAt: () => null,
  ledTempo: () => null,
  beginnings: () => 0,
  queued: [],

  guest: Object.assign(() => null, { set: jest.fn() }),
  triedInstrument: signal<{ part: string; instrument: string } | null>(null),
});

/** Hands that make no sound, and keep what they would sound. */
export const quietHands = () => ({
  awake: () => false,
  prepare: jest.fn(() => Promise.resolve(true)),
  sound: jest.fn<undefined, Parameters<LiveSound['sound']>>(),
  bend: jest.fn(),
  waver: jest.fn(),
  quiet: jest.fn(),
});

/** Silent playback of a loop that stands wherever a spec says. */
export function steppedPlayback(span: Span) {
  const watchers = new Set<Watcher>();
  return {
    playback: {
      ...silentPlayback(),
      span: () => span,
      watch: (watcher: Watcher) => {
        watchers.add(watcher);
        return () => watchers.delete(watcher);
      },
    },
    /** Tells all that watch where the music is; null where it stops. */
    tell(position: Position | null): void {
      for (const watcher of watchers) watcher(position);
    },
    watched: (): boolean => watchers.size > 0,
  };
}

interface Wish {
  readonly score?: Score;
  readonly takes?: Takes;
  readonly inputs?: Readonly<Record<string, unknown>>;
  readonly providers?: readonly Provider[];
  /** What happens by itself; nothing where nothing is said. */
  readonly effects?: readonly EnvironmentProviders[];
  /** False where the test's module was prepared already. */
  readonly anew?: boolean;
  /** True where keys are to reach the commands, as in the application. */
  readonly keys?: boolean;
  /** What was done since the song was opened. */
  readonly done?: readonly Action[];
}

/** A component on its own page, and what lies behind it. */
export class View<C> {
  readonly page: HTMLElement;
  readonly store = TestBed.inject(Store);
  readonly dispatched: jest.SpyInstance;

  constructor(readonly fixture: ComponentFixture<C>) {
    this.page = fixture.nativeElement as HTMLElement;
    this.dispatched = jest.spyOn(this.store, 'dispatch');
    // What is on the page has focus, labels and roles as in the application.
    document.body.append(this.page);
    fixture.detectChanges();
  }

  get by(): BoundFunctions<typeof queries> {
    return within(this.page);
  }

  /** Does something on the page, and shows what comes of it. */
  act(what: () => unknown): void {
    what();
    this.fixture.detectChanges();
  }

  click(role: string, name: string | RegExp): void {
    this.act(() => fireEvent.click(this.by.getByRole(role, { name })));
  }

  press(target: Element, key: string, more: KeyboardEventInit = {}): void {
    this.act(() => fireEvent.keyDown(target, { key, ...more }));
  }

  /** Types into a field or picks from a list. */
  set(role: string, name: string | RegExp, value: string, kind: 'input' | 'change' = 'change'): void {
    const field = this.by.getByRole(role, { name });
    this.act(() => {
      // As browsers do: what is typed comes first, and counts when the field is left.
      if (kind === 'change' && field.tagName !== 'SELECT') fireEvent.input(field, { target: { value } });
      fireEvent[kind](field, { target: { value } });
    });
  }

  /** Finds something by its words in a long list, and takes what is called so, else the first. */
  find(name: string, words: string): void {
    const field = this.by.getByRole<HTMLInputElement>('combobox', { name });
    // The list opens where the focus comes to the field.
    field.blur();
    this.act(() => {
      field.focus();
    });
    this.act(() => fireEvent.input(field, { target: { value: words } }));
    const found = [...document.querySelectorAll('mat-option')];
    const option =
      found.find(({ textContent }) => textContent.trim().toLowerCase() === words.toLowerCase()) ?? found[0];
    if (!option) throw new Error(`nothing by “${words}” in ${name}`);
    this.act(() => fireEvent.click(option));
  }

  show(inputs: Readonly<Record<string, unknown>>): void {
    for (const [name, value] of Object.entries(inputs)) this.fixture.componentRef.setInput(name, value);
    this.fixture.detectChanges();
  }

  get score(): Score {
    const score = this.store.selectSignal(selectOwnScore)();
    if (!score) throw new Error('no song is open');
    return score;
  }
  get song(): SongState {
    return this.store.selectSignal(selectSong)();
  }
  get session(): SessionState {
    return this.store.selectSignal(selectSession)();
  }
}

let listening = new AbortController();

export function viewOf<C>(component: Type<C>, wish: Wish = {}): View<C> {
  const { score = SMALL.score, takes = SMALL.takes, inputs = {}, providers = [], effects = [], done = [] } = wish;
  document.body.replaceChildren();
  if (wish.anew !== false) TestBed.resetTestingModule();
  TestBed.configureTestingModule({
    providers: [
      provideSong(),
      provideRouter([]),
      {
        provide: Dialogs,
        useValue: { openKeys: jest.fn(), openSearch: jest.fn(), openCarry: jest.fn(), warmUp: jest.fn() },
      },
      provideIcons(),
      provideMaterial(),
      { provide: Playback, useValue: silentPlayback() },
      ...effects,
      ...providers,
    ],
  });
  const store = TestBed.inject(Store);
  store.dispatch(SongActions.opened({ song: storedSong(musicOf(score, takes)) }));
  for (const action of done) store.dispatch(action);
  listening.abort();
  listening = new AbortController();
  if (wish.keys) {
    const { signal } = listening;
    const keys = TestBed.inject(Keys);
    document.addEventListener(
      'keydown',
      (event) => {
        keys.down(event);
      },
      { signal },
    );
    document.addEventListener(
      'keyup',
      (event) => {
        keys.up(event);
      },
      { signal },
    );
  }
  const fixture = TestBed.createComponent(component);
  for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
  return new View(fixture);
}

import { TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
import { Store } from '@ngrx/store';
import { scoreWith } from '@fendro/core/testing/scores';
import { musicOf, storedSong } from '@fendro/core/testing/sounding';
import { Playback } from '../sound/playback';
import { Saving } from '../store/saving';
import { selectHeard, selectOwnScore, selectSession, selectView } from '../store/selectors';
import { SessionActions } from '../store/session';
import { SongActions, TakeActions } from '../store/song.actions';
import { silentPlayback } from '../testing/view';
import { Dialogs } from './dialogs';
import { Keys } from './keys';
import { chosenId } from '@fendro/core/song/section';
import { provideSong } from '../store/provide-song';

const { score, takes } = scoreWith(1, 0);
const [melody] = score.parts;
const verse = score.sections[0]!;

describe('the keys of the workspace', () => {
  let store: Store;
  let keys: Keys;
  const playback = silentPlayback();
  const router = { url: '/', navigateByUrl: jest.fn() };
  const dialogs = { openKeys: jest.fn(), openSearch: jest.fn(), isOpening: false };
  const saving = { now: jest.fn(() => Promise.resolve()) };
  const read = <T>(selector: (state: object) => T): T => store.selectSignal(selector)();
  const part = () => read(selectOwnScore)!.parts[0]!;

  /** Presses a key on an element; true where it was taken. */
  function press(key: string, more: KeyboardEventInit = {}, on: HTMLElement = document.body): boolean {
    const event = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more });
    on.dispatchEvent(event);
    keys.down(event);
    return event.defaultPrevented;
  }

  beforeEach(() => {
    jest.clearAllMocks();
    router.url = '/';
    document.body.innerHTML = '';
    TestBed.configureTestingModule({
      providers: [
        provideSong(),
        { provide: Playback, useValue: playback },
        { provide: Router, useValue: router },
        { provide: Saving, useValue: saving },
        { provide: Dialogs, useValue: dialogs },
      ],
    });
    store = TestBed.inject(Store) as Store;
    keys = TestBed.inject(Keys);
    store.dispatch(SongActions.opened({ song: storedSong(musicOf(score, takes)) }));
    store.dispatch(SessionActions.lineFocused({ line: melody!.id }));
  });

  it('are nobody’s while a sheet that they are meant for is on its way', () => {
    dialogs.isOpening = true;
    expect(press('o')).toBe(false);
    dialogs.isOpening = false;
    expect(press('o')).toBe(true);
  });

  it('play, loop and click', () => {
    const { looping, metronome } = read(selectSession);
    for (const key of [' ', 'o', 'm', 'p']) expect(press(key)).toBe(true);
    expect(playback.toggle).toHaveBeenCalledTimes(1);
    expect(playback.play).toHaveBeenCalledWith(0);
    expect(read(selectSession)).toMatchObject({ looping: !looping, metronome: !metronome });
  });

  it('set the part in focus: quiet, alone, louder and softer within bounds', () => {
    press('q');
    press('i');
    expect(part().muted).toBe(true);
    expect(read(selectSession).alone).toEqual([melody!.id]);
    const { level } = part();
    press('+');
    expect(part().level).toBe(Math.min(100, level + 5));
    for (let times = 0; times < 30; times++) press('-');
    expect(part().level).toBe(0);
  });

  it('undo and redo, deliver and save, with Control only', () => {
    press('q');
    expect(press('z', { ctrlKey: true })).toBe(true);
    expect(part().muted).toBe(false);
    press('Z', { ctrlKey: true, shiftKey: true });
    expect(part().muted).toBe(true);
    press('e', { ctrlKey: true });
    expect(router.navigateByUrl).toHaveBeenCalledWith('/deliver');
    press('s', { ctrlKey: true });
    expect(saving.now).toHaveBeenCalled();
    expect(press('x', { ctrlKey: true })).toBe(false);
    expect(press('q', { altKey: true })).toBe(false);
  });

  it('go from section to section and stay at both ends', () => {
    const place = () => read(selectView)!.occurrence.id;
    press('PageDown');
    expect(place()).toBe('occurrence-2');
    press('PageDown');
    press('PageDown');
    expect(place()).toBe('occurrence-3');
    for (let times = 0; times < 4; times++) press('PageUp');
    expect(place()).toBe('occurrence-1');
  });

  it('go back from a heard take, then out of a selection, then do nothing', () => {
    const heard = `${verse.id}-${melody!.id}-1`;
    store.dispatch(SessionActions.barsSelected({ bars: { from: 0, to: 1 } }));
    store.dispatch(TakeActions.heard({ section: verse.id, line: melody!.id, take: heard }));
    press('Escape');
    expect(read(selectHeard)[verse.id]?.[melody!.id]).toBeUndefined();
    expect(read(selectSession).bars).not.toBeNull();
    press('Escape');
    expect(read(selectSession).bars).toBeNull();
    expect(press('Escape')).toBe(false);
  });

  it('choose all that is heard with Shift Enter', () => {
    const heard = `${verse.id}-${melody!.id}-1`;
    store.dispatch(TakeActions.heard({ section: verse.id, line: melody!.id, take: heard }));
    expect(press('Enter', { shiftKey: true })).toBe(true);
    expect(chosenId(read(selectOwnScore)!.sections[0]!, melody!.id)).toBe(heard);
  });

  it('leave letters to fields, everything to dialogs and what was handled, and most to the song’s own page', () => {
    const field = document.body.appendChild(document.createElement('input'));
    for (const key of ['q', ' ', '?']) expect(press(key, {}, field)).toBe(false);
    expect(press('z', { ctrlKey: true }, field)).toBe(false);
    router.url = '/deliver';
    expect(press('q')).toBe(false);
    press('?');
    expect(dialogs.openKeys).toHaveBeenCalledTimes(1);
    press('k', { ctrlKey: true }, field);
    expect(dialogs.openSearch).toHaveBeenCalledTimes(1);
    router.url = '/';
    const overlay = document.body.appendChild(document.createElement('div'));
    overlay.className = 'cdk-overlay-container';
    overlay.innerHTML = '<div class="cdk-overlay-backdrop"></div><button>x</button>';
    expect(press('q')).toBe(false);
    expect(press('q', {}, overlay.querySelector('button')!)).toBe(false);
    expect(part().muted).toBe(false);
  });

  it('are the workspace’s again as soon as a closing menu has given the focus back', () => {
    document.body.innerHTML =
      '<button>x</button><div class="cdk-overlay-container"><div class="cdk-overlay-backdrop"></div></div>';
    expect(press('q', {}, document.querySelector('button')!)).toBe(true);
    expect(part().muted).toBe(true);
  });

  it('go round the regions with F6, and back with Shift', () => {
    document.body.innerHTML = ['song-line', 'sheet', 'bench']
      .map((name) => `<div data-region="${name}"><button id="${name}">x</button></div>`)
      .join('');
    const order = ['F6', 'F6', 'F6', 'F6'].map((key) => (press(key), document.activeElement!.id));
    expect(order).toEqual(['song-line', 'sheet', 'bench', 'song-line']);
    press('F6', { shiftKey: true });
    expect(document.activeElement!.id).toBe('bench');
  });

  it('mean bars and parts on the sheet, and takes and parts elsewhere, whatever has the focus', () => {
    document.body.innerHTML = ['sheet', 'bench']
      .map((name) => `<div data-region="${name}"><span id="${name}">x</span></div>`)
      .join('');
    const click = (id: string): void => {
      document.getElementById(id)!.dispatchEvent(new MouseEvent('pointerdown', { bubbles: true }));
    };
    const line = () => read(selectSession).line;
    click('sheet');
    press('ArrowRight');
    expect(read(selectSession).cursor).toBe(1);
    press('ArrowLeft', { shiftKey: true });
    expect(read(selectSession).bars).toEqual({ from: 0, to: 2 });
    expect(line()).toBe(melody!.id);
    press('ArrowDown');
    expect(line()).toBe(score.parts[1]!.id);
    press('ArrowUp');
    click('bench');
    press('ArrowRight');
    expect(line()).toBe(score.parts[1]!.id);
    press('ArrowLeft');
    press('ArrowDown');
    expect(read(selectHeard)[verse.id]?.[melody!.id]).toBe(`${verse.id}-${melody!.id}-1`);
  });

  it('let the chosen take sound while C is held, also when the window is left', () => {
    const heard = (): string | undefined => read(selectHeard)[verse.id]?.[melody!.id];
    for (const end of [
      () => {
        keys.up(new KeyboardEvent('keyup', { key: 'c' }));
      },
      () => {
        keys.letGo();
      },
    ]) {
      press('ArrowUp');
      press('ArrowDown');
      const rival = heard();
      expect(rival).toBeDefined();
      press('c');
      expect(heard()).toBeUndefined();
      press('c', { repeat: true });
      end();
      expect(heard()).toBe(rival);
    }
  });

  it('that are held down do again only what may be done again', () => {
    const { looping } = read(selectSession);
    press('o');
    expect(press('o', { repeat: true })).toBe(true);
    expect(read(selectSession).looping).toBe(!looping);
    const { level } = part();
    press('-', { repeat: true });
    expect(part().level).toBe(level - 5);
  });

  it('leave to a control what it does itself', () => {
    const slider = document.body.appendChild(document.createElement('input'));
    slider.type = 'range';
    expect(press('ArrowDown', {}, slider)).toBe(false);
    expect(press('q', {}, slider)).toBe(true);
    const button = document.body.appendChild(document.createElement('button'));
    expect(press('Enter', {}, button)).toBe(false);
  });
});

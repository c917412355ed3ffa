import { TestBed } from '@angular/core/testing';
import { fireEvent } from '@testing-library/dom';
import { Mixer } from '../../sound/mixer';
import { Playback } from '../../sound/playback';
import type { Watcher } from '../../sound/position-watch';
import { SessionActions } from '../../store/session';
import { silentPlayback, SMALL, viewOf } from '../../testing/view';
import { MixDrawer } from './mix-drawer';

const { score } = SMALL;
const [melody, second] = score.parts;
const mix = (playback: object = silentPlayback()) =>
  viewOf(MixDrawer, {
    providers: [{ provide: Playback, useValue: playback }],
    done: [SessionActions.drawerToggled({ drawer: 'mix' })],
  });

describe('the mix', () => {
  // Every picture comes at once.
  beforeEach(() => {
    jest.spyOn(globalThis, 'requestAnimationFrame').mockImplementation((callback) => (callback(0), 0));
  });
  afterEach(() => {
    jest.restoreAllMocks();
  });

  it('has a row for every part, named', () => {
    const view = mix();
    for (const { name } of score.parts) expect(view.by.getByRole('slider', { name: `Level of ${name}` })).toBeTruthy();
    expect(view.by.getAllByRole('row')).toHaveLength(score.parts.length + 1);
  });

  it('sets levels and pans, each drag one step of undo; a double click centres', () => {
    const view = mix();
    for (const level of ['30', '40', '50']) view.set('slider', `Level of ${melody!.name}`, level, 'input');
    expect(view.score.parts[0]!.level).toBe(50);
    expect(view.song.past).toHaveLength(1);
    view.set('slider', `Pan of ${melody!.name}`, '-40', 'input');
    expect(view.score.parts[0]!.pan).toBe(-40);
    expect(view.page.textContent).toContain('L 40');
    view.act(() => fireEvent.dblClick(view.by.getByRole('slider', { name: `Pan of ${melody!.name}` })));
    expect(view.score.parts[0]!.pan).toBe(0);
  });

  it('makes parts quiet and hears them alone', () => {
    const view = mix();
    view.click('button', `Quiet: ${melody!.name}`);
    expect(view.score.parts[0]!.muted).toBe(true);
    expect(view.by.getByRole('button', { name: `Quiet: ${melody!.name}`, pressed: true })).toBeTruthy();
    view.click('button', `Hear alone: ${second!.name}`);
    expect(view.session.alone).toEqual([second!.id]);
    // Hearing alone is no change of the song.
    expect(view.song.past).toHaveLength(1);
  });

  it('renames a part, but not to nothing', () => {
    const view = mix();
    view.set('textbox', `Name of ${melody!.name}`, '  Lead voice ');
    expect(view.score.parts[0]!.name).toBe('Lead voice');
    view.set('textbox', 'Name of Lead voice', '   ');
    expect(view.score.parts[0]!.name).toBe('Lead voice');
    expect(view.by.getByRole('alert').textContent).toContain('stays “Lead voice”');
  });

  it('sets swing and feel of the song', () => {
    const view = mix();
    view.set('slider', /^Swing/, '60', 'input');
    view.set('slider', /^Feel of the style/, '150', 'input');
    expect(view.score.ground).toMatchObject({ swing: 60, feel: 150 });
  });

  it('removes a part', () => {
    const view = mix();
    view.click('button', `Remove ${melody!.name}`);
    expect(view.score.parts.map(({ id }) => id)).not.toContain(melody!.id);
  });

  it('shows what each part sounds, falling back after it ends', () => {
    let watched: Watcher | undefined;
    const view = mix({
      ...silentPlayback(),
      watch: (watcher: Watcher) => {
        watched = watcher;
        return () => undefined;
      },
    });
    jest.spyOn(TestBed.inject(Mixer), 'levelOf').mockImplementation((part) => (part === melody!.id ? 0.25 : 0));
    const level = (name: string): string | null =>
      view.by.getByRole('meter', { name: `Sounding level of ${name}` }).getAttribute('aria-valuenow');
    watched?.({ tick: 960, speed: 1 });
    expect([level(melody!.name), level(second!.name)]).toEqual(['50', '0']);
    watched?.(null);
    expect(level(melody!.name)).toBe('0');
  });
});

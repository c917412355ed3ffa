import type { Provider } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { fireEvent } from '@testing-library/dom';
import { Mixer } from '../../sound/mixer';
import { Playback } from '../../sound/playback';
import type { Watcher } from '../../sound/position-watch';
import { TakeLoudness } from '../../sound/take-loudness';
import { SessionActions } from '../../store/session';
import { silentPlayback, SMALL, viewOf } from '../../testing/view';
import { MixDrawer } from './mix-drawer';

const { score } = SMALL;
const [melody, second] = score.parts;
const mix = (playback: object = silentPlayback(), song = score, providers: readonly Provider[] = []) =>
  viewOf(MixDrawer, {
    score: song,
    providers: [{ provide: Playback, useValue: playback }, ...providers],
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
    for (const { name } of score.parts) expect(view.by.getByRole('rowheader', { name: new RegExp(name) })).toBeTruthy();
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

  it('gives a part a tone, and takes what is said of it back with a double click', () => {
    const view = mix();
    view.click('button', `Tone and instruments of ${melody!.name}`);
    view.set('slider', `Brightness of ${melody!.name}`, '-60', 'input');
    view.set('slider', `Room of ${melody!.name}`, '40', 'input');
    expect(view.score.parts[0]!.tone).toEqual({ brightness: -60, room: 40 });
    expect(view.page.textContent).toContain('60 % darker');
    view.act(() => fireEvent.dblClick(view.by.getByRole('slider', { name: `Brightness of ${melody!.name}` })));
    expect(view.score.parts[0]!.tone).toEqual({ room: 40 });
    expect(view.song.past).toHaveLength(3);
  });

  it('doubles a part on further instruments, each with its octave and level, and takes them off again', () => {
    const view = mix();
    const { name } = melody!;
    view.click('button', `Tone and instruments of ${name}`);
    view.find(`A further instrument for ${name}`, 'violin');
    view.set('combobox', `Octave of instrument 2 of ${name}`, '1');
    view.set('slider', `Level of instrument 2 of ${name}`, '30', 'input');
    view.find(`A further instrument for ${name}`, 'warm pad');
    expect(view.score.parts[0]!.layers).toEqual([
      { instrument: 'violin', octave: 1, level: 30 },
      { instrument: 'warm-pad', octave: 0, level: 70 },
    ]);
    expect(view.by.queryByRole('combobox', { name: `A further instrument for ${name}` })).toBeNull();
    view.click('button', `Take instrument 2 off ${name}`);
    expect(view.score.parts[0]!.layers).toEqual([{ instrument: 'warm-pad', octave: 0, level: 70 }]);
    view.set('combobox', `Octave of ${name}`, '-1');
    expect(view.score.parts[0]!.octave).toBe(-1);
  });

  it('offers the octave that an instrument reaches', () => {
    const low = {
      ...score,
      parts: score.parts.map((part) => (part === melody ? { ...part, instrument: 'acoustic-bass' } : part)),
    };
    const view = mix(silentPlayback(), low);
    expect(view.page.textContent).toMatch(/\d+ notes? above its reach/);
    const [offer] = view.by.getAllByRole('button', { name: /^Sound .* lower$/ });
    view.act(() => fireEvent.click(offer!));
    expect(view.score.parts[0]!.octave).toBeLessThan(0);
    expect(view.by.queryByRole('button', { name: /^Sound .* lower$/ })).toBeNull();
  });

  it('sets the level of the whole, and tells what the limiter takes away', () => {
    let watched: Watcher | undefined;
    const view = mix({
      ...silentPlayback(),
      watch: (watcher: Watcher) => {
        watched = watcher;
        return () => undefined;
      },
    });
    view.set('slider', 'Level of all together', '70', 'input');
    view.set('slider', 'Level of all together', '80', 'input');
    expect([view.score.master, view.song.past.length]).toEqual([80, 1]);
    view.set('slider', 'Level of all together', '100', 'input');
    expect('master' in view.score).toBe(false);
    jest.spyOn(TestBed.inject(Mixer), 'whole', 'get').mockReturnValue({ level: 0.81, reduced: 3.21 });
    watched?.({ tick: 960, speed: 1 });
    expect(view.page.textContent).toContain('Limited at −1 dB, 3.2 dB taken away');
    expect(view.by.getByRole('meter', { name: 'Sounding level of all together' }).getAttribute('aria-valuenow')).toBe(
      '90',
    );
  });

  it('shows who is buried and who sits on whom, and raises the one in one act', async () => {
    jest.useFakeTimers();
    const loud = {
      of: (_music: unknown, _section: unknown, { id }: { id: string }) =>
        Promise.resolve(id === melody!.id ? -40 : -20),
    };
    const level = { ...score, parts: score.parts.map((part) => ({ ...part, level: 50 })) };
    const view = mix(silentPlayback(), level, [{ provide: TakeLoudness, useValue: loud }]);
    await jest.advanceTimersByTimeAsync(600);
    view.fixture.detectChanges();
    expect(view.page.textContent).toContain(`20 dB under ${second!.name}`);
    view.click('button', `Raise to 84: ${melody!.name}`);
    expect(view.score.parts[0]!.level).toBe(84);
    expect(view.page.textContent).not.toContain('dB under');
    jest.useRealTimers();
  });
});

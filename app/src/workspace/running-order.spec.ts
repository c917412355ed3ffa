import { LIMITS } from '@fendro/core/song/limits';
import type { Score } from '@fendro/core/song/schema';
import { fireEvent, within } from '@testing-library/dom';
import { Playback } from '../sound/playback';
import { SessionActions } from '../store/session';
import { silentPlayback, SMALL, viewOf } from '../testing/view';
import { RunningOrder } from './running-order';

const { score } = SMALL;
const [verse, chorus] = score.sections;
const order = (of = score, playback = silentPlayback()) => {
  const view = viewOf(RunningOrder, { keys: true, score: of, providers: [{ provide: Playback, useValue: playback }] });
  const names = (): string[] =>
    view.by.getAllByRole('button', { name: /bars, \d+ of \d+$/ }).map((place) => place.getAttribute('aria-label')!);
  const place = (number: number): HTMLElement => view.by.getByRole('button', { name: new RegExp(`, ${number} of`) });
  const choose = async (button: RegExp, ...items: (string | RegExp)[]): Promise<void> => {
    view.click('button', button);
    for (const name of items) {
      await view.fixture.whenStable();
      view.act(() => fireEvent.click(within(document.body).getByRole('menuitem', { name })));
    }
    await view.fixture.whenStable();
  };
  return { view, names, place, choose };
};

describe('the running order', () => {
  it('names its places, the one in view among them, and its length', () => {
    const { view, names, place } = order();
    expect(names()).toEqual([
      `${verse!.name}, 2 bars, 1 of 3`,
      `${chorus!.name}, 2 bars, 2 of 3`,
      `${verse!.name}, 2 bars, 3 of 3`,
    ]);
    expect(place(1).getAttribute('aria-current')).toBe('true');
    expect([1, 2, 3].map((number) => place(number).tabIndex)).toEqual([0, -1, -1]);
    expect(view.by.getByRole('button', { name: 'The whole song at a glance, 6 bars' }).textContent.trim()).toBe(
      '6 bars',
    );
  });

  it('is walked with the arrow keys, and rearranged with Alt held', () => {
    const { view, place } = order();
    view.press(place(1), 'ArrowRight');
    expect(view.session.occurrence).toBe('occurrence-2');
    view.press(place(2), 'ArrowLeft', { altKey: true });
    expect(view.score.order.map(({ id }) => id)).toEqual(['occurrence-2', 'occurrence-1', 'occurrence-3']);
    // There is nothing before the first.
    view.press(place(1), 'ArrowLeft', { altKey: true });
    view.press(place(1), 'ArrowLeft');
    expect(view.score.order[0]!.id).toBe('occurrence-2');
  });

  it('takes a place out with Delete or the button, but never the last one', () => {
    const { view, place } = order();
    view.press(place(1), 'ArrowRight');
    view.press(place(2), 'Delete');
    expect(view.score.order.map(({ id }) => id)).toEqual(['occurrence-1', 'occurrence-3']);
    expect(view.score.sections).toEqual([verse]);
    view.click('button', /^Take .* out of the running order$/);
    const last = view.by.getByRole('button', { name: /^Take .* out of the running order$/ });
    expect(view.score.order).toHaveLength(1);
    expect(last.getAttribute('aria-disabled')).toBe('true');
  });

  it('looks at a section without moving the music, unless the song plays through', () => {
    const still = silentPlayback();
    const looked = order(score, still);
    looked.view.click('button', /, 2 of/);
    expect(looked.view.session.occurrence).toBe('occurrence-2');
    expect(still.play).not.toHaveBeenCalled();
    const playing = { ...silentPlayback(), playing: () => true };
    const heard = order(score, playing);
    heard.view.click('button', /, 2 of/);
    expect(playing.play).not.toHaveBeenCalled();
    heard.view.store.dispatch(SessionActions.loopToggled());
    heard.view.click('button', /, 3 of/);
    expect(playing.play).toHaveBeenCalledWith(2 * 2 * 1920);
  });

  it('gets new sections after the one in view, the old ones again, and endings', async () => {
    const { view, choose } = order();
    await choose(/Add a section/, 'New bridge');
    expect(view.score.sections.at(-1)).toMatchObject({ kind: 'bridge', name: 'Bridge' });
    expect(view.score.order[1]!.section).toBe(view.score.sections.at(-1)!.id);
    await choose(/Add a section/, `${chorus!.name} again`);
    expect(view.score.order[2]!.section).toBe(chorus!.id);
    await choose(/Add a section/, 'End the song', /last chord held/);
    expect(view.score.sections.at(-1)).toMatchObject({ kind: 'outro', name: 'Ending', bars: 1 });
    expect(view.session.occurrence).toBe(view.score.order.at(-1)!.id);
    await choose(/Add a section/, 'New section in a form', 'Twelve-bar blues');
    expect(view.score.sections.at(-1)).toMatchObject({ bars: 12, harmonyBrief: { form: 'twelve bars' } });
  });

  it('shapes the energy of the whole song, and levels it again', async () => {
    const { view, choose } = order();
    await choose(/^Energy$/, /rising|build|grow|slow/i);
    expect(view.score.energy.length).toBeGreaterThan(1);
    await choose(/^Energy$/, 'none: as drafted');
    expect(view.score.energy).toEqual([]);
  });

  it('says when it is full', async () => {
    const full: Score = {
      ...score,
      order: Array.from({ length: LIMITS.places }, (_, index) => ({ id: `o${index}`, section: verse!.id })),
      sections: [verse!],
    };
    const { view } = order(full);
    view.click('button', /Add a section/);
    await view.fixture.whenStable();
    const items = within(document.body)
      .getAllByRole('menuitem')
      .map((item) => item.textContent.trim());
    expect(items).toEqual([`A running order holds up to ${LIMITS.places} places. Take some out first.`]);
  });
});

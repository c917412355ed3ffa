import { HarmonyDesk } from '../desks/harmony-desk';
import { SessionActions, type PendingGround } from '../store/session';
import { SMALL, viewOf } from '../testing/view';
import { GroundQuestion } from './ground-question';

const { score } = SMALL;
const [verse] = score.sections;
const question = (pending?: PendingGround) => {
  const desk = { applyGround: jest.fn() };
  const view = viewOf(GroundQuestion, {
    providers: [{ provide: HarmonyDesk, useValue: desk }],
    done: pending ? [SessionActions.groundTried({ pending })] : [],
  });
  return { view, desk };
};
const toG: PendingGround = { section: null, change: { tonic: 1 }, how: 'move' };

describe('the question how music follows a change of key', () => {
  it('is not asked while nothing changes', () => {
    expect(question().view.page.textContent.trim()).toBe('');
  });

  it('says from where to where the song goes, or a section by its name', () => {
    expect(question(toG).view.page.textContent).toMatch(/The song goes from \S+ \w.* to G \w/);
    const own = question({ ...toG, section: verse!.id });
    expect(own.view.page.textContent).toMatch(new RegExp(`${verse!.name} goes from .* to G `));
  });

  it('lets each answer be heard before it is given', () => {
    const { view, desk } = question(toG);
    const chosen = (): string => view.by.getByRole<HTMLInputElement>('radio', { checked: true }).value;
    expect(chosen()).toBe('move');
    view.click('radio', 'is re-fitted to the scale');
    expect(view.session.pendingGround).toEqual({ ...toG, how: 'refit' });
    expect(chosen()).toBe('refit');
    expect(desk.applyGround).not.toHaveBeenCalled();
    view.click('button', 'Change');
    expect(desk.applyGround).toHaveBeenCalledTimes(1);
  });

  it('is answered with Enter, left with Escape, and undone by its button', () => {
    const { view, desk } = question(toG);
    view.press(view.by.getByRole('radiogroup'), 'Enter');
    expect(desk.applyGround).toHaveBeenCalledTimes(1);
    view.press(view.by.getByRole('radiogroup'), 'Escape');
    expect(view.session.pendingGround).toBeNull();
    const again = question(toG);
    again.view.click('button', 'Leave as it was');
    expect(again.view.session.pendingGround).toBeNull();
    expect(again.view.score).toBe(again.view.score);
  });
});

import { SessionActions } from '../../store/session';
import { SMALL, viewOf } from '../../testing/view';
import { OverviewDrawer } from './overview-drawer';

const [melody, second] = SMALL.score.parts;

describe('the whole song at a glance', () => {
  const opened = () => {
    const view = viewOf(OverviewDrawer, { done: [SessionActions.lineFocused({ line: melody!.id })] });
    const surface = view.by.getByRole('application', { name: /The whole song/ });
    return { view, surface, told: () => view.by.getByRole('status').textContent };
  };

  it('says what each part does in each bar, and goes there by Enter', () => {
    const { view, surface, told } = opened();
    expect(told()).toContain(`bar 1: ${melody!.name}`);
    view.press(surface, 'ArrowRight');
    view.press(surface, 'ArrowDown');
    expect(told()).toContain(`bar 2: ${second!.name}`);
    for (let bar = 0; bar < 2; bar++) view.press(surface, 'ArrowRight');
    view.press(surface, 'Enter');
    expect(view.session).toMatchObject({ occurrence: SMALL.score.order[1]!.id, line: second!.id, cursor: 1 });
    view.press(surface, 'Home');
    expect(told()).toContain('bar 1');
  });

  it('leaves keys that are not its own to the page', () => {
    const { surface, told, view } = opened();
    const before = told();
    const event = new KeyboardEvent('keydown', { key: 'z', cancelable: true });
    surface.dispatchEvent(event);
    view.press(surface, 'ArrowRight', { ctrlKey: true });
    expect([event.defaultPrevented, told()]).toEqual([false, before]);
  });

  it('follows what is in view', () => {
    const { view, told } = opened();
    view.act(() => {
      view.store.dispatch(SessionActions.occurrenceViewed({ occurrence: SMALL.score.order[2]!.id }));
    });
    expect(told()).toContain(SMALL.score.sections.find(({ id }) => id === SMALL.score.order[2]!.section)!.name);
  });
});

import { fireEvent } from '@testing-library/dom';
import { SessionActions, type Drawer } from '../store/session';
import { viewOf, type View } from '../testing/view';
import { DrawerFrame } from './drawer-frame';
import { DRAWER_IDS, DRAWERS } from './registry';

async function opened(drawer: Drawer): Promise<View<DrawerFrame>> {
  const view = viewOf(DrawerFrame, { inputs: { drawer }, done: [SessionActions.drawerToggled({ drawer })] });
  await view.fixture.whenStable();
  view.fixture.detectChanges();
  return view;
}
const handle = (view: View<DrawerFrame>): HTMLElement =>
  view.by.getByRole('separator', { name: 'Height of the drawer' });
const height = (view: View<DrawerFrame>): number => Number(handle(view).getAttribute('aria-valuenow'));

describe('the frame of a drawer', () => {
  beforeEach(() => {
    localStorage.clear();
  });

  it('shows every drawer of the registry under its name, with a way out', async () => {
    for (const id of DRAWER_IDS) {
      const view = await opened(id);
      const { name } = DRAWERS[id];
      expect(view.by.getByRole('region', { name })).toBeTruthy();
      expect(view.by.getByRole('heading', { name })).toBeTruthy();
      view.click('button', `Close the ${name.toLowerCase()}`);
      expect(view.session.drawer).toBeNull();
    }
  });

  it('is pulled higher and lower by keys and by hand, up to two thirds of the window, and stays so', async () => {
    const view = await opened('mix');
    const usual = height(view);
    view.press(handle(view), 'ArrowUp');
    expect(height(view)).toBeGreaterThan(usual);
    view.press(handle(view), 'End');
    expect(height(view)).toBe(Math.floor((window.innerHeight * 2) / 3));
    view.press(handle(view), 'Home');
    const least = height(view);
    expect(least).toBeLessThan(usual);
    handle(view).setPointerCapture = jest.fn();
    const pointer = (kind: string, clientY: number): void => {
      view.act(() => fireEvent(handle(view), new MouseEvent(kind, { bubbles: true, clientY })));
    };
    pointer('pointerdown', 500);
    pointer('pointermove', 440);
    pointer('pointerup', 440);
    pointer('pointermove', 100);
    expect(height(view)).toBe(least + 60);
    expect(height(await opened('mix'))).toBe(least + 60);
    expect(height(await opened('styles'))).toBe(DRAWERS.styles.height);
    const again = await opened('mix');
    again.act(() => fireEvent.dblClick(handle(again)));
    expect(height(again)).toBe(usual);
  });
});

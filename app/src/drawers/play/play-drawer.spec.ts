import { fireEvent } from '@testing-library/dom';
import { TestBed } from '@angular/core/testing';
import { LiveSound } from '../../sound/live-sound';
import { PlayDesk } from '../../desks/playing/play-desk';
import { PlayPort } from '../../desks/playing/play-port';
import { SessionActions } from '../../store/session';
import { HARMONY } from '@fendro/core/song/schema';
import { quietHands, SMALL, viewOf } from '../../testing/view';
import { PlayDrawer } from './play-drawer';

const DRUMS = SMALL.score.parts.find(({ role }) => role === 'drums')!;
const KEYS = SMALL.score.parts.find(({ role }) => role !== 'drums' && role !== 'melody' && role !== 'bass')!;

describe('the play desk', () => {
  const live = quietHands();

  const opened = (line: string = KEYS.id) => {
    const view = viewOf(PlayDrawer, {
      providers: [{ provide: LiveSound, useValue: live }],
      done: [SessionActions.lineFocused({ line })],
      keys: true,
    });
    const desk = TestBed.inject(PlayDesk);
    const down = (
      code: string,
      key = code.replace('Key', '').toLowerCase(),
      target: Element = document.body,
    ): boolean => {
      let passed = true;
      view.act(() => (passed = fireEvent.keyDown(target, { code, key })));
      return passed;
    };
    const up = (code: string): void => {
      view.act(() => fireEvent.keyUp(document.body, { code, key: code.replace('Key', '').toLowerCase() }));
    };
    return { view, desk, down, up };
  };

  it('is armed when it opens: letters hold chords and touch them, and mean no commands', () => {
    const { view, desk, down, up } = opened();
    const before = view.session;
    expect(down('KeyQ')).toBe(false);
    expect(down('KeyJ')).toBe(false);
    expect(desk.hands().sounding.size).toBeGreaterThan(2);
    const [first] = view.by.getAllByRole('button', { name: /of this section$/ });
    expect(first!.classList).toContain('down');
    up('KeyJ');
    up('KeyQ');
    expect(desk.hands().sounding.size).toBe(0);
    // M is the metronome elsewhere.
    down('KeyM');
    expect(view.session).toBe(before);
  });

  it('lets letters mean what they mean once Escape was pressed, and those that are typed be text', () => {
    const { view, desk, down } = opened();
    const field = document.createElement('input');
    document.body.append(field);
    expect(down('KeyQ', 'q', field)).toBe(true);
    expect(desk.hands().chosen).toBeNull();
    down('KeyQ');
    down('KeyJ');
    down('Escape', 'Escape');
    expect(desk.armed()).toBe(false);
    expect(desk.hands().sounding.size).toBe(0);
    down('KeyM');
    expect(view.session.metronome).toBe(true);
    expect(desk.hands().chosen).toBeNull();
    view.click('button', 'Play by letters');
    expect(desk.armed()).toBe(true);
  });

  it('adds what figures say, and turns the chord by Shift', () => {
    const { desk, down, up } = opened();
    down('KeyQ');
    const plain = desk.hands().chord!.tones.length;
    down('Digit1', '1');
    expect(desk.hands().chord!.tones).toHaveLength(plain + 1);
    up('Digit1');
    expect(desk.hands().chord!.tones).toHaveLength(plain);
    const lowest = desk.hands().pitches[0]! % 12;
    down('ShiftLeft', 'Shift');
    expect(desk.hands().inversion).toBe(1);
    expect(desk.hands().pitches[0]! % 12).not.toBe(lowest);
    up('ShiftLeft');
    expect(desk.hands().inversion).toBeNull();
  });

  it('takes all fingers off when the window loses the keys, and when it is closed', () => {
    const { view, desk, down } = opened();
    down('KeyQ');
    down('KeyJ');
    view.act(() => fireEvent.blur(window));
    expect(desk.hands().sounding.size).toBe(0);
    expect(desk.armed()).toBe(true);
    down('KeyQ');
    down('KeyJ');
    expect(TestBed.inject(PlayPort).acts()).not.toBeNull();
    view.fixture.destroy();
    expect(desk.hands().sounding.size).toBe(0);
    expect(desk.armed()).toBe(false);
    expect(TestBed.inject(PlayPort).acts()).toBeNull();
  });

  it('is played by pointer and by keys of the page as well, each sound as long as it is pressed', () => {
    HTMLElement.prototype.setPointerCapture = jest.fn();
    const { view, desk } = opened(HARMONY);
    const chord = view.by.getAllByRole('button', { name: /of the key$/ })[0]!;
    view.act(() => fireEvent(chord, new MouseEvent('pointerdown', { button: 0, bubbles: true })));
    expect(desk.hands().holding).toHaveLength(1);
    view.act(() => fireEvent.pointerUp(chord));
    expect(desk.hands().holding).toHaveLength(0);
    const stroke = view.by.getByRole('button', { name: 'Stroke down' });
    view.press(stroke, 'Enter');
    expect(desk.hands().sounding.size).toBeGreaterThan(2);
    view.act(() => fireEvent.keyUp(stroke, { key: 'Enter' }));
    expect(desk.hands().sounding.size).toBe(0);
  });

  it('strikes drums by name where drums are in focus, and lets only one hand play where one hand plays', () => {
    const { view, desk, down } = opened(DRUMS.id);
    expect(view.by.queryByRole('group', { name: /^Left hand/ })).toBeNull();
    down('KeyH');
    expect([...desk.hands().sounding.keys()]).toEqual([36]);
    expect(view.by.getByRole('button', { name: 'Kick' })).toBeTruthy();

    const other = opened();
    other.view.set('combobox', 'Who chooses and who strikes', 'one hand');
    other.down('KeyW');
    expect(other.desk.hands().sounding.size).toBeGreaterThan(2);
    other.view.set('combobox', 'Who chooses and who strikes', 'strum only');
    expect(other.view.by.getByRole('group', { name: 'Left hand: the section’s chords choose' })).toBeTruthy();
    other.down('KeyW');
    expect(other.desk.hands().holding).toHaveLength(0);
    other.down('KeyJ');
    expect(other.desk.hands().sounding.size).toBeGreaterThan(2);
  });
});

import { ariaChord, chordOf, isCharacter, sayChord } from './key-chord';

const press = (key: string, more: Partial<KeyboardEvent> = {}): string | null =>
  chordOf({ key, shiftKey: false, ctrlKey: false, metaKey: false, altKey: false, ...more });

describe('keys as text', () => {
  it('are the same with Ctrl and with Cmd, in capitals and small letters', () => {
    expect(press('z', { ctrlKey: true })).toBe('Mod+z');
    expect(press('Z', { metaKey: true, shiftKey: true })).toBe('Shift+Mod+z');
    expect(press('Q')).toBe('q');
    expect(press(' ')).toBe('Space');
  });

  it('are nothing while only modifiers are held', () => {
    for (const key of ['Shift', 'Control', 'Alt', 'Meta', 'AltGraph', 'Dead']) expect(press(key)).toBeNull();
  });

  it('take signs as they are typed, however the keyboard makes them', () => {
    expect(press('?', { shiftKey: true })).toBe('?');
    expect(press('+')).toBe('+');
    const altGraph = (name: string): boolean => name === 'AltGraph';
    expect(press('[', { ctrlKey: true, altKey: true, getModifierState: altGraph })).toBe('[');
    expect(press('[', { ctrlKey: true, altKey: true })).toBe('Alt+Mod+[');
  });

  it('are said for people and for assistive technology', () => {
    expect(['Shift+Mod+z', 'Alt+ArrowUp', '+', '-', 'PageUp', 'Space'].map(sayChord)).toEqual([
      'Shift Ctrl Z',
      'Alt ↑',
      '+',
      '−',
      'Page Up',
      'Space',
    ]);
    expect(['Shift+Mod+z', '+'].map(ariaChord)).toEqual(['Shift+Control+z', 'Plus']);
  });

  it('know single characters', () => {
    expect(['y', '+', 'Shift+y'].every(isCharacter)).toBe(true);
    expect(['Enter', 'Mod+k', 'Alt+h', 'ArrowUp'].some(isCharacter)).toBe(false);
  });
});

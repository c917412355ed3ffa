/**
 * Keys with their modifiers as text: `Shift+Mod+z`, `Alt+ArrowUp`, `?`. `Mod` is Ctrl, or Cmd where the system has it.
 * Letters are small; a sign that needs Shift on some keyboards is written without it.
 */

const MODIFIER_KEYS = new Set(['Shift', 'Control', 'Alt', 'Meta', 'AltGraph', 'CapsLock', 'Dead', 'Process']);

const NAMES: Readonly<Record<string, string>> = {
  ' ': 'Space',
  Space: 'Space',
  ArrowUp: '↑',
  ArrowDown: '↓',
  ArrowLeft: '←',
  ArrowRight: '→',
  PageUp: 'Page Up',
  PageDown: 'Page Down',
  Escape: 'Esc',
  Mod: 'Ctrl',
  '-': '−',
};

const isLetterOrDigit = (key: string): boolean => /^[\p{L}\p{N}]$/u.test(key);
const isSign = (key: string): boolean => key.length === 1 && !isLetterOrDigit(key) && key !== ' ';

type Pressed = Pick<KeyboardEvent, 'key' | 'shiftKey' | 'ctrlKey' | 'metaKey' | 'altKey'> &
  Partial<Pick<KeyboardEvent, 'getModifierState'>>;

/** @returns what was pressed as text, or null while only modifiers are held or text is being composed */
export function chordOf(event: Pressed): string | null {
  if (MODIFIER_KEYS.has(event.key)) return null;
  const key = event.key === ' ' ? 'Space' : event.key.length === 1 ? event.key.toLowerCase() : event.key;
  // Signs may need AltGr, which some systems tell as Ctrl and Alt together.
  if (isSign(key) && event.getModifierState?.('AltGraph')) return key;
  const modifiers = [
    ...(event.shiftKey && !isSign(key) ? ['Shift'] : []),
    ...(event.altKey ? ['Alt'] : []),
    ...(event.ctrlKey || event.metaKey ? ['Mod'] : []),
  ];
  return [...modifiers, key].join('+');
}

/**
 * A figure as the key stands on the keyboard, whatever it types: with Shift, and on keyboards that type figures only with
 * Shift, it types a sign. For what has no command of its own.
 */
export function figureChordOf({ code, shiftKey, ctrlKey, metaKey, altKey }: KeyboardEvent): string | null {
  const figure = /^Digit([1-9])$/.exec(code)?.[1];
  return figure === undefined || ctrlKey || metaKey || altKey ? null : `${shiftKey ? 'Shift+' : ''}${figure}`;
}

const partsOf = (chord: string): string[] =>
  chord.endsWith('+') ? [...chord.slice(0, -1).split('+').filter(Boolean), '+'] : chord.split('+');

const isApple = (): boolean => typeof navigator === 'object' && /mac|iphone|ipad/i.test(navigator.userAgent);

/** For people: `Shift Ctrl Z`. */
export const sayChord = (chord: string): string =>
  partsOf(chord)
    .map((part) =>
      part === 'Mod' && isApple() ? 'Cmd' : (NAMES[part] ?? (part.length === 1 ? part.toUpperCase() : part)),
    )
    .join(' ');

/** For assistive technology, as `aria-keyshortcuts` takes it. */
export const ariaChord = (chord: string): string =>
  partsOf(chord)
    .map((part) => (part === 'Mod' ? (isApple() ? 'Meta' : 'Control') : part === '+' ? 'Plus' : part))
    .join('+');

/** True for one character without Ctrl or Alt: the keys that get in the way of speech input and typing. */
export const isCharacter = (chord: string): boolean => {
  const parts = partsOf(chord);
  return (parts.at(-1) ?? '').length === 1 && !parts.includes('Mod') && !parts.includes('Alt');
};

import type { ControlKey } from './command';

/**
 * Keys that belong to a kind of control rather than to a command: they are the same wherever such a control stands, and
 * are what screen readers tell of it.
 */
export const CONTROL_KEYS: readonly { readonly group: string; readonly keys: readonly ControlKey[] }[] = [
  {
    group: 'Typing chords',
    keys: [
      { keys: ['Enter'], words: 'Type; then: next bar' },
      { keys: ['Tab'], words: 'Typing: next place' },
      { keys: ['ArrowLeft', 'ArrowRight'], words: 'Place before, after' },
      { keys: ['Escape'], words: 'Leave it as it was' },
    ],
  },
  {
    group: 'Lists of ideas, styles and phrases',
    keys: [
      { keys: ['ArrowUp', 'ArrowDown'], words: 'Hear the one above, below' },
      { keys: ['Enter'], words: 'Take it' },
      { keys: ['y'], words: 'Keep it for later' },
      { keys: ['Escape'], words: 'Back to what was' },
    ],
  },
  { group: 'Running order', keys: [{ keys: ['ArrowLeft', 'ArrowRight'], words: 'Section before, after' }] },
  {
    group: 'Energy line',
    keys: [
      { keys: ['ArrowUp', 'ArrowDown'], words: 'More, less energy in this place' },
      { keys: ['Delete'], words: 'Level again' },
    ],
  },
  {
    group: 'Words of a brief',
    keys: [
      { keys: ['ArrowUp', 'ArrowDown'], words: 'More, less' },
      { keys: ['Backspace'], words: 'Back to its usual' },
    ],
  },
  {
    group: 'Words of treatments',
    keys: [
      { keys: ['ArrowUp', 'ArrowDown'], words: 'More, less' },
      { keys: ['ArrowLeft', 'ArrowRight'], words: 'Word before, after' },
      { keys: ['Delete'], words: 'Strike out, or let it work again' },
      { keys: ['Shift+ArrowLeft', 'Shift+ArrowRight'], words: 'Earlier, later in the sentence' },
      { keys: ['Enter'], words: 'All its settings' },
      { keys: ['Shift+Delete'], words: 'Take it away' },
    ],
  },
  {
    group: 'Strips of a pattern, and loops',
    keys: [
      { keys: ['ArrowLeft', 'ArrowRight'], words: 'Step before, after' },
      { keys: ['ArrowUp', 'ArrowDown'], words: 'More, less; a note higher, lower' },
      { keys: ['+', '-'], words: 'A step more, less' },
      { keys: ['t'], words: 'Tie the step to the one before, or strike it again' },
      { keys: ['h'], words: 'Hold the step when chance draws, or let it go' },
      { keys: ['r'], words: 'Let chance draw the strip' },
      { keys: ['Enter'], words: 'Of a loop: strike here, or no more' },
    ],
  },
  { group: 'Handle of a drawer', keys: [{ keys: ['ArrowUp', 'ArrowDown'], words: 'Higher, lower' }] },
];

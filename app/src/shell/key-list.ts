/** Every key that does something, by where it works: the sheet, the tooltips and the help page all read this. */
export const KEY_LIST: readonly {
  readonly where: string;
  readonly keys: readonly (readonly [key: string, does: string])[];
}[] = [
  {
    where: 'Anywhere',
    keys: [
      ['Space', 'play and stop'],
      ['F6', 'go round the regions'],
      ['Page Up / Page Down', 'section before / after'],
      ['T', 'tap the tempo'],
      ['Ctrl Z', 'undo'],
      ['Shift Ctrl Z', 'redo'],
      ['Shift Enter', 'choose all heard takes'],
      ['Ctrl E', 'deliver'],
      ['Ctrl S', 'make sure all is saved'],
      ['?', 'this list'],
    ],
  },
  {
    where: 'Takes',
    keys: [
      ['↑ / ↓', 'hear the take above / below'],
      ['← / →', 'part before / after'],
      ['Enter', 'choose the heard take'],
      ['Y', 'keep'],
      ['N', 'discard'],
      ['D', 'draft more'],
      ['C held', 'hear the chosen take'],
      ['Esc', 'back to the chosen take'],
    ],
  },
  {
    where: 'Sheet',
    keys: [
      ['Arrows', 'move over bars and parts'],
      ['Shift ← / →', 'select bars'],
      ['O', 'loop on and off'],
      ['I', 'hear this part alone'],
      ['Q', 'quiet: mute this part'],
      ['− / +', 'level down / up'],
      ['P', 'play from here'],
      ['M', 'metronome'],
      ['Esc', 'drop the selection'],
    ],
  },
  {
    where: 'Chords',
    keys: [
      ['Enter', 'type; then: next bar'],
      ['Tab', 'typing: next place'],
      ['← / →', 'place before / after'],
      ['Delete', 'clear'],
      ['Alt ← / →', 'begin earlier / later'],
      ['Shift Alt ← / →', 'move the chord'],
      ['Alt ↑ / ↓', 'a degree up / down'],
      ['Shift Alt ↑ / ↓', 'a semitone up / down'],
      ['Ctrl C / V / X', 'copy, paste, cut'],
      ['%', 'repeat after itself'],
      ['S / J', 'split / join with the next'],
      ['[ / ]', 'invert down / up'],
      ['H', 'hold against redrafting'],
    ],
  },
  {
    where: 'Ideas in the bench',
    keys: [
      ['↑ / ↓', 'hear the one above / below'],
      ['Enter', 'take it'],
      ['Y', 'keep it for later'],
      ['Esc', 'back to what was'],
    ],
  },
  {
    where: 'Energy line',
    keys: [
      ['↑ / ↓', 'more / less energy in this place'],
      ['Delete', 'level again'],
    ],
  },
  {
    where: 'Words of a brief',
    keys: [
      ['↑ / ↓', 'more / less'],
      ['Backspace', 'back to its usual'],
    ],
  },
];

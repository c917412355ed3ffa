import type { Offer } from '@fendro/core/live/chords-offered';
import type { Touch } from '@fendro/core/live/touches';
import { drumName } from '@fendro/core/sounding/drum-names';
import { capitalised } from '@fendro/core/song/limits';

const STROKES: Readonly<Record<Extract<Touch, { does: 'stroke' }>['way'], string>> = {
  down: 'Stroke down',
  up: 'Stroke up',
  together: 'All at once',
  damped: 'Damped stroke',
};
const NOTES = ['Lowest note', 'Second note', 'Third note', 'Fourth note', 'Fifth note'] as const;
const STEPS: Readonly<Record<string, string>> = {
  '-2': 'Two steps down',
  '-1': 'A step down',
  '0': 'The same again',
  '1': 'A step up',
  '2': 'Two steps up',
};

/** What a key of the right hand does, in a few words. */
export function sayTouch(touch: Touch): string {
  switch (touch.does) {
    case 'stroke':
      return STROKES[touch.way];
    case 'bass':
      return 'Bass note';
    case 'note':
      return NOTES[touch.place] ?? `Note ${touch.place + 1}`;
    case 'walk':
      return STEPS[String(touch.by)] ?? `${touch.by} steps`;
    case 'drum':
      return capitalised(drumName(touch.pitch));
  }
}

/** Where a chord comes from, as one says it after its name. */
export const OFFER_WORDS: Readonly<Record<Offer, string>> = {
  section: 'of this section',
  key: 'of the key',
  borrowed: 'borrowed',
};

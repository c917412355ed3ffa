import { inject } from '@angular/core';
import { Store } from '@ngrx/store';
import { HARMONY } from '@fendro/core/song/schema';
import { ChordDesk } from '../../desks/chord-desk';
import { CHORD_TABS, SessionActions, type ChordTab, sessionFeature } from '../../store/session';
import { grouped, type Command } from '../command';

const TAB_WORDS: Readonly<Record<ChordTab, string>> = {
  draft: 'Chords: draft them',
  next: 'Chords: what could come next',
  collection: 'Chords: pick a progression',
  voicing: 'Chords: voice them',
  rhythm: 'Chords: their rhythm',
  facts: 'Chords: facts of the one in focus',
};

/** What is done to the chord in focus or the chords of the selected bars. */
export function chordCommands(): readonly Command[] {
  const [store, chords] = [inject(Store), inject(ChordDesk)];
  const clip = store.selectSignal(sessionFeature.selectClip);
  const hasClip = (): boolean => clip() !== null;
  return [
    ...grouped('Chords', 'chords', [
      {
        id: 'chord.clear',
        words: 'Clear the chords',
        keys: ['Delete', 'Backspace'],
        run: () => {
          chords.clear();
        },
      },
      {
        id: 'chord.earlier',
        words: 'Let the chord begin earlier',
        keys: ['Alt+ArrowLeft'],
        repeats: true,
        run: () => {
          chords.shift(-1, false);
        },
      },
      {
        id: 'chord.later',
        words: 'Let the chord begin later',
        keys: ['Alt+ArrowRight'],
        repeats: true,
        run: () => {
          chords.shift(1, false);
        },
      },
      {
        id: 'chord.move-earlier',
        words: 'Move the chord earlier',
        keys: ['Shift+Alt+ArrowLeft'],
        repeats: true,
        run: () => {
          chords.shift(-1, true);
        },
      },
      {
        id: 'chord.move-later',
        words: 'Move the chord later',
        keys: ['Shift+Alt+ArrowRight'],
        repeats: true,
        run: () => {
          chords.shift(1, true);
        },
      },
      {
        id: 'chord.degree-up',
        words: 'A degree up',
        keys: ['Alt+ArrowUp'],
        repeats: true,
        run: () => {
          chords.degree(1);
        },
      },
      {
        id: 'chord.degree-down',
        words: 'A degree down',
        keys: ['Alt+ArrowDown'],
        repeats: true,
        run: () => {
          chords.degree(-1);
        },
      },
      {
        id: 'chord.semitone-up',
        words: 'A semitone up',
        keys: ['Shift+Alt+ArrowUp'],
        repeats: true,
        run: () => {
          chords.transpose(1);
        },
      },
      {
        id: 'chord.semitone-down',
        words: 'A semitone down',
        keys: ['Shift+Alt+ArrowDown'],
        repeats: true,
        run: () => {
          chords.transpose(-1);
        },
      },
      {
        id: 'chord.copy',
        words: 'Copy the chords',
        keys: ['Mod+c'],
        run: () => {
          chords.copy();
        },
      },
      {
        id: 'chord.paste',
        words: 'Paste the chords',
        keys: ['Mod+v'],
        enabled: hasClip,
        run: () => {
          chords.paste();
        },
      },
      {
        id: 'chord.cut',
        words: 'Cut the chords',
        keys: ['Mod+x'],
        run: () => {
          chords.cut();
        },
      },
      {
        id: 'chord.repeat',
        words: 'Repeat the chords after themselves',
        keys: ['%'],
        run: () => {
          chords.repeat();
        },
      },
      {
        id: 'chord.reverse',
        words: 'Reverse the chords',
        keys: [],
        run: () => {
          chords.reverse();
        },
      },
      {
        id: 'chord.split',
        words: 'Split the chord',
        keys: ['s'],
        run: () => {
          chords.split();
        },
      },
      {
        id: 'chord.join',
        words: 'Join the chord with the next',
        keys: ['j'],
        run: () => {
          chords.join();
        },
      },
      {
        id: 'chord.invert-down',
        words: 'Invert down',
        keys: ['['],
        run: () => {
          chords.invert(-1);
        },
      },
      {
        id: 'chord.invert-up',
        words: 'Invert up',
        keys: [']'],
        run: () => {
          chords.invert(1);
        },
      },
    ]),
    ...grouped(
      'Chords',
      'workspace',
      CHORD_TABS.map((tab) => ({
        id: `chords.tab.${tab}`,
        words: TAB_WORDS[tab],
        keys: [],
        run: () => {
          store.dispatch(SessionActions.lineFocused({ line: HARMONY }));
          store.dispatch(SessionActions.chordTabOpened({ tab }));
        },
      })),
    ),
  ];
}

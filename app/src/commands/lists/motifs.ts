import { inject } from '@angular/core';
import { MotifDesk, SAYINGS, type SayingUse } from '../../desks/motif-desk';
import { sayingOf } from '../../ui/take-words';
import { grouped, type Command } from '../command';

const KEYS: Readonly<Partial<Record<SayingUse, readonly string[]>>> = { quotes: ['Shift+s'] };

/** Motifs by hand: taken from selected bars, and said by the part in focus. */
export function motifCommands(): readonly Command[] {
  const desk = inject(MotifDesk);
  const inHand = (): string => {
    const motif = desk.inHand();
    return motif ? `“${motif.name}”` : 'the motif';
  };
  return grouped('Motifs', 'workspace', [
    {
      id: 'motif.remember',
      words: 'Remember what the selected bars or notes say as a motif',
      keys: ['s'],
      enabled: () => desk.found() !== null,
      run: () => {
        desk.remember();
      },
    },
    ...SAYINGS.map((use) => ({
      id: `motif.say-${use}`,
      words: `Have the part ${sayingOf(use, 'the motif')}, in the selected bars or all over`,
      now: () => `Have the part ${sayingOf(use, inHand())}, in the selected bars or all over`,
      keys: KEYS[use] ?? [],
      enabled: desk.canSay,
      run: () => desk.say(use),
    })),
  ]);
}

import { inject } from '@angular/core';
import { LEANINGS } from '@fendro/core/lean/words';
import { LeanDesk } from '../../desks/lean-desk';
import { grouped, type Command } from '../command';

/** Words that lean what the part in focus is asked for, or the pattern by which it goes on. */
export function leaningCommands(): readonly Command[] {
  const desk = inject(LeanDesk);
  return grouped('Leanings', 'workspace', [
    {
      id: 'lean.open',
      words: 'Lean the brief by a word: darker, busier, looser …',
      keys: ['Shift+l'],
      enabled: desk.ready,
      run: () => {
        desk.open.update((open) => !open);
      },
    },
    ...LEANINGS.map((word) => ({
      id: `lean.${word.name}`,
      words: `Lean the part: ${word.name}`,
      keys: [],
      enabled: () => desk.moves(desk.target(), word, 'now'),
      run: () => {
        desk.lean(desk.target(), word, 'now');
      },
    })),
  ]);
}

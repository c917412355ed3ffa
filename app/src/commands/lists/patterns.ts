import { inject } from '@angular/core';
import { CatchDesk } from '../../desks/catch-desk';
import { PatternDesk, type PatternKind } from '../../desks/pattern-desk';
import { grouped, type Command } from '../command';

const BEGINNINGS: readonly (readonly [id: string, words: string, kind: PatternKind])[] = [
  ['pattern.draw', 'Draw a pattern for the part, by which it goes on', 'drawn'],
  ['pattern.loops', 'Set loops against each other for the part', 'loops'],
  ['pattern.wander', 'Let notes wander for the part', 'wandering'],
];

/** Music that goes on by itself: begun, drawn by chance, and caught. */
export function patternCommands(): readonly Command[] {
  const [desk, catching] = [inject(PatternDesk), inject(CatchDesk)];
  return grouped('Patterns', 'workspace', [
    {
      id: 'pattern.catch',
      words: 'Catch what the part just sounded, as a take of its own',
      keys: ['Shift+k'],
      enabled: catching.ready,
      run: () => {
        catching.catchLast();
      },
    },
    {
      id: 'pattern.roll',
      words: 'Let chance draw the pattern anew, what is held excepted',
      keys: ['Shift+d'],
      enabled: () => desk.pattern()?.of === 'drawn',
      run: () => {
        desk.roll();
      },
    },
    ...BEGINNINGS.map(([id, words, kind]) => ({
      id,
      words,
      keys: [],
      enabled: desk.ready,
      run: () => {
        desk.begin(kind);
      },
    })),
  ]);
}

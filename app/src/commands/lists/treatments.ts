import { inject } from '@angular/core';
import { TREATMENTS } from '@fendro/core/treat/first-treatment';
import { TREATMENT_NAMES } from '@fendro/core/treat/words';
import { CatchDesk } from '../../desks/catch-desk';
import { TreatDesk } from '../../desks/treat-desk';
import { grouped, type Command } from '../command';

/** What a part's notes go through: added by words, switched off and on, written into notes. */
export function treatmentCommands(): readonly Command[] {
  const [desk, catching] = [inject(TreatDesk), inject(CatchDesk)];
  return grouped('Treatments', 'workspace', [
    {
      id: 'treat.toggle',
      words: 'Strike the part’s treatments out, or let them work again',
      keys: ['Shift+t'],
      enabled: desk.any,
      run: () => {
        desk.strikeAll();
      },
    },
    {
      id: 'treat.write',
      words: 'Write the part’s treatments into the notes of the take that sounds',
      keys: [],
      enabled: () => desk.any() && catching.ready(),
      run: () => {
        catching.write();
      },
    },
    ...TREATMENTS.map((does) => ({
      id: `treat.${does}`,
      words: `Treat the part: ${TREATMENT_NAMES[does].toLowerCase()}`,
      keys: [],
      enabled: desk.ready,
      run: () => {
        desk.add(does);
      },
    })),
  ]);
}

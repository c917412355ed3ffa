import { inject } from '@angular/core';
import { TREATMENTS } from '@fendro/core/treat/first-treatment';
import { TREATMENT_NAMES } from '@fendro/core/treat/words';
import { CatchDesk } from '../../desks/catch-desk';
import { DealDesk } from '../../desks/deal-desk';
import { TreatDesk } from '../../desks/treat-desk';
import { grouped, type Command } from '../command';

/** What a part's notes go through: added by words, switched off and on, dealt out, written into notes. */
export function treatmentCommands(): readonly Command[] {
  const [desk, deals, catching] = [inject(TreatDesk), inject(DealDesk), inject(CatchDesk)];
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
      words: 'Write what comes of treatments and dealing into the notes of takes',
      keys: [],
      enabled: () => (desk.any() || deals.deal() !== null) && catching.ready(),
      run: () => {
        catching.write();
      },
    },
    {
      id: 'deal.open',
      words: 'Deal the part’s line out to several parts',
      keys: ['Shift+g'],
      enabled: deals.ready,
      run: () => {
        desk.open(null);
        deals.toggle();
      },
    },
    {
      id: 'deal.strike',
      words: 'Strike the dealing out, or let it work again',
      keys: [],
      enabled: () => deals.deal() !== null,
      run: () => {
        deals.strike();
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

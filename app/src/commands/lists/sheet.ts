import { inject } from '@angular/core';
import { Store } from '@ngrx/store';
import { ROLES, type Part } from '@fendro/core/song/schema';
import { roleOf } from '@fendro/core/song/roles';
import { AuditionDesk } from '../../desks/audition-desk';
import { BarsDesk } from '../../desks/bars-desk';
import { BandDesk } from '../../desks/band-desk';
import { CompareDesk } from '../../desks/compare-desk';
import { DraftRuns } from '../../desks/draft-runs';
import { NotesDesk } from '../../desks/notes-desk';
import { RunThrough } from '../../desks/run-through';
import { SheetDesk } from '../../desks/sheet-desk';
import { SoloDesk } from '../../desks/solo-desk';
import { SessionActions, sessionFeature } from '../../store/session';
import { grouped, type Command } from '../command';

/** Moving about on the sheet, what is done to the part in focus and to selected bars. */
export function sheetCommands(): readonly Command[] {
  const [store, sheet, band] = [inject(Store), inject(SheetDesk), inject(BandDesk)];
  const [audition, solos, runs] = [inject(AuditionDesk), inject(SoloDesk), inject(DraftRuns)];
  const [bars, run, compare] = [inject(BarsDesk), inject(RunThrough), inject(CompareDesk)];
  const notes = inject(NotesDesk);
  const pendingGround = store.selectSignal(sessionFeature.selectPendingGround);
  const hasNotes = (): boolean => (notes.take()?.notes.length ?? 0) > 0;
  const hasPart = (): boolean => band.part() !== null;
  const toPart = (act: (part: Part) => void) => () => {
    const part = band.part();
    if (part) act(part);
  };
  /** Back one step: out of a run-through, a change of key that is tried, a heard take, a selection. */
  const back = (): void => {
    if (run.running()) run.stop();
    else if (compare.on()) compare.toggle();
    else if (pendingGround()) store.dispatch(SessionActions.groundTried({ pending: null }));
    else if (!notes.letGo() && !audition.back() && sheet.selected()) sheet.letSelectionGo();
  };
  return [
    ...grouped('Sheet', 'sheet', [
      {
        id: 'sheet.up',
        words: 'Go to the part above',
        keys: ['ArrowUp'],
        repeats: true,
        run: () => {
          sheet.moveLine(-1);
        },
      },
      {
        id: 'sheet.down',
        words: 'Go to the part below',
        keys: ['ArrowDown'],
        repeats: true,
        run: () => {
          sheet.moveLine(1);
        },
      },
      {
        id: 'sheet.left',
        words: 'Go to the bar before',
        keys: ['ArrowLeft'],
        repeats: true,
        run: () => {
          sheet.moveBar(-1, false);
        },
      },
      {
        id: 'sheet.right',
        words: 'Go to the bar after',
        keys: ['ArrowRight'],
        repeats: true,
        run: () => {
          sheet.moveBar(1, false);
        },
      },
      {
        id: 'sheet.select-left',
        words: 'Select the bar before as well',
        keys: ['Shift+ArrowLeft'],
        repeats: true,
        run: () => {
          sheet.moveBar(-1, true);
        },
      },
      {
        id: 'sheet.select-right',
        words: 'Select the bar after as well',
        keys: ['Shift+ArrowRight'],
        repeats: true,
        run: () => {
          sheet.moveBar(1, true);
        },
      },
      {
        id: 'sheet.back',
        words: 'Go back: out of a run-through or a comparison, to the chosen take, or out of the selection',
        keys: ['Escape'],
        region: 'workspace',
        enabled: () =>
          run.running() ||
          compare.on() ||
          pendingGround() !== null ||
          audition.rivalHeard() ||
          notes.any() ||
          sheet.selected() !== null,
        run: back,
      },
      {
        id: 'note.before',
        words: 'Go to the note before, in the part in focus',
        keys: [','],
        region: 'workspace',
        repeats: true,
        enabled: hasNotes,
        run: () => {
          notes.step(-1);
        },
      },
      {
        id: 'note.after',
        words: 'Go to the note after, in the part in focus',
        keys: ['.'],
        region: 'workspace',
        repeats: true,
        enabled: hasNotes,
        run: () => {
          notes.step(1);
        },
      },
      {
        id: 'note.gather',
        words: 'Pick this note as well, or let it go',
        keys: ['j'],
        region: 'workspace',
        enabled: () => notes.any(),
        run: () => {
          notes.gather();
        },
      },
      {
        id: 'section.before',
        words: 'Go to the section before',
        keys: ['PageUp'],
        region: 'workspace',
        repeats: true,
        run: () => {
          sheet.moveSection(-1);
        },
      },
      {
        id: 'section.after',
        words: 'Go to the section after',
        keys: ['PageDown'],
        region: 'workspace',
        repeats: true,
        run: () => {
          sheet.moveSection(1);
        },
      },
      {
        id: 'sheet.drop',
        words: 'Drop the selection',
        keys: [],
        region: 'workspace',
        enabled: () => sheet.selected() !== null,
        run: () => {
          sheet.letSelectionGo();
        },
      },
      {
        id: 'bars.rest',
        words: 'Let this part rest in the selected bars',
        keys: ['Delete'],
        enabled: bars.canEdit,
        run: () => {
          bars.rest();
        },
      },
      {
        id: 'bars.put',
        words: 'Put the selected bars of the heard take into the chosen one',
        keys: ['Shift+p'],
        region: 'workspace',
        enabled: bars.canPut,
        run: () => {
          bars.put();
        },
      },
      {
        id: 'bars.octave-up',
        words: 'Move the selected bars an octave up',
        keys: ['Alt+ArrowUp'],
        enabled: bars.hasOctaves,
        run: () => {
          bars.octave(1);
        },
      },
      {
        id: 'bars.octave-down',
        words: 'Move the selected bars an octave down',
        keys: ['Alt+ArrowDown'],
        enabled: bars.hasOctaves,
        run: () => {
          bars.octave(-1);
        },
      },
      {
        id: 'bars.louder',
        words: 'Make the selected bars louder',
        keys: ['Alt++'],
        repeats: true,
        enabled: bars.canEdit,
        run: () => {
          bars.louder(1);
        },
      },
      {
        id: 'bars.softer',
        words: 'Make the selected bars softer',
        keys: ['Alt+-'],
        repeats: true,
        enabled: bars.canEdit,
        run: () => {
          bars.louder(-1);
        },
      },
      {
        id: 'bars.solo',
        words: 'Give the selected bars to a solo',
        keys: [],
        region: 'workspace',
        enabled: () => sheet.selected() !== null && !runs.busy(),
        run: () => solos.give(),
      },
    ]),
    ...grouped('Part in focus', 'workspace', [
      {
        id: 'part.alone',
        words: 'Hear this part alone',
        keys: ['i'],
        enabled: hasPart,
        pressed: () => band.isAlone(band.part()?.id ?? ''),
        run: toPart(({ id }) => {
          band.toggleAlone(id);
        }),
      },
      {
        id: 'part.quiet',
        words: 'Make this part quiet',
        keys: ['q'],
        enabled: hasPart,
        pressed: () => band.part()?.muted ?? false,
        run: toPart((part) => {
          band.toggleQuiet(part);
        }),
      },
      {
        id: 'part.softer',
        words: 'Lower the level',
        keys: ['-'],
        repeats: true,
        enabled: hasPart,
        run: toPart((part) => {
          band.level(part, -5);
        }),
      },
      {
        id: 'part.louder',
        words: 'Raise the level',
        keys: ['+'],
        repeats: true,
        enabled: hasPart,
        run: toPart((part) => {
          band.level(part, 5);
        }),
      },
      {
        id: 'part.remove',
        words: 'Remove this part',
        keys: [],
        enabled: hasPart,
        run: toPart(({ id }) => {
          band.remove(id);
        }),
      },
      ...ROLES.map((role) => ({
        id: `part.add.${role}`,
        words: `Add a part: ${roleOf(role).name.toLowerCase()}`,
        keys: [],
        enabled: () => !band.full(),
        run: () => {
          band.add(role);
        },
      })),
    ]),
  ];
}

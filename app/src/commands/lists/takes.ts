import { inject } from '@angular/core';
import { Store } from '@ngrx/store';
import { TAKE_ORDERS } from '@fendro/core/study/take-order';
import { AuditionDesk } from '../../desks/audition-desk';
import { CarryDesk } from '../../desks/carry-desk';
import { CompareDesk } from '../../desks/compare-desk';
import { DraftRuns } from '../../desks/draft-runs';
import { Drafting } from '../../desks/drafting';
import { HarmonyDesk } from '../../desks/harmony-desk';
import { PlanDesk } from '../../desks/plan-desk';
import { RunThrough } from '../../desks/run-through';
import { SheetDesk } from '../../desks/sheet-desk';
import { TakeView } from '../../desks/take-view';
import { selectHeardChoices, selectSection } from '../../store/selectors';
import { SessionActions, sessionFeature } from '../../store/session';
import { grouped, type Command } from '../command';
import { Dialogs } from '../dialogs';

export function takeCommands(): readonly Command[] {
  const [store, audition, drafting] = [inject(Store), inject(AuditionDesk), inject(Drafting)];
  const [harmony, sheet] = [inject(HarmonyDesk), inject(SheetDesk)];
  const [runs, run, compare, view] = [inject(DraftRuns), inject(RunThrough), inject(CompareDesk), inject(TakeView)];
  const section = store.selectSignal(selectSection);
  const [plan, carry, dialogs] = [inject(PlanDesk), inject(CarryDesk), inject(Dialogs)];
  const rolesShown = store.selectSignal(sessionFeature.selectRolesShown);
  const heard = store.selectSignal(selectHeardChoices);
  const some = (): boolean => view.shown().length > 0;
  const sounds = (): boolean => audition.sounding() !== null;
  const draft = (): void => {
    drafting.draftInFocus();
  };
  return grouped('Takes', 'workspace', [
    {
      id: 'take.above',
      words: 'Hear the take above',
      keys: ['ArrowUp'],
      repeats: true,
      enabled: some,
      run: () => {
        audition.step(-1);
      },
    },
    {
      id: 'take.below',
      words: 'Hear the take below',
      keys: ['ArrowDown'],
      repeats: true,
      enabled: some,
      run: () => {
        audition.step(1);
      },
    },
    {
      id: 'part.before',
      words: 'Go to the part before',
      keys: ['ArrowLeft'],
      repeats: true,
      run: () => {
        sheet.moveLine(-1);
      },
    },
    {
      id: 'part.after',
      words: 'Go to the part after',
      keys: ['ArrowRight'],
      repeats: true,
      run: () => {
        sheet.moveLine(1);
      },
    },
    {
      id: 'take.choose',
      words: 'Choose the heard take',
      keys: ['Enter'],
      enabled: audition.rivalHeard,
      run: () => {
        audition.choose();
      },
    },
    {
      id: 'take.choose-all',
      words: 'Choose all heard takes',
      keys: ['Shift+Enter'],
      enabled: () => heard().length > 0,
      run: () => {
        harmony.chooseAll();
      },
    },
    {
      id: 'take.keep',
      words: 'Keep the heard take',
      keys: ['y'],
      enabled: sounds,
      run: () => {
        audition.judge('kept');
      },
    },
    {
      id: 'take.discard',
      words: 'Discard the heard take',
      keys: ['n'],
      enabled: sounds,
      run: () => {
        audition.judge('discarded');
        if (run.running()) run.next();
      },
    },
    { id: 'take.draft', words: 'Draft more takes', keys: ['d'], enabled: () => !runs.busy(), run: draft },
    {
      id: 'take.compare',
      words: 'Hear the other of two takes for as long as it is held',
      keys: ['c'],
      enabled: () => audition.partner() !== null,
      run: () => {
        audition.compare();
      },
      release: () => {
        audition.compareEnded();
      },
    },
    {
      id: 'take.run',
      words: 'Run through new takes, hands free',
      now: () => (run.running() ? 'Stop the run-through' : 'Run through new takes, hands free'),
      keys: ['u'],
      pressed: run.running,
      run: () => {
        run.toggle();
      },
    },
    {
      id: 'take.run-band',
      words: 'Run through the whole band, or the line in focus alone',
      keys: [],
      pressed: run.band,
      run: () => {
        run.setBand(!run.band());
      },
    },
    {
      id: 'take.carry',
      words: 'Carry the heard take, or the selected bars of it, to another section or part',
      keys: ['Shift+c'],
      enabled: carry.ready,
      run: () => dialogs.openCarry(),
    },
    {
      id: 'take.name',
      words: 'Name the heard take',
      keys: ['F2'],
      enabled: sounds,
      run: () => {
        audition.naming.set(true);
      },
    },
    {
      id: 'take.everywhere',
      words: 'List the takes of this line in every section, or in this one',
      keys: ['Shift+a'],
      pressed: view.everywhere,
      run: () => {
        view.everywhere.update((on) => !on);
      },
    },
    {
      id: 'take.field',
      words: 'Lay the takes out by likeness',
      keys: ['a'],
      pressed: view.asField,
      run: () => {
        view.asField.update((open) => !open);
      },
    },
    {
      id: 'take.find',
      words: 'Find takes by words and sort them',
      keys: ['f'],
      run: () => {
        audition.finding.set(true);
      },
    },
    ...TAKE_ORDERS.map((order) => ({
      id: `take.sort-${order.replaceAll(' ', '-')}`,
      words: `Sort the takes: ${order === 'like one' ? 'those most like the heard one first' : order}`,
      keys: [],
      run: () => {
        view.sort(order);
      },
    })),
    {
      id: 'take.overlay',
      words: 'Compare two takes: one over the other, at the same level',
      keys: ['k'],
      enabled: () => compare.on() || audition.partner() !== null,
      pressed: compare.on,
      run: () => {
        compare.toggle();
      },
    },
    {
      id: 'take.discarded',
      words: 'Show discarded takes',
      keys: [],
      pressed: view.discardedShown,
      run: () => {
        view.discardedShown.update((shown) => !shown);
      },
    },
    {
      id: 'take.roles',
      words: 'Show what each note does against its chord',
      keys: [],
      pressed: () => rolesShown(),
      run: () => {
        store.dispatch(SessionActions.rolesToggled());
      },
    },
    {
      id: 'take.draft-band',
      words: 'Draft the band: the chords if there are none, then every part',
      keys: [],
      enabled: () => !runs.busy(),
      run: () => {
        const now = section();
        return now ? drafting.draftBand(now.id) : null;
      },
    },
    {
      id: 'song.draft',
      words: 'Draft the song: chords and every part of all its sections, and an ending',
      keys: [],
      enabled: () => !runs.busy(),
      run: () => plan.draft(plan.sections(), true),
    },
    {
      id: 'take.cancel',
      words: 'Cancel the drafting',
      keys: [],
      enabled: runs.busy,
      run: () => {
        runs.cancel();
      },
    },
  ]);
}

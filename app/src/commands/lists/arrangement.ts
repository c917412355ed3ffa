import { inject } from '@angular/core';
import { Store } from '@ngrx/store';
import { ENDING_NAMES } from '@fendro/core/compose/ending-names';
import { nameOfKind } from '@fendro/core/song/edit';
import { ENERGY_SHAPES } from '@fendro/core/song/energy';
import { SECTION_KINDS } from '@fendro/core/song/schema';
import { ENDINGS } from '@fendro/core/song/style';
import { ArrangementDesk } from '../../desks/arrangement-desk';
import { CutDesk } from '../../desks/cut-desk';
import { PlaceDesk } from '../../desks/place-desk';
import { selectPlaced, selectView } from '../../store/selectors';
import { SessionActions } from '../../store/session';
import { grouped, type Command } from '../command';

/** Places that can be gone to by a command of their own. */
const PLACES = ['one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten', 'eleven', 'twelve'];

/** The running order: what is added to it, moved in it and taken out, and the energy over it. */
export function arrangementCommands(): readonly Command[] {
  const [store, desk, here] = [inject(Store), inject(ArrangementDesk), inject(PlaceDesk)];
  const cuts = inject(CutDesk);
  const [view, placed] = [store.selectSignal(selectView), store.selectSignal(selectPlaced)];
  const place = (): number => placed().findIndex(({ occurrence }) => occurrence.id === view()?.occurrence.id);
  const move = (by: 1 | -1) => () => {
    const now = view();
    if (now) desk.move(now.occurrence.id, place() + by);
  };
  return grouped('Running order', 'workspace', [
    {
      id: 'place.earlier',
      words: 'Move the section earlier',
      keys: ['Alt+ArrowLeft'],
      region: 'running-order',
      repeats: true,
      enabled: () => place() > 0,
      run: move(-1),
    },
    {
      id: 'place.later',
      words: 'Move the section later',
      keys: ['Alt+ArrowRight'],
      region: 'running-order',
      repeats: true,
      enabled: () => place() < placed().length - 1,
      run: move(1),
    },
    {
      id: 'place.remove',
      words: 'Take the section out of the running order',
      keys: ['Delete'],
      region: 'running-order',
      enabled: () => placed().length > 1,
      run: () => {
        const now = view();
        if (now) desk.remove(now.occurrence.id);
      },
    },
    // No keys of their own: controls of devices are shown these.
    ...PLACES.map((name, index) => ({
      id: `place.go-${name}`,
      words: `Go to place ${index + 1} of the running order`,
      keys: [],
      enabled: () => index < placed().length,
      run: () => {
        const there = placed()[index]?.occurrence.id;
        if (there !== undefined) store.dispatch(SessionActions.occurrenceViewed({ occurrence: there }));
      },
    })),
    {
      id: 'section.cut',
      words: 'Cut the section in two before this bar',
      now: () => `Cut the section in two before bar ${cuts.bar() + 1}`,
      keys: ['|'],
      enabled: cuts.canCut,
      run: () => cuts.cut(),
    },
    {
      id: 'section.join',
      words: 'Join this place with the one after it',
      keys: ['Alt+j'],
      enabled: cuts.canJoin,
      run: () => cuts.join(),
    },
    {
      id: 'place.lift',
      words: 'Lift this place by a semitone',
      keys: ['Alt+PageUp'],
      repeats: true,
      enabled: () => here.canLift(1),
      run: () => {
        here.lift(1);
      },
    },
    {
      id: 'place.lower',
      words: 'Lower this place by a semitone',
      keys: ['Alt+PageDown'],
      repeats: true,
      enabled: () => here.canLift(-1),
      run: () => {
        here.lift(-1);
      },
    },
    {
      id: 'place.rest',
      words: 'Let the part rest in this place, in the selected bars or all',
      now: () => (here.rests() ? 'Let the part play again in this place' : 'Let the part rest in this place'),
      keys: ['Shift+q'],
      enabled: here.canRest,
      pressed: here.rests,
      run: () => {
        here.toggleRest();
      },
    },
    {
      id: 'place.plain',
      words: 'Make this place as its section is everywhere else',
      keys: ['='],
      enabled: here.isOwn,
      run: () => {
        here.plain();
      },
    },
    ...SECTION_KINDS.map((kind) => ({
      id: `section.add.${kind}`,
      words: `New ${nameOfKind(kind).toLowerCase()}`,
      keys: [],
      enabled: () => !desk.sectionsFull(),
      run: () => {
        desk.add(kind);
      },
    })),
    ...ENDINGS.map((ending) => ({
      id: `song.end.${ending}`,
      words: `End the song: ${ENDING_NAMES[ending].name}, ${ENDING_NAMES[ending].bars === 1 ? '1 bar' : '2 bars'}`,
      keys: [],
      enabled: () => !desk.sectionsFull(),
      run: () => {
        void desk.end(ending);
      },
    })),
    ...ENERGY_SHAPES.map((shape) => ({
      id: `energy.${shape.name.replaceAll(/\W+/g, '-')}`,
      words: `Energy of the whole song: ${shape.name}`,
      keys: [],
      run: () => {
        desk.shapeEnergy(shape);
      },
    })),
    {
      id: 'energy.none',
      words: 'Energy of the whole song: none, as drafted',
      keys: [],
      run: () => {
        desk.levelEnergy();
      },
    },
  ]);
}

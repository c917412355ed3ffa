import { inject } from '@angular/core';
import { Store } from '@ngrx/store';
import { ENDING_NAMES } from '@fendro/core/compose/ending-names';
import { nameOfKind } from '@fendro/core/song/edit';
import { ENERGY_SHAPES } from '@fendro/core/song/energy';
import { SECTION_KINDS } from '@fendro/core/song/schema';
import { ENDINGS } from '@fendro/core/song/style';
import { ArrangementDesk } from '../../desks/arrangement-desk';
import { selectPlaced, selectView } from '../../store/selectors';
import { grouped, type Command } from '../command';

/** The running order: what is added to it, moved in it and taken out, and the energy over it. */
export function arrangementCommands(): readonly Command[] {
  const [store, desk] = [inject(Store), inject(ArrangementDesk)];
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

import { inject } from '@angular/core';
import { Store } from '@ngrx/store';
import { MOVE_KINDS } from '@fendro/core/song/moves';
import { isOfSong, MovesDesk, type OrderLine } from '../../desks/moves-desk';
import { selectPart } from '../../store/selectors';
import { grouped, type Command } from '../command';

const LINES: readonly OrderLine[] = ['energy', 'tempo', ...MOVE_KINDS];

/** Parts that move in the mix over the running order. */
export function moveCommands(): readonly Command[] {
  const desk = inject(MovesDesk);
  const part = inject(Store).selectSignal(selectPart);
  return grouped('Moves', 'workspace', [
    {
      id: 'moves.record',
      words: 'Record the sliders of the mix as they are moved while the music plays',
      keys: [],
      pressed: desk.recording,
      run: () => {
        desk.toggleRecording();
      },
    },
    {
      id: 'moves.fade',
      words: 'Fade the part out over the selected bars, or at the end of this place',
      keys: ['Shift+f'],
      enabled: desk.canFade,
      run: () => {
        desk.fade();
      },
    },
    {
      id: 'moves.fade-song',
      words: 'Fade the song out over its last bars',
      keys: [],
      run: () => {
        desk.fadeSong();
      },
    },
    {
      id: 'moves.clear',
      words: 'Let the part stand as it does in the mix',
      keys: [],
      enabled: desk.moves,
      run: () => {
        desk.clear();
      },
    },
    ...LINES.map((line) => ({
      id: `moves.show-${line}`,
      words: `Show the ${line}${isOfSong(line) ? '' : ' of the part in focus'} over the running order`,
      keys: [],
      enabled: () => isOfSong(line) || part() !== null,
      pressed: () => desk.line() === line,
      run: () => {
        desk.line.set(line);
      },
    })),
  ]);
}

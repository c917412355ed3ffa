import type { ActionReducer } from '@ngrx/store';
import type { SongState } from './song.reducer';

interface WithSong {
  readonly song: SongState;
}

/** An edit that was refused changes nothing else either: neither what is in view nor what is heard. */
export const refusalsChangeNothing =
  <S>(reducer: ActionReducer<S>): ActionReducer<S> =>
  (state, action) => {
    const next = reducer(state, action);
    if (state === undefined) return next;
    const [before, after] = [(state as S & Partial<WithSong>).song, (next as S & Partial<WithSong>).song];
    return before && after && after.refused !== null && after.refused !== before.refused
      ? { ...state, song: { ...before, refused: after.refused } }
      : next;
  };

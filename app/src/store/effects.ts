import { inject, type EnvironmentProviders } from '@angular/core';
import { Actions, createEffect, ofType, provideEffects } from '@ngrx/effects';
import { createSelector, Store } from '@ngrx/store';
import { EMPTY, filter, mergeMap, of, pairwise, tap, withLatestFrom } from 'rxjs';
import { unwrittenPasses } from '@fendro/core/sounding/heard-passes';
import { bandOf, logLine, newlyHeard } from '@fendro/core/song/logbook';
import { sectionOf } from '@fendro/core/song/resolve';
import type { Heard } from '@fendro/core/song/schema';
import { Notices } from './notices';
import { Saving, selectKept } from './saving';
import { selectMusic, selectSong } from './selectors';
import { SessionActions, sessionFeature } from './session';
import { TakeActions } from './song.actions';
import { songFeature } from './song.reducer';

const selectOwnHeard = sessionFeature.selectHeard;

/** Tells why an edit was not made. */
const tellRefusals = createEffect(
  (store = inject(Store), notices = inject(Notices)) => {
    return store.select(songFeature.selectRefused).pipe(
      filter((refused) => refused !== null),
      tap(({ reason }) => {
        notices.say(`Nothing was changed. ${reason}`);
      }),
    );
  },
  { functional: true, dispatch: false },
);

/** Saves the song as it changes: with the change itself, since the page may be closed before the next picture. */
const saveChanges = createEffect(
  (store = inject(Store), saving = inject(Saving)) => {
    return store.select(selectKept).pipe(
      tap((kept) => {
        saving.notice(kept);
      }),
    );
  },
  { functional: true, dispatch: false },
);

const selectHeardInSong = createSelector(
  selectSong,
  selectOwnHeard,
  sessionFeature.selectRunning,
  ({ open, score, takes, heard: log }, heard, running) => ({ running, id: open?.id, score, takes, log, heard }),
);

/** Writes into the logbook whatever begins to sound: by hearing, choosing, an edit or undo alike. */
export const logWhatSounds = createEffect(
  (store = inject(Store)) => {
    return store.select(selectHeardInSong).pipe(
      pairwise(),
      mergeMap(([before, now]) => {
        if (before.id !== now.id || !before.score || !now.score) return EMPTY;
        const { takes, heard } = now;
        const all = newlyHeard({ score: before.score, heard: before.heard }, { score: now.score, heard });
        // Two takes that are turned round and round are written down once.
        const turning = now.running === 'turns';
        const fresh = turning ? all.filter(({ take }) => now.log.every((line) => line.take !== take)) : all;
        if (fresh.length === 0) return EMPTY;
        const lines = fresh.reduce<readonly Heard[]>(
          (log, { section, take }) => [
            ...log,
            logLine(log, takes, { take, section: section.id, at: Date.now() }, bandOf(section, heard)),
          ],
          now.log,
        );
        return of(TakeActions.logged({ lines: lines.slice(now.log.length) }));
      }),
    );
  },
  { functional: true },
);

/** Writes into the logbook which pass of what goes on by itself begins to sound, where it is another than before. */
export const logPasses = createEffect(
  (store = inject(Store), actions = inject(Actions)) => {
    return actions.pipe(
      ofType(SessionActions.passBegun),
      withLatestFrom(store.select(selectSong), store.select(selectMusic)),
      mergeMap(([{ section: id, pass }, { heard: log }, music]) => {
        const section = music && sectionOf(music.score, id);
        if (!section) return EMPTY;
        const band = bandOf(section, music.heard);
        const lines = unwrittenPasses(music, section, pass, log).reduce<readonly Heard[]>(
          (all, take) => [
            ...all,
            logLine([...log, ...all], music.takes, { take, section: id, at: Date.now(), pass }, band),
          ],
          [],
        );
        return lines.length === 0 ? EMPTY : of(TakeActions.logged({ lines }));
      }),
    );
  },
  { functional: true },
);

/** What happens by itself when the song changes. */
export const provideSongEffects = (): EnvironmentProviders =>
  provideEffects({ tellRefusals, saveChanges, logWhatSounds, logPasses });

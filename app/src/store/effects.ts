import { inject, type EnvironmentProviders } from '@angular/core';
import { createEffect, provideEffects } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import { filter, tap } from 'rxjs';
import { Notices } from './notices';
import { Saving, selectKept } from './saving';
import { songFeature } from './song.reducer';

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

/** What happens by itself when the song changes. */
export const provideSongEffects = (): EnvironmentProviders => provideEffects({ tellRefusals, saveChanges });

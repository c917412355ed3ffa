import { isDevMode, type EnvironmentProviders } from '@angular/core';
import { provideStore } from '@ngrx/store';
import { refusalsChangeNothing } from './refusals';
import { sessionFeature } from './session';
import { songFeature } from './song.reducer';

/** The store with both of its features, in the application as in specs. */
export const provideSong = (): EnvironmentProviders =>
  provideStore(
    { [songFeature.name]: songFeature.reducer, [sessionFeature.name]: sessionFeature.reducer },
    {
      metaReducers: [refusalsChangeNothing],
      runtimeChecks: { strictStateImmutability: isDevMode(), strictActionImmutability: isDevMode() },
    },
  );

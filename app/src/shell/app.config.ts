import { isDevMode, provideBrowserGlobalErrorListeners, provideZonelessChangeDetection, type ApplicationConfig } from '@angular/core';
import { provideRouter, withComponentInputBinding, type Routes } from '@angular/router';
import { provideServiceWorker } from '@angular/service-worker';
import { provideStore } from '@ngrx/store';
import { sessionReducer } from '../state/session';
import { songReducer } from '../state/song.reducer';

const routes: Routes = [
  { path: '', title: 'Fendro', loadComponent: () => import('../workspace/workspace').then((m) => m.Workspace) },
  { path: 'songs', title: 'Songs – Fendro', loadComponent: () => import('../pages/songs').then((m) => m.Songs) },
  { path: 'deliver', title: 'Deliver – Fendro', loadComponent: () => import('../pages/deliver').then((m) => m.Deliver) },
  { path: 'bring-in', title: 'Bring in – Fendro', loadComponent: () => import('../pages/bring-in').then((m) => m.BringIn) },
  { path: 'help', title: 'Help – Fendro', loadComponent: () => import('../pages/help').then((m) => m.Help) },
  { path: '**', redirectTo: '' },
];

export const appConfig: ApplicationConfig = {
  providers: [
    provideBrowserGlobalErrorListeners(),
    provideZonelessChangeDetection(),
    provideRouter(routes, withComponentInputBinding()),
    provideStore({ song: songReducer, session: sessionReducer }, { runtimeChecks: { strictStateImmutability: isDevMode(), strictActionImmutability: isDevMode() } }),
    ...(isDevMode() ? [] : [provideServiceWorker('ngsw-worker.js')]),
  ],
};

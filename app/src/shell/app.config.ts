import { OverlayContainer } from '@angular/cdk/overlay';
import {
  ErrorHandler,
  isDevMode,
  provideBrowserGlobalErrorListeners,
  provideZonelessChangeDetection,
  type ApplicationConfig,
} from '@angular/core';
import { REMOVE_STYLES_ON_COMPONENT_DESTROY } from '@angular/platform-browser';
import { provideRouter, withComponentInputBinding, type Route, type Routes } from '@angular/router';
import { provideServiceWorker, SwRegistrationOptions } from '@angular/service-worker';
import { Dialogs } from '../commands/dialogs';
import { PAGE_ADDRESSES, type PageAddress } from '../pages/addresses';
import { provideSongEffects } from '../store/effects';
import { provideSong } from '../store/provide-song';
import { Mishaps } from '../store/mishaps';
import { provideIcons } from '../ui/icons';
import { provideMaterial } from '../ui/material';
import { Overlays } from './overlays';
import { PageDialogs } from './page-dialogs';

type Page = Pick<Route, 'title' | 'loadComponent'>;

const PAGES: Readonly<Record<PageAddress, Page>> = {
  songs: { title: 'Songs – Fendro', loadComponent: () => import('../pages/songs').then((m) => m.Songs) },
  deliver: {
    title: 'Deliver – Fendro',
    loadComponent: () => import('../pages/deliver/deliver').then((m) => m.Deliver),
  },
  'bring-in': {
    title: 'Bring in – Fendro',
    loadComponent: () => import('../pages/bring-in/bring-in').then((m) => m.BringIn),
  },
  devices: {
    title: 'Devices – Fendro',
    loadComponent: () => import('../pages/devices/devices').then((m) => m.Devices),
  },
  parts: { title: 'Small parts – Fendro', loadComponent: () => import('../pages/parts/parts').then((m) => m.Parts) },
  help: { title: 'Help – Fendro', loadComponent: () => import('../pages/help').then((m) => m.Help) },
};

const routes: Routes = [
  { path: '', title: 'Fendro', loadComponent: () => import('../workspace/workspace').then((m) => m.Workspace) },
  ...PAGE_ADDRESSES.map((path): Route => ({ path, ...PAGES[path] })),
  { path: '**', redirectTo: '' },
];

/** Installing fetches everything there is: it must not stand in the way of a first visit's first clicks and sounds. */
class AfterFirstSeconds extends SwRegistrationOptions {
  override registrationStrategy = 'registerWithDelay:10000';
}

export const appConfig: ApplicationConfig = {
  providers: [
    provideBrowserGlobalErrorListeners(),
    provideZonelessChangeDetection(),
    // To take styles away and put them in again with every menu and tooltip makes the browser look at the whole page.
    { provide: REMOVE_STYLES_ON_COMPONENT_DESTROY, useValue: false },
    provideRouter(routes, withComponentInputBinding()),
    { provide: Dialogs, useClass: PageDialogs },
    provideIcons(),
    provideMaterial(),
    { provide: ErrorHandler, useExisting: Mishaps },
    { provide: OverlayContainer, useClass: Overlays },
    provideSong(),
    provideSongEffects(),
    ...(isDevMode() ? [] : [provideServiceWorker('ngsw-worker.js', new AfterFirstSeconds())]),
  ],
};

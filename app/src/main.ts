import './trusted-types';
import { bootstrapApplication } from '@angular/platform-browser';
import { App } from './shell/app';
import { appConfig } from './shell/app.config';

bootstrapApplication(App, appConfig).catch((problem: unknown) => {
  console.error(problem);
});

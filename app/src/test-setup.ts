import { setupZonelessTestEnv } from 'jest-preset-angular/setup-env/zoneless';

setupZonelessTestEnv({ errorOnUnknownElements: true, errorOnUnknownProperties: true });

// The document of the tests has no layout to scroll.
Element.prototype.scrollIntoView = () => undefined;

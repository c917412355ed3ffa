import { configure } from '@testing-library/dom';
import { setupZonelessTestEnv } from 'jest-preset-angular/setup-env/zoneless';
import { closeMemory } from './testing/memory-database';

setupZonelessTestEnv({ errorOnUnknownElements: true, errorOnUnknownProperties: true });

// The document of the tests has no layout to scroll.
Element.prototype.scrollIntoView = () => undefined;

// Machines that run this share their cores with others: what is waited for may come late, but it must come.
jest.setTimeout(30_000);
configure({ asyncUtilTimeout: 20_000 });

// Nothing is laid out here, and finding things by role asks for the style of every element: the document would hold each
// against all rules of all components. What stands on the element itself is what counts.
window.getComputedStyle = (element) => (element as HTMLElement).style;

beforeEach(closeMemory);

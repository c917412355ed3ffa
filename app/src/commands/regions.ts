import { Directive, inject, Injectable, input, signal } from '@angular/core';
import { REGIONS, type Region } from './command';

/** Regions that F6 goes round, in order. */
const ROUND: readonly Region[] = ['song-line', 'running-order', 'sheet', 'bench', 'drawer'];
/** What a click does not make the region in focus: the writer goes on with what lies below it. */
const PASSED_BY: readonly Region[] = ['song-line'];
/** Where a region says that its keys begin; a field of text there would swallow them. */
const BEGINS = '[data-region-first]';
const FIRST = '[data-region-start], [tabindex="0"], button:not(:disabled), input, select';

const isRegion = (name: string | undefined): name is Region => REGIONS.some((region) => region === name);

/** The region that something of the page lies in, the innermost one. */
function regionOf(target: EventTarget | null): Region | null {
  const name = target instanceof Element ? target.closest<HTMLElement>('[data-region]')?.dataset['region'] : undefined;
  return isRegion(name) ? name : null;
}

/** Which region of the workspace keys belong to: the one with the focus, or the one that was clicked last. */
@Injectable({ providedIn: 'root' })
export class Regions {
  readonly current = signal<Region>('bench');

  constructor() {
    const press = ({ target }: Event): void => {
      const region = regionOf(target);
      if (region !== null && !PASSED_BY.includes(region)) this.current.set(region);
    };
    document.addEventListener('pointerdown', press, { capture: true });
    document.addEventListener('focusin', ({ target }) => {
      // A mouse gives the focus along with its press, which has been seen.
      const region = target instanceof Element && target.matches(':focus-visible') ? regionOf(target) : null;
      if (region !== null) this.current.set(region);
    });
  }

  /** The regions that an event lies in, the innermost first; the one in focus where it lies in none. */
  around(target: EventTarget | null): readonly Region[] {
    const found: Region[] = [];
    for (
      let element = target instanceof Element ? target.closest<HTMLElement>('[data-region], [data-keys]') : null;
      element;
      element = element.parentElement?.closest<HTMLElement>('[data-region], [data-keys]') ?? null
    ) {
      const name = element.dataset['keys'] ?? element.dataset['region'];
      if (isRegion(name)) found.push(name);
    }
    return found.length > 0 ? found : [this.current()];
  }

  /** Puts the focus into the region after or before the one that has it. */
  goRound(by: 1 | -1): void {
    const there = ROUND.flatMap((name) => document.querySelector<HTMLElement>(`[data-region="${name}"]`) ?? []);
    const now = there.findIndex((region) => region.dataset['region'] === this.current());
    const next = there[(now + by + there.length) % there.length];
    const region = next?.dataset['region'];
    if (!next || !isRegion(region)) return;
    this.current.set(region);
    (next.querySelector<HTMLElement>(BEGINS) ?? next.querySelector<HTMLElement>(FIRST) ?? next).focus();
  }
}

/** Marks a region of the workspace; the one in focus is outlined. */
@Directive({
  selector: '[fdRegion]',
  host: { '[attr.data-region]': 'fdRegion()', '[class.region-in-focus]': 'regions.current() === fdRegion()' },
})
export class InRegion {
  protected readonly regions = inject(Regions);
  readonly fdRegion = input.required<Region>();
}

import { ChangeDetectionStrategy, Component, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { HeardList, HeardOption } from './heard-list';

@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [HeardList, HeardOption],
  template: `
    <div fdHeardList aria-label="Things" [at]="at()">
      @for (thing of things(); track thing) {
        <div [fdHeardOption]="thing">{{ thing }}</div>
      }
    </div>
  `,
})
class Things {
  readonly things = signal(['one', 'two', 'three']);
  readonly at = signal<string | null>('three');
}

describe('a list that is heard', () => {
  const HEIGHT = 10;

  /** A list that shows one option of 10 px; its options stand below each other. */
  function shown(): { things: Things; list: HTMLElement; settle: () => void } {
    jest.spyOn(HTMLElement.prototype, 'getBoundingClientRect').mockImplementation(function (this: HTMLElement) {
      const list = this.closest('[role=listbox]');
      const at = this === list ? 0 : [...(list?.children ?? [])].indexOf(this) * HEIGHT - (list?.scrollTop ?? 0);
      return { top: at, bottom: at + HEIGHT } as DOMRect;
    });
    const fixture = TestBed.createComponent(Things);
    fixture.detectChanges();
    TestBed.tick();
    const list = (fixture.nativeElement as HTMLElement).querySelector<HTMLElement>('[role=listbox]')!;
    const settle = (): void => {
      fixture.detectChanges();
      TestBed.tick();
    };
    return { things: fixture.componentInstance, list, settle };
  }

  afterEach(() => jest.restoreAllMocks());

  it('brings what is heard into sight, and leaves whoever scrolls on where they are', () => {
    const { things, list, settle } = shown();
    expect(list.scrollTop).toBe(2 * HEIGHT);

    list.scrollTop = 0;
    things.things.set(['one', 'two', 'three', 'four']);
    settle();
    expect(list.scrollTop).toBe(0);

    things.at.set('four');
    settle();
    expect(list.scrollTop).toBe(3 * HEIGHT);
  });
});

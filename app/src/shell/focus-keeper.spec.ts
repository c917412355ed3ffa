import { ChangeDetectionStrategy, Component, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { FocusKeeper } from './focus-keeper';

@Component({
  selector: 'fd-test-page',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main id="main" tabindex="-1">
      <button data-opens="mix">Mix</button>
      <ul>
        @for (name of names(); track name) {
          <li>
            <button>{{ name }}</button>
          </li>
        }
      </ul>
      @if (drawer()) {
        <section data-opened-by="[data-opens=mix]"><button id="close">Close</button></section>
      }
      <button id="last" [disabled]="off()">Last</button>
    </main>
  `,
})
class TestPage {
  readonly names = signal(['one', 'two', 'three']);
  readonly drawer = signal(true);
  readonly off = signal(false);
}

const press = (): boolean => document.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter' }));
const at = (): string => document.activeElement?.textContent.trim() ?? '';

describe('the focus', () => {
  let page: TestPage;
  let settle: () => Promise<void>;
  const button = (text: string): HTMLElement =>
    [...document.querySelectorAll('button')].find((own) => own.textContent.trim() === text)!;

  beforeEach(() => {
    // The document of the tests has no layout.
    jest.spyOn(Element.prototype, 'getClientRects').mockReturnValue([1] as unknown as DOMRectList);
    TestBed.inject(FocusKeeper);
    const fixture = TestBed.createComponent(TestPage);
    document.body.append(fixture.nativeElement as Node);
    page = fixture.componentInstance;
    settle = () => fixture.whenStable();
    fixture.detectChanges();
  });

  it('goes to what took the place of what is gone, else to the neighbour before', async () => {
    button('two').focus();
    press();
    page.names.set(['one', 'three']);
    await settle();
    expect(at()).toBe('three');
    page.names.set(['one']);
    await settle();
    expect(at()).toBe('one');
  });

  it('goes back to what opened a drawer', async () => {
    button('Close').focus();
    press();
    page.drawer.set(false);
    await settle();
    expect(at()).toBe('Mix');
  });

  it('leaves a control that can no longer be used', async () => {
    button('Last').focus();
    press();
    page.off.set(true);
    await settle();
    (document.activeElement as HTMLElement).blur();
    page.names.set(['four']);
    await settle();
    expect(document.activeElement).not.toBe(document.body);
  });

  it('goes to the page after a click, so that keys work on', async () => {
    button('one').focus();
    document.dispatchEvent(new Event('pointerdown'));
    page.names.set([]);
    await settle();
    expect(document.activeElement?.id).toBe('main');
  });
});

import { ChangeDetectionStrategy, Component, signal } from '@angular/core';
import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { Tabs } from './tabs';
import { keyPress } from '../testing/key-press';

@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Tabs],
  template: `<fd-tabs label="Desk" [tabs]="tabs" [current]="current()" (opened)="open($event)">{{
    current()
  }}</fd-tabs>`,
})
class Desk {
  readonly tabs = ['one', 'two', 'three'].map((id) => ({ id, name: id }));
  readonly current = signal('one');
  readonly opened: string[] = [];
  open(id: string): void {
    this.opened.push(id);
    this.current.set(id);
  }
}

describe('tabs', () => {
  let fixture: ComponentFixture<Desk>;
  const page = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const tab = (name: string): HTMLElement =>
    [...page().querySelectorAll<HTMLElement>('[role="tab"]')].find((one) => one.textContent.trim() === name)!;
  const panel = (): HTMLElement => page().querySelector<HTMLElement>('[role="tabpanel"]')!;
  const press = async (name: string, keyCode: number): Promise<void> => {
    tab(name).dispatchEvent(keyPress('', keyCode));
    await fixture.whenStable();
  };
  const [LEFT, RIGHT] = [37, 39];

  beforeEach(async () => {
    fixture = TestBed.createComponent(Desk);
    document.body.append(page());
    await fixture.whenStable();
  });
  afterEach(() => {
    page().remove();
  });

  it('name their panel, and only the one in view takes Tab', () => {
    expect(tab('one').getAttribute('aria-controls')).toBe(panel().id);
    expect(panel().getAttribute('aria-labelledby')).toBe(tab('one').id);
    expect(['one', 'two', 'three'].map((name) => tab(name).tabIndex)).toEqual([0, -1, -1]);
    expect(tab('one').getAttribute('aria-selected')).toBe('true');
    expect(page().querySelector('[role="tablist"]')?.getAttribute('aria-label')).toBe('Desk');
  });

  it('go round with the arrows, and open what they come to', async () => {
    tab('one').focus();
    await press('one', RIGHT);
    expect(document.activeElement).toBe(tab('two'));
    await press('two', RIGHT);
    await press('three', RIGHT);
    await press('one', LEFT);
    expect(fixture.componentInstance.opened).toEqual(['two', 'three', 'one', 'three']);
    expect(document.activeElement).toBe(tab('three'));
    expect(panel().textContent).toBe('three');
  });

  it('open on a click', async () => {
    tab('two').click();
    await fixture.whenStable();
    expect(fixture.componentInstance.opened).toEqual(['two']);
    expect(panel().getAttribute('aria-labelledby')).toBe(tab('two').id);
  });
});

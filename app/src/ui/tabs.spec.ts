import { ComponentFixture, TestBed } from '@angular/core/testing';
import { Tabs } from './tabs';

describe('tabs', () => {
  let fixture: ComponentFixture<Tabs>;
  const opened: string[] = [];
  const tab = (id: string): HTMLElement =>
    (fixture.nativeElement as HTMLElement).querySelector<HTMLElement>(`#desk-tab-${id}`)!;
  const press = (id: string, key: string) =>
    tab(id).dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));

  beforeEach(async () => {
    opened.length = 0;
    fixture = TestBed.createComponent(Tabs);
    document.body.append(fixture.nativeElement as HTMLElement);
    fixture.componentRef.setInput('label', 'Desk');
    fixture.componentRef.setInput('prefix', 'desk');
    fixture.componentRef.setInput(
      'tabs',
      ['one', 'two', 'three'].map((id) => ({ id, name: id })),
    );
    fixture.componentRef.setInput('current', 'one');
    fixture.componentInstance.opened.subscribe((id) => opened.push(id));
    await fixture.whenStable();
  });

  it('name their panel, and only the one in view takes Tab', () => {
    expect(tab('one').getAttribute('aria-controls')).toBe('desk-panel');
    expect(['one', 'two', 'three'].map((id) => tab(id).tabIndex)).toEqual([0, -1, -1]);
    expect(tab('one').getAttribute('aria-selected')).toBe('true');
  });

  it('go round with the arrows, and focus goes along at once', () => {
    press('one', 'ArrowRight');
    expect(document.activeElement).toBe(tab('two'));
    press('two', 'ArrowRight');
    press('three', 'ArrowRight');
    press('one', 'ArrowLeft');
    expect(opened).toEqual(['two', 'three', 'one', 'three']);
    expect(document.activeElement).toBe(tab('three'));
    press('three', 'x');
    expect(opened).toHaveLength(4);
  });

  it('open on a click', () => {
    tab('two').click();
    expect(opened).toEqual(['two']);
  });
});

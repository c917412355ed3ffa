import { ComponentFixture, TestBed } from '@angular/core/testing';
import { IdeaList } from './idea-list';

describe('a list of ideas', () => {
  let fixture: ComponentFixture<IdeaList>;
  const said: string[] = [];
  const list = (): HTMLElement =>
    (fixture.nativeElement as HTMLElement).querySelector<HTMLElement>('[role="listbox"]')!;
  const press = (key: string, more: KeyboardEventInit = {}) =>
    list().dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more }));

  beforeEach(async () => {
    said.length = 0;
    fixture = TestBed.createComponent(IdeaList);
    fixture.componentRef.setInput('label', 'Ideas');
    fixture.componentRef.setInput(
      'ideas',
      ['one', 'two', 'three'].map((id) => ({ id, text: id, detail: '' })),
    );
    fixture.componentInstance.heard.subscribe((id) => said.push(id));
    fixture.componentInstance.taken.subscribe((id) => said.push(`take ${id}`));
    fixture.componentInstance.kept.subscribe((id) => said.push(`keep ${id}`));
    fixture.componentInstance.left.subscribe(() => said.push('leave'));
    await fixture.whenStable();
  });

  it('counts every key, however quickly they follow one another', () => {
    for (const key of ['ArrowDown', 'ArrowDown', 'ArrowDown', 'ArrowDown', 'ArrowUp', 'y', 'Enter']) press(key);
    expect(said).toEqual(['one', 'two', 'three', 'two', 'keep two', 'take two']);
  });

  it('starts from the top again after leaving', () => {
    for (const key of ['ArrowDown', 'ArrowDown', 'Escape', 'Enter', 'ArrowDown']) press(key);
    expect(said).toEqual(['one', 'two', 'leave', 'one']);
  });

  it('shows where it stands, and follows whoever tells it', async () => {
    press('ArrowDown');
    await fixture.whenStable();
    expect(list().getAttribute('aria-activedescendant')).toMatch(/^option-\d+-one$/);
    fixture.componentRef.setInput('current', 'three');
    await fixture.whenStable();
    expect(list().querySelector('[aria-selected="true"]')?.textContent).toContain('three');
  });

  it('leaves keys with modifiers to others', () => {
    press('ArrowDown', { ctrlKey: true });
    expect(said).toEqual([]);
  });
});

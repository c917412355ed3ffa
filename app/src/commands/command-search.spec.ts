import { TestBed } from '@angular/core/testing';
import { MatDialogRef } from '@angular/material/dialog';
import { Subject } from 'rxjs';
import { viewOf } from '../testing/view';
import { CommandSearch, findCommands } from './command-search';
import { Commands } from './commands';
import { keyPress } from '../testing/key-press';

function search() {
  const closed = new Subject<void>();
  const dialog = {
    afterClosed: () => closed,
    close: jest.fn(() => {
      closed.next();
    }),
  };
  Element.prototype.scrollIntoView = jest.fn();
  const view = viewOf(CommandSearch, { providers: [{ provide: MatDialogRef, useValue: dialog }] });
  const field = view.by.getByRole('combobox', { name: 'What would you like to do?' });
  const active = (): string | null => field.getAttribute('aria-activedescendant');
  const options = (): string[] => view.by.queryAllByRole('option').map(({ textContent }) => textContent.trim());
  return { view, dialog, field, active, options };
}

describe('the list of commands', () => {
  it('finds what holds every word, and what begins with the first stands first', () => {
    search();
    const { all } = TestBed.inject(Commands);
    expect(findCommands(all, '')).toEqual(all);
    const found = findCommands(all, 'hear take');
    expect(found.length).toBeGreaterThan(2);
    for (const { words, group } of found) {
      expect(`${words} ${group}`.toLowerCase()).toContain('hear');
      expect(`${words} ${group}`.toLowerCase()).toContain('take');
    }
    expect(found[0]!.words).toMatch(/^Hear/);
    expect(findCommands(all, 'no such words')).toEqual([]);
  });

  it('does what stands first with Enter, once it has closed', () => {
    const { view, dialog, field, active } = search();
    const { looping } = view.session;
    view.set('combobox', 'What would you like to do?', 'loop', 'input');
    expect(active()).toBe('command-transport.loop');
    view.press(field, 'Enter');
    expect(dialog.close).toHaveBeenCalled();
    expect(view.session.looping).toBe(!looping);
  });

  it('is gone over with the arrow keys, and lists only what can be done now', () => {
    const { view, field, active, options } = search();
    const first = active();
    view.act(() => field.dispatchEvent(keyPress('ArrowDown', 40)));
    expect(active()).not.toBe(first);
    expect(options().some((text) => text.startsWith('Undo'))).toBe(false);
    view.set('combobox', 'What would you like to do?', 'nothing of the kind', 'input');
    expect(options()).toEqual([]);
    expect(view.by.getByRole('status').textContent).toContain('Nothing by these words');
    view.press(field, 'Enter');
  });
});

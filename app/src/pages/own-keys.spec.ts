import { TestBed } from '@angular/core/testing';
import { Commands } from '../commands/commands';
import { viewOf } from '../testing/view';
import { OwnKeys } from './own-keys';

const KEEP = 'Keep the heard take';

describe('keys of one’s own', () => {
  it('are changed by pressing them', () => {
    const view = viewOf(OwnKeys);
    view.click('button', `Change the keys of: ${KEEP}`);
    const wait = view.by.getByRole('button', { name: `Press the new keys for: ${KEEP}` });
    expect(document.activeElement).toBe(wait);
    view.press(wait, 'Shift');
    view.press(wait, 'J', { ctrlKey: true, shiftKey: true });
    const commands = TestBed.inject(Commands);
    expect(commands.keysOf(commands.of('take.keep'))).toEqual(['Shift+Mod+j']);
    view.click('button', `Keys as they came for: ${KEEP}`);
    expect(commands.keysOf(commands.of('take.keep'))).toEqual(['y']);
  });

  it('that are another’s are refused with the reason, and Escape leaves them as they were', () => {
    const view = viewOf(OwnKeys);
    view.click('button', `Change the keys of: ${KEEP}`);
    const wait = view.by.getByRole('button', { name: `Press the new keys for: ${KEEP}` });
    view.press(wait, 'n');
    expect(view.by.getByRole('alert').textContent).toContain('Discard the heard take');
    view.press(wait, 'Escape');
    expect(view.by.queryByRole('alert')).toBeNull();
    const commands = TestBed.inject(Commands);
    expect(commands.someChanged()).toBe(false);
  });

  it('are found by words, switched off one by one and all letters at once', () => {
    const view = viewOf(OwnKeys);
    view.set('searchbox', 'Find a command', 'discard the', 'input');
    expect(view.by.getAllByRole('listitem')).toHaveLength(1);
    view.click('button', 'Switch off the keys of: Discard the heard take');
    const commands = TestBed.inject(Commands);
    expect(commands.keysOf(commands.of('take.discard'))).toEqual([]);
    view.click('button', 'Switch all single letters off');
    expect(commands.lettersOff()).toBe(true);
    view.click('button', 'All as they came');
    expect(commands.someChanged()).toBe(false);
  });
});

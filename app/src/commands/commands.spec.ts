import { TestBed } from '@angular/core/testing';
import { viewOf, type View } from '../testing/view';
import { Component, ChangeDetectionStrategy } from '@angular/core';
import { Shelf } from '../store/shelf';
import { Commands, meet } from './commands';
import { CONTROL_KEYS } from './control-keys';
import { chordOf, isCharacter } from './key-chord';
import { RunsCommand } from './runs-command';

@Component({
  selector: 'fd-test-controls',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [RunsCommand],
  template: `<button fdRuns="transport.loop">Loop</button><button fdRuns="song.undo">Undo</button>`,
})
class Controls {}

const opened = (): { view: View<Controls>; commands: Commands } => {
  const view = viewOf(Controls);
  return { view, commands: TestBed.inject(Commands) };
};

describe('the commands', () => {
  it('have one id, words and a heading each', () => {
    const { commands } = opened();
    expect(new Set(commands.all.map(({ id }) => id)).size).toBe(commands.all.length);
    for (const { id, words, group } of commands.all) {
      expect(id).toMatch(/^[a-z]+(\.[a-z-]+)+$/);
      expect(words).toMatch(/^[A-Z].{2,}[^.]$/);
      expect(group).not.toBe('');
    }
    expect(() => commands.of('nothing')).toThrow('nothing');
  });

  it('never share a key where both could be meant', () => {
    const { commands } = opened();
    for (const [index, one] of commands.all.entries())
      for (const other of commands.all.slice(index + 1))
        if (meet(one.region, other.region))
          expect({ of: `${one.id} and ${other.id}`, keys: one.keys.filter((key) => other.keys.includes(key)) }).toEqual(
            { of: `${one.id} and ${other.id}`, keys: [] },
          );
  });

  it('write their keys as they are read when they are pressed', () => {
    const { commands } = opened();
    const all = [...commands.all, ...CONTROL_KEYS.flatMap(({ keys }) => keys)];
    for (const chord of all.flatMap(({ keys }) => keys)) {
      const parts = chord.endsWith('+') ? [...chord.slice(0, -1).split('+').filter(Boolean), '+'] : chord.split('+');
      const key = parts.at(-1) ?? '';
      const held = (name: string): boolean => parts.includes(name);
      expect(
        chordOf({
          key: key === 'Space' ? ' ' : key,
          shiftKey: held('Shift'),
          altKey: held('Alt'),
          ctrlKey: held('Mod'),
          metaKey: false,
        }),
      ).toBe(chord);
    }
  });

  it('can all be run, one after the other, on a song that is open', () => {
    const { commands } = opened();
    for (const command of commands.all.filter(({ id }) => !id.startsWith('page.') && id !== 'song.save'))
      expect(() => commands.run(command)).not.toThrow();
  });

  it('tell what they would do and by which keys, and do nothing where they cannot', () => {
    const { view, commands } = opened();
    const undo = commands.of('song.undo');
    expect(commands.run(undo)).toBe(false);
    commands.run(commands.of('part.louder'));
    commands.run(commands.of('energy.none'));
    expect(commands.told(undo)).toMatch(/^Undo: .+ \(Ctrl Z\)$/);
    const past = view.song.past.length;
    expect(commands.run(undo)).toBe(true);
    expect(view.song.past).toHaveLength(past - 1);
  });

  it('make a button press them, say their keys, and be off where they are', () => {
    const { view } = opened();
    const { looping } = view.session;
    const loop = view.by.getByRole('button', { name: 'Loop', pressed: looping });
    expect(loop.getAttribute('aria-keyshortcuts')).toBe('o');
    view.click('button', 'Loop');
    expect(view.session.looping).toBe(!looping);
    expect(view.by.getByRole('button', { name: 'Loop', pressed: !looping })).toBe(loop);
    const undo = view.by.getByRole('button', { name: 'Undo' });
    expect(undo.getAttribute('aria-disabled')).toBe('true');
    expect(undo.getAttribute('aria-keyshortcuts')).toBe('Control+z');
  });
});

describe('keys of one’s own', () => {
  it('take the place of those that came, and are kept on the shelf until they are set back', () => {
    const { commands } = opened();
    const keep = commands.of('take.keep');
    commands.setKeys(keep, ['j']);
    expect(commands.at('j', ['workspace'])).toBe(keep);
    expect(commands.at('y', ['workspace'])).toBeNull();
    expect(TestBed.inject(Shelf).contents().keys).toEqual([{ id: 'take.keep', keys: ['j'] }]);
    expect(commands.isChanged(keep)).toBe(true);
    commands.setKeys(keep, keep.keys);
    expect(TestBed.inject(Shelf).contents().keys).toEqual([]);
    expect(commands.at('y', ['workspace'])).toBe(keep);
  });

  it('are not what another command has in the same place, which is told with what to do', () => {
    const { commands } = opened();
    const keep = commands.of('take.keep');
    expect(commands.problemWith(keep, 'n')).toMatch(/Discard the heard take.*Switch that off first/);
    expect(commands.problemWith(keep, 'Mod+k')).toContain('Find a command');
    expect(commands.problemWith(keep, 'y')).toBeNull();
    // On the sheet alone these arrows mean bars.
    expect(commands.problemWith(keep, 'Shift+ArrowLeft')).toBeNull();
    commands.setKeys(commands.of('take.discard'), []);
    expect(commands.problemWith(keep, 'n')).toBeNull();
  });

  it('can be rid of single letters at a stroke, and come back at one', () => {
    const { commands } = opened();
    commands.switchLettersOff();
    expect(commands.lettersOff()).toBe(true);
    expect(commands.all.flatMap((command) => commands.keysOf(command)).filter(isCharacter)).toEqual([]);
    expect(commands.keysOf(commands.of('song.undo'))).toEqual(['Mod+z']);
    expect(commands.keysOf(commands.of('take.choose'))).toEqual(['Enter']);
    commands.setAllBack();
    expect(commands.someChanged()).toBe(false);
    expect(commands.keysOf(commands.of('take.keep'))).toEqual(['y']);
  });
});

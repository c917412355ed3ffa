import { signal } from '@angular/core';
import { roleOf } from '@fendro/core/song/roles';
import { fireEvent } from '@testing-library/dom';
import { Shelf } from '../store/shelf';
import { SMALL, viewOf } from '../testing/view';
import { BriefShelf } from './brief-shelf';

const partIn = (role: string) => SMALL.score.parts.find((part) => part.role === role)!;
const saved = [
  {
    id: 'airy',
    name: 'Airy lines',
    role: 'melody' as const,
    brief: { ...roleOf('melody').brief, breath: 91, busyness: 2 },
  },
  { id: 'stomp', name: 'Stomping', role: 'drums' as const, brief: { ...roleOf('drums').brief, busyness: 20 } },
];

function shelfOf(role: string, keeps = true) {
  const shelf = { contents: signal({ briefs: saved }), add: jest.fn(() => keeps), remove: jest.fn() };
  const part = partIn(role);
  const view = viewOf(BriefShelf, { inputs: { part }, providers: [{ provide: Shelf, useValue: shelf }] });
  const offered = (): string[] =>
    view.by
      .getAllByRole('option')
      .slice(1)
      .map((option) => option.textContent);
  return { view, shelf, part, offered };
}

describe('briefs taken from elsewhere', () => {
  it('are those of parts and of the shelf that have something to say to this one', () => {
    const pitched = SMALL.score.parts
      .filter(({ role }) => role !== 'drums' && role !== 'melody')
      .map(({ name }) => name);
    expect(shelfOf('melody').offered()).toEqual([...pitched, 'Airy lines']);
    expect(shelfOf('drums').offered()).toEqual(['Stomping']);
  });

  it('change what suits the role, in one step of undo', () => {
    const { view, part } = shelfOf('melody');
    view.set('combobox', 'Take the brief of', 'airy');
    const now = view.score.parts.find(({ id }) => id === part.id)!.brief;
    expect(now).toMatchObject({ breath: 91, busyness: 2 });
    expect(view.song.past).toHaveLength(1);
    // Nothing is chosen for good: the list asks again.
    expect(view.by.getByRole<HTMLSelectElement>('combobox').value).toBe('');
  });

  it('are saved under a name that is proposed, or one of the writer’s, but not under none', () => {
    const { view, shelf, part } = shelfOf('melody');
    view.click('button', /^Save to the shelf/);
    const name = view.by.getByRole<HTMLInputElement>('textbox', { name: 'Name of the brief' });
    expect(name.value).toBe(`${part.name} of ${SMALL.score.title}`);
    view.set('textbox', 'Name of the brief', '   ');
    view.act(() => fireEvent.submit(name.form!));
    expect(shelf.add).not.toHaveBeenCalled();
    view.set('textbox', 'Name of the brief', ' Evening ');
    view.act(() => fireEvent.submit(name.form!));
    expect(shelf.add).toHaveBeenCalledWith('briefs', { name: 'Evening', role: 'melody', brief: part.brief });
    expect(view.by.queryByRole('textbox')).toBeNull();
  });

  it('stay to be saved where the shelf could not keep them, and are let go by Cancel', () => {
    const { view } = shelfOf('melody', false);
    view.click('button', /^Save to the shelf/);
    view.click('button', 'Save');
    expect(view.by.getByRole('textbox')).toBeTruthy();
    view.click('button', 'Cancel');
    expect(view.by.queryByRole('textbox')).toBeNull();
  });

  it('are removed from the shelf by name', () => {
    const { view, shelf } = shelfOf('melody');
    view.click('button', 'Remove Airy lines from the shelf');
    expect(shelf.remove).toHaveBeenCalledWith('briefs', 'airy');
  });
});

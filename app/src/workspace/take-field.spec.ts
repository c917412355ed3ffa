import { waitFor } from '@testing-library/dom';
import { chosenId } from '@fendro/core/song/section';
import type { PartTake } from '@fendro/core/song/schema';
import { selectSounding } from '../store/selectors';
import { SessionActions } from '../store/session';
import { TakeActions } from '../store/song.actions';
import { SMALL, viewOf } from '../testing/view';
import { TakeField } from './take-field';

const [melody] = SMALL.score.parts;
const section = SMALL.score.sections[0]!;
const own = SMALL.takes[chosenId(section, melody!.id)!] as PartTake;
const moved = (id: string, by: number): PartTake => ({
  ...own,
  id,
  origin: { ...own.origin, how: 'imported' },
  notes: own.notes.map((note) => ({ ...note, pitch: note.pitch + by })),
});

describe('the field of takes', () => {
  const field = async () => {
    const view = viewOf(TakeField, {
      done: [
        TakeActions.made({ takes: [moved('near', 1), moved('far', 24), moved('further', -24)] }),
        SessionActions.lineFocused({ line: melody!.id }),
      ],
    });
    // Likeness is told in slices, however many a slow machine needs.
    await waitFor(() => {
      view.fixture.detectChanges();
      view.by.getAllByRole('option');
    });
    return view;
  };

  it('shows every take once, each in a spot of its own, and says which is heard', async () => {
    const view = await field();
    const spots = view.by.getAllByRole('option');
    expect(spots.length).toBeGreaterThan(3);
    expect(new Set(spots.map(({ style }) => `${style.left} ${style.top}`)).size).toBe(spots.length);
    expect(spots.filter((spot) => spot.getAttribute('aria-selected') === 'true')).toHaveLength(1);
    expect(spots[0]!.getAttribute('aria-label')).toMatch(/^Take 1 of \d+/);
  });

  it('hears the nearest in a direction by its arrow, and whatever is clicked', async () => {
    const view = await field();
    const list = view.by.getByRole('listbox', { name: 'Takes by likeness' });
    const heard = () => view.store.selectSignal(selectSounding)();
    const before = heard();
    for (const key of ['ArrowRight', 'ArrowLeft', 'ArrowDown', 'ArrowUp']) view.press(list, key);
    expect(heard()).not.toBeNull();
    view.press(list, 'ArrowRight', { altKey: true });
    const other = view.by.getAllByRole('option').find((spot) => spot.getAttribute('aria-selected') === 'false')!;
    const now = heard();
    view.act(() => {
      other.click();
    });
    expect(heard()).not.toBe(now);
    expect(before).toBe(own.id);
  });
});

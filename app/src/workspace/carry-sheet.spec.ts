import { waitFor } from '@testing-library/dom';
import { MatDialogRef } from '@angular/material/dialog';
import type { PartTake } from '@fendro/core/song/schema';
import { SessionActions } from '../store/session';
import { TakeActions } from '../store/song.actions';
import { SMALL, viewOf } from '../testing/view';
import { CarrySheet } from './carry-sheet';

const [first, second] = SMALL.score.sections;
const [melody, other] = SMALL.score.parts;

function sheet() {
  const dialog = { close: jest.fn() };
  const view = viewOf(CarrySheet, {
    done: [SessionActions.lineFocused({ line: melody!.id }), SessionActions.barsSelected({ bars: { from: 1, to: 2 } })],
    providers: [{ provide: MatDialogRef, useValue: dialog }],
  });
  return { view, dialog };
}

describe('the sheet for carrying', () => {
  it('begins at another section, the same part and the same bars, and closes when it was done', async () => {
    const { view, dialog } = sheet();
    expect(view.by.getByRole<HTMLSelectElement>('combobox', { name: 'Section' }).value).toBe(second!.id);
    expect(view.by.getByRole<HTMLInputElement>('spinbutton', { name: 'From bar' }).value).toBe('2');
    view.click('button', 'Carry and hear it');
    await waitFor(() => {
      expect(view.session.heard[second!.id]?.[melody!.id]).toBeDefined();
    });
    expect(dialog.close).toHaveBeenCalled();
  });

  it('keeps what was picked while takes come in', async () => {
    const { view } = sheet();
    view.set('combobox', 'Section', first!.id);
    view.set('combobox', 'Part', other!.id);
    view.set('spinbutton', 'From bar', '1');
    const take = Object.values(SMALL.takes).find((own): own is PartTake => own.of === 'part')!;
    view.act(() => {
      view.store.dispatch(TakeActions.made({ takes: [{ ...take, id: 'newcomer' }] }));
    });
    view.click('button', 'Carry and hear it');
    await waitFor(() => {
      expect(view.session.heard[first!.id]?.[other!.id]).toBeDefined();
    });
    const carried = view.song.takes[view.session.heard[first!.id]?.[other!.id] ?? ''] as PartTake;
    expect(carried).toMatchObject({ part: other!.id, section: first!.id });
  });
});

import { MatOption } from '@angular/material/autocomplete';
import { By } from '@angular/platform-browser';
import { fireEvent } from '@testing-library/dom';
import { METRES } from '@fendro/core/theory/metre';
import { viewOf, type View } from '../../testing/view';
import { TEMPO_BOUNDS, TEMPO_TOLD } from '../ground-choices';
import { ChoiceField } from './choice-field';
import { FileButton } from './file-button';
import { FindField } from './find-field';
import { MetreField } from './metre-field';
import { NumberField } from './number-field';
import { RangeField } from './range-field';
import { SlideField } from './slide-field';
import { TextField } from './text-field';
import { keyPress } from '../../testing/key-press';

/** What an output has given so far. */
function given<T>(output: { subscribe: (take: (value: T) => void) => unknown }): T[] {
  const values: T[] = [];
  output.subscribe((value) => values.push(value));
  return values;
}
const valueOf = (view: View<unknown>, role: string): string => view.by.getByRole<HTMLInputElement>(role).value;

describe('a number field', () => {
  const tempo = (more: object = {}) => {
    const view = viewOf(NumberField, {
      inputs: { label: 'Tempo', value: 96, bounds: TEMPO_BOUNDS, told: TEMPO_TOLD, ...more },
    });
    return { view, changed: given(view.fixture.componentInstance.changed) };
  };

  it('gives what is a number, once, and shows what holds', () => {
    const { view, changed } = tempo();
    view.set('textbox', 'Tempo', '90,5');
    view.set('textbox', 'Tempo', '96');
    expect(changed).toEqual([90.5]);
    expect(valueOf(view, 'textbox')).toBe('96');
    view.show({ value: 90.5 });
    expect(valueOf(view, 'textbox')).toBe('90.5');
  });

  it('tells in its error line what is none, gives nothing, and Escape puts the old one back', () => {
    const { view, changed } = tempo();
    view.set('textbox', 'Tempo', 'fast');
    const field = view.by.getByRole('textbox');
    expect(view.by.getByRole('alert').textContent).toBe(TEMPO_TOLD);
    expect(field.getAttribute('aria-invalid')).toBe('true');
    expect(field.getAttribute('aria-describedby')).toContain(view.by.getByRole('alert').id);
    view.press(field, 'Escape');
    expect(view.by.queryByRole('alert')).toBeNull();
    expect(valueOf(view, 'textbox')).toBe('96');
    expect(changed).toEqual([]);
  });

  it('steps whole numbers with the arrows, within their bounds', () => {
    const { view, changed } = tempo({ label: 'Bars', value: 63, bounds: { least: 1, most: 64 } });
    const field = view.by.getByRole('spinbutton', { name: 'Bars' });
    view.press(field, 'ArrowUp');
    view.show({ value: 64 });
    view.press(field, 'ArrowUp');
    view.press(field, 'ArrowDown');
    expect(changed).toEqual([64, 63]);
  });

  it('may be emptied only where that means something', () => {
    const plain = tempo();
    plain.view.set('textbox', 'Tempo', ' ');
    expect(plain.view.by.getByRole('alert')).toBeTruthy();
    const { view, changed } = tempo({ blank: 'as the song' });
    const cleared = given(view.fixture.componentInstance.cleared);
    view.set('textbox', 'Tempo', ' ');
    expect(view.by.queryByRole('alert')).toBeNull();
    expect([cleared.length, changed.length]).toEqual([1, 0]);
  });
});

describe('a text field', () => {
  it('gives names without what stands around them, and keeps the old one for nothing', () => {
    const view = viewOf(TextField, { inputs: { label: 'Name', value: 'Verse' } });
    const changed = given(view.fixture.componentInstance.changed);
    view.set('textbox', 'Name', '  Storm ');
    view.set('textbox', 'Name', '   ');
    expect(changed).toEqual(['Storm']);
    expect(view.by.getByRole('alert').textContent).toContain('stays “Verse”');
    view.press(view.by.getByRole('textbox'), 'Escape');
    expect(valueOf(view, 'textbox')).toBe('Verse');
  });
});

describe('a choice field', () => {
  it('has its choices under their headings, gives their values, and shows what holds', () => {
    const choices = [
      { value: null, text: 'any' },
      { value: 1, text: 'one', group: 'Few' },
      { value: 2, text: 'two', group: 'Few' },
    ];
    const view = viewOf<ChoiceField<number | null>>(ChoiceField, { inputs: { label: 'How many', choices, value: 2 } });
    const chosen = given(view.fixture.componentInstance.chosen);
    expect(view.by.getByRole('group', { name: 'Few' }).children).toHaveLength(2);
    expect(valueOf(view, 'combobox')).toBe('2');
    view.set('combobox', 'How many', '1');
    view.set('combobox', 'How many', '');
    view.set('combobox', 'How many', '2');
    expect(chosen).toEqual([1, null]);
    // Who decides has not taken it.
    expect(valueOf(view, 'combobox')).toBe('2');
    view.show({ value: null });
    expect(valueOf(view, 'combobox')).toBe('');
  });
});

describe('sliders', () => {
  it('give numbers as they move, tell them with their unit, and return on a double click', () => {
    const view = viewOf(SlideField, { inputs: { label: 'Pan', value: 20, least: -100, usual: 0, unit: '%' } });
    const moved = given(view.fixture.componentInstance.moved);
    view.set('slider', 'Pan', '-40', 'input');
    expect(view.by.getByRole('slider').getAttribute('aria-valuetext')).toBe('-40 %');
    view.act(() => fireEvent.dblClick(view.by.getByRole('slider')));
    expect(moved).toEqual([-40, 0]);
  });

  it('with two handles give both ends, which never cross', () => {
    const view = viewOf(RangeField, {
      inputs: { labels: ['Lowest', 'Highest'], low: 50, high: 70, least: 40, most: 90 },
    });
    const moved = given(view.fixture.componentInstance.moved);
    view.set('slider', 'Lowest', '60', 'input');
    view.set('slider', 'Highest', '80', 'input');
    expect(moved[0]).toEqual({ low: 60, high: 70 });
    expect(moved.at(-1)!.high).toBe(80);
    expect(moved.every(({ low, high }) => low <= high)).toBe(true);
  });
});

describe('a field to find in a long list', () => {
  const styles = [
    { value: 'waltz', text: 'Waltz', group: 'Dance' },
    { value: 'reel', text: 'Reel', group: 'Dance' },
    { value: 'hymn', text: 'Hymn', group: 'Slow' },
  ];
  const find = () => {
    const view = viewOf(FindField, { inputs: { label: 'Style', choices: styles, value: 'waltz' } });
    const field = view.by.getByRole<HTMLInputElement>('combobox', { name: 'Style' });
    const options = (): string[] =>
      [...document.querySelectorAll('mat-option')].map(({ textContent }) => textContent.trim());
    const settled = async (): Promise<void> => {
      await view.fixture.whenStable();
      view.fixture.detectChanges();
    };
    return { view, field, options, settled, chosen: given(view.fixture.componentInstance.chosen) };
  };

  it('takes the first that was found at once by Enter', async () => {
    const { view, field, settled, chosen } = find();
    await settled();
    view.act(() => {
      field.focus();
    });
    fireEvent.input(field, { target: { value: 'dance re' } });
    view.press(field, 'Enter');
    await settled();
    expect(chosen).toEqual(['reel']);
  });

  it('keeps what is being typed while the list says the same anew', async () => {
    const { view, field, settled, chosen } = find();
    await settled();
    view.act(() => {
      field.focus();
    });
    view.act(() => fireEvent.input(field, { target: { value: 'hym' } }));
    view.show({ choices: styles.map((style) => ({ ...style })) });
    await settled();
    expect(field.value).toBe('hym');
    view.press(field, 'Enter');
    await settled();
    expect(chosen).toEqual(['hymn']);
  });

  it('shows all when it is opened, and what holds every word that is typed, headings too', async () => {
    const { view, field, options, settled } = find();
    await settled();
    expect(field.value).toBe('Waltz');
    expect(view.fixture.debugElement.query(By.directive(MatOption))).toBeNull();
    view.act(() => {
      field.focus();
    });
    expect(options()).toEqual(['Waltz', 'Reel', 'Hymn']);
    view.act(() => fireEvent.input(field, { target: { value: 'dance re' } }));
    expect(options()).toEqual(['Reel']);
    view.act(() => fireEvent.input(field, { target: { value: 'polka' } }));
    expect(options()).toEqual(['Nothing by these words']);
  });

  it('gives what is chosen, and tells what the arrows come upon so that it can be heard', async () => {
    const { view, field, chosen, settled } = find();
    const tried = given(view.fixture.componentInstance.tried);
    view.act(() => {
      field.focus();
    });
    const key = (name: string, keyCode: number): void => {
      view.act(() => field.dispatchEvent(keyPress(name, keyCode)));
    };
    key('ArrowDown', 40);
    key('ArrowDown', 40);
    expect(tried.at(-1)).toBe('reel');
    key('Enter', 13);
    expect(chosen).toEqual(['reel']);
    await settled();
    expect(field.value).toBe('Waltz');
  });
});

describe('a file button', () => {
  it('gives the files, and lets the same one be picked again', () => {
    const view = viewOf(FileButton, { inputs: { label: 'Song file', accept: '.fendro' } });
    const picked = given(view.fixture.componentInstance.picked);
    const field = view.by.getByLabelText<HTMLInputElement>('Song file');
    const file = new File(['x'], 'a.fendro');
    Object.defineProperty(field, 'files', { value: [file], configurable: true });
    view.act(() => fireEvent.change(field));
    view.act(() => fireEvent.change(field));
    expect(picked).toEqual([[file], [file]]);
  });
});

describe('a metre field', () => {
  const field = (more: object = {}) => {
    const view = viewOf(MetreField, { inputs: { label: 'Metre', value: METRES[2]!, ...more } });
    const { chosen, cleared } = view.fixture.componentInstance;
    return { view, chosen: given(chosen), cleared: given(cleared) };
  };

  it('takes a usual one from the list, and any other that is typed, with its groups', () => {
    const { view, chosen } = field();
    view.set('combobox', 'Metre', '3/4');
    view.set('combobox', 'Metre', 'other');
    view.set('textbox', 'Metre, typed', '7/8 3+2+2');
    expect(chosen).toEqual([METRES[1], { beats: 7, unit: 8, groups: [3, 2, 2] }]);
    view.show({ value: chosen[1] });
    expect(valueOf(view, 'combobox')).toBe('7/8 3+2+2');
  });

  it('tells what is none, gives nothing, and Escape puts the old one back', () => {
    const { view, chosen } = field();
    view.set('combobox', 'Metre', 'other');
    view.set('textbox', 'Metre, typed', '7/8 3+3');
    expect(view.by.getByRole('alert').textContent).toContain('stays 4/4');
    view.press(view.by.getByRole('textbox'), 'Escape');
    expect(valueOf(view, 'combobox')).toBe('4/4');
    expect(chosen).toEqual([]);
  });

  it('may have none of its own', () => {
    const { view, cleared, chosen } = field({ blank: 'as the song' });
    view.set('combobox', 'Metre', 'as the song');
    expect([cleared.length, chosen]).toEqual([1, []]);
    view.show({ value: null });
    expect(valueOf(view, 'combobox')).toBe('as the song');
  });
});

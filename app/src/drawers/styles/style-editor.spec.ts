import { ComponentFixture, TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import type { Style } from '@fendro/core/song/style';
import { styleOf } from '@fendro/core/styles/styles';
import { scoreWith } from '@fendro/core/testing/scores';
import { SongActions } from '../../store/song.actions';
import { StyleEditor } from './style-editor';
import { provideSong } from '../../store/provide-song';

const soul = styleOf('soul');
const { song } = scoreWith(1, 0);

describe('the editor of a style', () => {
  let fixture: ComponentFixture<StyleEditor>;
  let saved: Style[];
  const page = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const field = (label: string): HTMLInputElement => {
    const named = page().querySelector<HTMLInputElement>(`[aria-label="${label}"]`);
    return (
      named ??
      [...page().querySelectorAll('label')]
        .find((element) => element.textContent.trim().startsWith(label))!
        .querySelector('input')!
    );
  };
  const type = (label: string, text: string): void => {
    field(label).value = text;
    field(label).dispatchEvent(new Event('input'));
  };
  const save = async (): Promise<string[]> => {
    page()
      .querySelector('form')!
      .dispatchEvent(new Event('submit', { cancelable: true }));
    await fixture.whenStable();
    return [...page().querySelectorAll('[role="alert"]')].map(({ textContent }) => textContent);
  };

  beforeEach(async () => {
    TestBed.configureTestingModule({ providers: [provideSong()] });
    (TestBed.inject(Store) as Store).dispatch(SongActions.opened({ song }));
    fixture = TestBed.createComponent(StyleEditor);
    fixture.componentRef.setInput('style', soul);
    saved = [];
    fixture.componentInstance.saved.subscribe((style) => saved.push(style));
    await fixture.whenStable();
  });

  it('gives a style back as it was when nothing is changed', async () => {
    expect(await save()).toEqual([]);
    expect(saved).toEqual([soul]);
  });

  it('reads what is typed', async () => {
    type('Name', 'Valley soul');
    type('Moods', 'foggy, slow ,');
    type('Usual tempo', '70');
    type('Fills', 'one = snare ............x.x.\ntwo = kick x...............; snare ............X...');
    expect(await save()).toEqual([]);
    expect(saved[0]).toMatchObject({
      name: 'Valley soul',
      moods: ['foggy', 'slow'],
      tempo: { ...soul.tempo, usual: 70 },
      fills: [{ name: 'one', voices: { snare: '............x.x.' } }, { name: 'two' }],
    });
  });

  it('reads how its melodies go and its chords return', async () => {
    type('Melodies', 'late = .-x.-x-x.x | none');
    expect((await save()).join(' ')).toMatch(/Melodies, line 1/);
    type('Melodies', 'late = .-x.-x-x.x');
    type('Forms', 'out and home = 1 4 2-5 1/5 @30');
    type('Own chords', 'major 1 = 1 3 5 b7\nminor 5 = 1 3 5 b7');
    type('Sections that go round four bars, %', '40');
    expect(await save()).toEqual([]);
    expect(saved[0]).toMatchObject({
      melody: [{ name: 'late', steps: '.-x.-x-x.x' }],
      harmony: {
        forms: [{ name: 'out and home', bars: '1 4 2-5 1/5', weight: 30 }],
        majorChords: { 1: '1 3 5 b7' },
        minorChords: { 5: '1 3 5 b7' },
        loops: 40,
      },
    });
    type('Melodies', '');
    type('Forms', '');
    expect(await save()).toEqual([]);
    expect(saved[1]!.melody).toBeUndefined();
    expect(saved[1]!.harmony.forms).toBeUndefined();
  });

  it.each([
    ['Melodies', 'short = x.-x.', /bar 1 has 2 beats/],
    ['Melodies', 'odd = x.-x.-y.-x.', /only x/],
    ['Forms', 'odd = 1 9 4', /a word of degrees/],
    ['Own chords', 'major = 1 3 5', /Own chords, line 1/],
    ['Own chords', 'major 1 = 3 5', /written by its notes/],
    ['Sections that go round four bars, %', '140', /loops/],
    ['Name', '', /a style needs a name/],
    ['Usual tempo', '500', /tempo/],
    ['Usual tempo', 'soon', /tempo/],
    ['Bass', 'one R...', /Bass, line 1/],
    ['Grooves', 'one = gong x...............', /grooves › 1/],
    ['Chords', 'one = x... @50\ntwo = x... @50', /bar 1 has 4 steps/],
  ])('tells what is wrong with %s “%s” and saves nothing', async (label, text, told) => {
    type(label, text);
    expect((await save()).join(' ')).toMatch(told);
    expect(saved).toEqual([]);
  });

  it('takes the band of the open song', async () => {
    [...page().querySelectorAll('button')].find(({ textContent }) => textContent.includes('Take this song'))!.click();
    expect(await save()).toEqual([]);
    expect(saved[0]!.band.map(({ name }) => name)).toEqual(song.score.parts.map(({ name }) => name));
  });
});

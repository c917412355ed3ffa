import { TestBed } from '@angular/core/testing';
import { provideRouter, Router } from '@angular/router';
import { Store } from '@ngrx/store';
import { scoreWith } from '@fendro/core/testing/scores';
import { musicOf, storedSong } from '@fendro/core/testing/sounding';
import type { Score, Take } from '@fendro/core/song/schema';
import { Library } from '../../desks/library';
import { provideSong } from '../../store/provide-song';
import { selectOwnScore } from '../../store/selectors';
import { SongActions } from '../../store/song.actions';
import { provideIcons } from '../../ui/icons';
import { NoteNames } from '../../ui/note-names';
import { tabMemory } from '../../ui/page-memory';
import { ChordText } from './chord-text';

const { score, takes } = scoreWith(1, 0);

async function shown() {
  const adopt = jest.fn<Promise<{ ok: true; remark: null }>, [Score, readonly Take[]]>(() =>
    Promise.resolve({ ok: true, remark: null }),
  );
  TestBed.configureTestingModule({
    providers: [provideSong(), provideRouter([]), provideIcons(), { provide: Library, useValue: { adopt } }],
  });
  const store = TestBed.inject(Store);
  store.dispatch(SongActions.opened({ song: storedSong(musicOf(score, takes)) }));
  const went = jest.spyOn(TestBed.inject(Router), 'navigateByUrl').mockResolvedValue(true);
  const fixture = TestBed.createComponent(ChordText);
  await fixture.whenStable();
  const page = fixture.nativeElement as HTMLElement;
  const button = (words: string) =>
    [...page.querySelectorAll('button')].find((each) => each.textContent.includes(words))!;
  const write = async (text: string): Promise<void> => {
    const field = page.querySelector('textarea')!;
    field.value = text;
    field.dispatchEvent(new Event('input'));
    await fixture.whenStable();
  };
  return { adopt, button, fixture, page, store, went, write };
}

describe('chords as text', () => {
  beforeEach(() => {
    tabMemory.remove('fendro chords as text');
  });

  it('show as they are read while they are written, and what cannot be read is told', async () => {
    const { page, write, button } = await shown();
    expect(page.textContent).toContain('What you write shows here');
    expect(button('Make it a song').disabled).toBe(true);
    await write('Nothing of the kind');
    expect(page.querySelector('.problem')!.textContent).toContain('No chords were found');
    await write('[Verse]\nC / G / | Fxq\nChorus x2\nAm | F');
    expect([...page.querySelectorAll('h2')].map((heading) => heading.textContent.trim().replace(/\s+/g, ' '))).toEqual([
      'Verse',
      'Chorus 2 times',
    ]);
    expect(page.querySelectorAll('.bars li')).toHaveLength(4);
    expect(page.querySelector('.unread')!.textContent).toBe('Fxq');
    expect(button('Make it a song').disabled).toBe(false);
  });

  it('are there again after the page was left', async () => {
    const first = await shown();
    await first.write('C | G');
    TestBed.resetTestingModule();
    const { page } = await shown();
    expect(page.querySelector('textarea')!.value).toBe('C | G');
  });

  it('become a song in the key that the writer gives it', async () => {
    const { adopt, button, fixture, page, went, write } = await shown();
    await write('Needle\n1 | 4 | 5 | 1');
    const key = page.querySelector<HTMLSelectElement>('[aria-label="Key of the chart"]')!;
    key.selectedIndex = [...key.options].findIndex(({ textContent }) => textContent.trim() === 'D');
    key.dispatchEvent(new Event('change'));
    await fixture.whenStable();
    button('Make it a song').click();
    await fixture.whenStable();
    const [made, chords] = adopt.mock.calls[0]!;
    expect(made).toMatchObject({ title: 'Needle', ground: { tonic: 2, scale: 'major' } });
    expect(chords[0]).toMatchObject({
      of: 'harmony',
      chords: [{ chord: { root: 2 } }, { chord: { root: 1 } }, {}, {}],
    });
    expect(went).toHaveBeenCalledWith('/');
  });

  it('go to the end of the open song in one step, and read H where that is asked', async () => {
    const { button, page, store, write } = await shown();
    TestBed.inject(NoteNames).setGerman(true);
    await write('H7 | Em');
    expect(page.querySelector('.unread')).toBeNull();
    button('Put it at the end').click();
    const own = store.selectSignal(selectOwnScore)();
    expect(own!.sections).toHaveLength(score.sections.length + 1);
    expect(own!.order).toHaveLength(score.order.length + 1);
    TestBed.inject(NoteNames).setGerman(false);
  });
});

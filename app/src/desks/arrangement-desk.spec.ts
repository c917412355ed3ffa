import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import { provideSong } from '../store/provide-song';
import { selectOwnScore, selectView } from '../store/selectors';
import { SongActions } from '../store/song.actions';
import { SMALL } from '../testing/view';
import { ArrangementDesk } from './arrangement-desk';

describe('the end of a song', () => {
  let store: Store;
  let desk: ArrangementDesk;
  const names = (): string[] =>
    store
      .selectSignal(selectOwnScore)()!
      .sections.map(({ name }) => name);

  beforeEach(() => {
    TestBed.configureTestingModule({ providers: [provideSong()] });
    store = TestBed.inject(Store) as Store;
    desk = TestBed.inject(ArrangementDesk);
    store.dispatch(SongActions.opened({ song: SMALL.song }));
  });

  it('comes last and into view; as part of something larger it leaves the view alone', async () => {
    await desk.end('held', 'gesture');
    expect(names().at(-1)).toBe('Ending');
    expect(store.selectSignal(selectView)()!.section.name).toBe('Verse');
    await desk.end('stop');
    expect(store.selectSignal(selectView)()!.section.name).toBe('Ending 2');
  });

  it('never comes into another song that was opened meanwhile', async () => {
    const ending = desk.end('held');
    store.dispatch(SongActions.opened({ song: { ...SMALL.song, id: 'other' } }));
    await ending;
    expect(names()).toEqual(['Verse', 'Chorus']);
  });
});

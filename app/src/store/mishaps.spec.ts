import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import { scoreWith } from '@fendro/core/testing/scores';
import { selectSong } from './selectors';
import { SongActions } from './song.actions';
import { Mishaps } from './mishaps';
import { provideSong } from './provide-song';

const { song } = scoreWith(1, 0);

describe('an error that nobody caught', () => {
  let mishaps: Mishaps;
  let open: () => string | undefined;

  beforeEach(() => {
    jest.spyOn(console, 'error').mockImplementation(() => undefined);
    TestBed.configureTestingModule({ providers: [provideSong()] });
    const store = TestBed.inject(Store);
    const state = store.selectSignal(selectSong);
    open = () => state().open?.id;
    mishaps = TestBed.inject(Mishaps);
    store.dispatch(SongActions.opened({ song }));
  });
  afterEach(() => {
    jest.restoreAllMocks();
  });

  it('before a song was on the page puts that song away and says so', () => {
    mishaps.handleError(new Error('no such note'));
    expect(open()).toBeUndefined();
    expect(mishaps.unshown()).toEqual({ song: song.id, reason: 'This song could not be shown: no such note' });
  });

  it('later leaves the song where it is', () => {
    mishaps.wasShown(song.id);
    mishaps.handleError(new Error('a picture failed'));
    expect(open()).toBe(song.id);
    expect(mishaps.unshown()).toBeNull();
    expect(console.error).toHaveBeenCalled();
  });
});

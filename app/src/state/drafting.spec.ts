import { TestBed } from '@angular/core/testing';
import { provideStore, Store } from '@ngrx/store';
import { groundFor, startScore } from '@fendro/core/styles/band';
import { STYLES } from '@fendro/core/styles/styles';
import type { Song } from '@fendro/core/song/schema';
import { Drafting, TAKES_AT_A_TIME } from './drafting';
import { selectHeard, selectTakes, takesOf } from './selectors';
import { sessionReducer } from './session';
import { ScoreActions, SongActions } from './song.actions';
import { songReducer } from './song.reducer';

const style = STYLES[0]!;
const score = startScore('Dew Point', groundFor(style, { tonic: 0, scale: 'major' }), style);
const song: Song = { format: 'fendro-song', version: 2, id: 's', seed: 11, score, ledger: { takes: {}, heard: [] } };

describe('drafting', () => {
  let store: Store;
  let drafting: Drafting;
  const takes = () => store.selectSignal(selectTakes)();

  beforeEach(() => {
    TestBed.configureTestingModule({ providers: [provideStore({ song: songReducer, session: sessionReducer })] });
    store = TestBed.inject(Store) as Store;
    drafting = TestBed.inject(Drafting);
    store.dispatch(SongActions.opened({ song }));
  });

  it('adds eight different takes, hears the first and chooses none', async () => {
    await drafting.draft('section-1', 'part-1');
    const made = takesOf(takes(), 'section-1', 'part-1');
    expect(made).toHaveLength(TAKES_AT_A_TIME);
    expect(store.selectSignal(selectHeard)()['section-1']?.['part-1']).toBe(made[0]!.id);
    expect(drafting.news()).toBe('8 takes drafted for Melody');
    await drafting.draft('section-1', 'part-1');
    const all = takesOf(takes(), 'section-1', 'part-1').map((take) => (take.of === 'part' ? JSON.stringify(take.notes) : ''));
    expect(new Set(all).size).toBe(16);
  });

  it('drafts the whole band, chords first and every part to them', async () => {
    await drafting.draftBand('section-1', 2);
    const [harmony] = takesOf(takes(), 'section-1', 'harmony');
    for (const part of score.parts) {
      const own = takesOf(takes(), 'section-1', part.id);
      expect(own).toHaveLength(2);
      for (const take of own) expect(take.origin.asking?.harmony).toBe(harmony!.id);
    }
    const drums = score.parts.find(({ role }) => role === 'drums')!;
    const bass = score.parts.find(({ role }) => role === 'bass')!;
    expect(takesOf(takes(), 'section-1', bass.id)[0]!.origin.asking?.beside).toEqual([takesOf(takes(), 'section-1', drums.id)[0]!.id]);
  });

  it('says at the part what cannot be met', async () => {
    store.dispatch(ScoreActions.briefChanged({ part: 'part-4', change: { low: 49, high: 50 } }));
    await drafting.draft('section-1', 'part-4');
    expect(drafting.problem()).toMatchObject({ section: 'section-1', line: 'part-4', reason: expect.stringContaining('Widen') as string, setting: 'register' });
    expect(takesOf(takes(), 'section-1', 'part-4')).toHaveLength(0);
    const nearest = drafting.problem()?.nearest;
    expect(nearest).toBeDefined();
    store.dispatch(ScoreActions.briefChanged({ part: 'part-4', change: nearest! }));
    await drafting.draft('section-1', 'part-4');
    expect(drafting.problem()).toBeNull();
    expect(takesOf(takes(), 'section-1', 'part-4').length).toBeGreaterThan(0);
  });
});

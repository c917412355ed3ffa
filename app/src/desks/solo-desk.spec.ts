import { takesOf } from '@fendro/core/song/resolve';
import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import { scoreWith } from '@fendro/core/testing/scores';
import { selectLine, selectScore, selectTakes } from '../store/selectors';
import { SessionActions } from '../store/session';
import { SoloDesk } from './solo-desk';
import { SongActions } from '../store/song.actions';
import { provideSong } from '../store/provide-song';

const { song, score: drafted } = scoreWith(3, 0);

describe('the solo desk', () => {
  let store: Store;
  let desk: SoloDesk;
  const score = () => store.selectSignal(selectScore)()!;
  const part = (role: string) => drafted.parts.find((candidate) => candidate.role === role)!.id;

  beforeEach(() => {
    TestBed.configureTestingModule({ providers: [provideSong()] });
    store = TestBed.inject(Store) as Store;
    desk = TestBed.inject(SoloDesk);
    store.dispatch(SongActions.opened({ song }));
    store.dispatch(SessionActions.barsSelected({ bars: { from: 1, to: 2 } }));
  });

  it('adds a solo part, gives it the bars, drafts it and looks at it, in one step to undo', async () => {
    store.dispatch(SessionActions.lineFocused({ line: part('comping') }));
    await desk.give();
    const solo = score().parts.at(-1)!;
    expect(solo.role).toBe('solo');
    expect(score().sections[0]!.solos).toEqual([{ part: solo.id, over: part('comping'), from: 1, to: 2 }]);
    expect(store.selectSignal(selectLine)()).toBe(solo.id);
    const takes = takesOf(store.selectSignal(selectTakes)(), 'section-1', solo.id);
    expect(takes.length).toBeGreaterThan(0);
    for (const take of takes)
      if (take.of === 'part') expect(take.notes.every(({ start }) => start >= 1920 - 960)).toBe(true);
    expect(desk.about()?.text).toMatch(/^Plays bar 2; .+ rests there\.$/);
    store.dispatch(SongActions.undone());
    expect(score().parts).toHaveLength(drafted.parts.length);
    expect(score().sections[0]!.solos).toEqual([]);
  });

  it('lets the melody rest while drums or chords are in focus, and uses the same soloist again', async () => {
    store.dispatch(SessionActions.lineFocused({ line: part('drums') }));
    expect(desk.rests()?.role).toBe('melody');
    await desk.give();
    await desk.give();
    expect(score().parts.filter(({ role }) => role === 'solo')).toHaveLength(1);
    store.dispatch(SessionActions.lineFocused({ line: part('melody') }));
    expect(desk.about()?.text).toBe('Rests in bar 2 for Solo.');
    desk.takeBack(desk.about()!.solo);
    expect(desk.about()).toBeNull();
  });

  it('does nothing without bars', async () => {
    store.dispatch(SessionActions.barsSelected({ bars: null }));
    await desk.give();
    expect(score().parts).toHaveLength(drafted.parts.length);
  });
});

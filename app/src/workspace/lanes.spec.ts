import { TestBed } from '@angular/core/testing';
import { Store, type Action } from '@ngrx/store';
import { writtenNotes } from '@fendro/core/sounding/written';
import { noteRoles } from '@fendro/core/study/note-roles';
import { HARMONY } from '@fendro/core/song/schema';
import { provideSong } from '../store/provide-song';
import { SessionActions } from '../store/session';
import { ScoreActions, SongActions, TakeActions } from '../store/song.actions';
import { SMALL } from '../testing/view';
import { laneSelector } from './lanes';

describe('lanes', () => {
  const parts = SMALL.score.parts;
  const [first, second] = parts.map(({ id }) => id) as [string, string];
  let store: Store;
  let lanes: () => unknown[];
  const counted = { writtenNotes: jest.fn(writtenNotes), noteRoles: jest.fn(noteRoles) };
  const work = () => [counted.writtenNotes.mock.calls.length, counted.noteRoles.mock.calls.length];
  /** Which lanes are worked out anew by something. */
  const anew = (...actions: Action[]): string[] => {
    const before = lanes();
    for (const action of actions) store.dispatch(action);
    const after = lanes();
    return parts.flatMap(({ id }, index) => (after[index] === before[index] ? [] : [id]));
  };

  beforeEach(() => {
    TestBed.configureTestingModule({ providers: [provideSong()] });
    store = TestBed.inject(Store) as Store;
    store.dispatch(SongActions.opened({ song: SMALL.song }));
    const signals = parts.map(({ id }) => store.selectSignal(laneSelector(id, counted)));
    lanes = () => signals.map((lane) => lane());
    lanes();
    jest.clearAllMocks();
  });

  it('are not worked out again when another line comes into focus', () => {
    expect(anew(SessionActions.lineFocused({ line: second }), SessionActions.lineFocused({ line: HARMONY }))).toEqual(
      [],
    );
    expect(work()).toEqual([0, 0]);
  });

  it('are nothing to bars, loops, tabs and drawers', () => {
    expect(
      anew(
        SessionActions.cursorMoved({ bar: 1 }),
        SessionActions.barsSelected({ bars: { from: 0, to: 1 } }),
        SessionActions.loopToggled(),
        SessionActions.drawerToggled({ drawer: 'mix' }),
        SessionActions.chordTabOpened({ tab: 'facts' }),
      ),
    ).toEqual([]);
    expect(work()).toEqual([0, 0]);
  });

  it('change by themselves: a take, a name, the signs over the notes', () => {
    const section = 'section-1';
    expect(anew(TakeActions.heard({ section, line: first, take: `${section}-${first}-1` }))).toEqual([first]);
    expect(anew(ScoreActions.partChanged({ part: second, change: { name: 'Second voice' } }))).toEqual([second]);
    store.dispatch(SessionActions.lineFocused({ line: first }));
    expect(anew(SessionActions.rolesToggled())).toEqual([first]);
    expect(work()[1]).toBe(1);
  });

  it('all change with the section in view', () => {
    expect(anew(SessionActions.occurrenceViewed({ occurrence: 'occurrence-2' }))).toEqual(parts.map(({ id }) => id));
  });
});

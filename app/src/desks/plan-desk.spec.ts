import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import { SMALL } from '../testing/view';
import { Drafting } from './drafting';
import { PlanDesk } from './plan-desk';
import { provideSong } from '../store/provide-song';
import { selectOwnScore, selectUndo, selectView } from '../store/selectors';
import { SessionActions } from '../store/session';
import { SongActions } from '../store/song.actions';

const melody = SMALL.score.parts.find(({ role }) => role === 'melody')!;

describe('the plan of the song', () => {
  let store: Store;
  let desk: PlanDesk;
  const score = () => store.selectSignal(selectOwnScore)()!;

  beforeEach(() => {
    TestBed.configureTestingModule({ providers: [provideSong()] });
    store = TestBed.inject(Store) as Store;
    desk = TestBed.inject(PlanDesk);
    store.dispatch(SongActions.opened({ song: SMALL.song }));
  });

  it('has each section once, in the order in which they are heard', () => {
    expect(desk.sections().map(({ id }) => id)).toEqual(['section-1', 'section-2']);
  });

  it('binds and frees a section in one step that is named', () => {
    desk.bind(desk.sections()[0]!, false);
    expect(score().sections[0]!.plan.bound).toBe(false);
    expect(store.selectSignal(selectUndo)()).toContain('free Verse');
    store.dispatch(SongActions.undone());
    expect(score().sections[0]!.plan.bound).toBe(true);
  });

  it('remembers how the melody in focus begins, for every section as its kind does', () => {
    store.dispatch(SessionActions.lineFocused({ line: melody.id }));
    expect(desk.beginning()?.motif.notes.length).toBeGreaterThan(0);
    desk.remember();
    const [motif] = score().motifs;
    expect(motif!.name).toBe('Melody, Verse');
    expect(score().sections.map(({ plan }) => [plan.motif, plan.use])).toEqual([
      [motif!.id, 'states'],
      [motif!.id, 'states'],
    ]);
    desk.rename(motif!.id, '  The wind  ');
    desk.rename(motif!.id, ' ');
    expect(score().motifs[0]!.name).toBe('The wind');
    desk.change('section-2', { use: 'inverts' });
    expect(score().sections[1]!.plan.use).toBe('inverts');
    desk.forget(motif!.id);
    expect(score().motifs).toEqual([]);
    expect(score().sections.every(({ plan }) => plan.motif === null)).toBe(true);
  });

  it('ends a song that it drafts where it has no end yet, in the same step, and leaves endings out of the plan', async () => {
    const drafting = TestBed.inject(Drafting);
    const draftSong = jest.spyOn(drafting, 'draftSong').mockResolvedValue(true);
    expect(desk.ending()).toBe('held');
    await desk.draft(desk.sections(), true);
    expect([...draftSong.mock.calls[0]![0]]).toEqual(['section-1', 'section-2']);
    expect(score().sections.map(({ name }) => name)).toEqual(['Verse', 'Chorus', 'Ending']);
    expect(score().order.at(-1)!.section).toBe(score().sections[2]!.id);
    expect(store.selectSignal(selectView)()?.section.name).not.toBe('Ending');
    expect(desk.sections().map(({ name }) => name)).toEqual(['Verse', 'Chorus']);
    expect(desk.ending()).toBeNull();
    await desk.draft(desk.sections(), true);
    expect(score().sections).toHaveLength(3);
    store.dispatch(SongActions.undone());
    expect(score().sections).toHaveLength(2);
    await desk.draft(desk.sections(), false);
    draftSong.mockResolvedValue(false);
    await desk.draft(desk.sections(), true);
    expect(score().sections).toHaveLength(2);
  });

  it('has nothing to remember of drums or chords', () => {
    const drums = SMALL.score.parts.find(({ role }) => role === 'drums')!;
    store.dispatch(SessionActions.lineFocused({ line: drums.id }));
    expect(desk.beginning()).toBeNull();
    desk.remember();
    expect(score().motifs).toEqual([]);
  });
});

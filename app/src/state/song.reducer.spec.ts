import { scoreWith } from '@fendro/core/testing/scores';
import { selectHeardChoices, takesOf } from './selectors';
import { FRESH, SessionActions, sessionReducer, type SessionState } from './session';
import { ScoreActions, SongActions, TakeActions } from './song.actions';
import { CLOSED, songReducer, type SongState } from './song.reducer';

const { song } = scoreWith(1, 0);
const opened = songReducer(CLOSED, SongActions.opened({ song }));
const after = (...actions: Parameters<typeof songReducer>[1][]): SongState => actions.reduce((state, action) => songReducer(state, action), opened);

describe('the song', () => {
  it('undoes and redoes by name, and forgets what was undone when something new is done', () => {
    const renamed = after(ScoreActions.titleSet({ title: 'Gale' }));
    expect(renamed.past.map(({ name }) => name)).toEqual(['rename the song']);
    const undone = songReducer(renamed, SongActions.undone());
    expect(undone.score).toBe(opened.score);
    const redone = songReducer(undone, SongActions.redone());
    expect(redone.score).toEqual(renamed.score);
    expect(songReducer(undone, ScoreActions.titleSet({ title: 'Breeze' })).future).toEqual([]);
    expect(songReducer(opened, SongActions.undone())).toBe(opened);
    expect(songReducer(opened, SongActions.redone())).toBe(opened);
  });

  it('makes one step of one gesture', () => {
    const levels = [10, 20, 30].map((level) => ScoreActions.partChanged({ part: 'part-1', change: { level }, gesture: 'level part-1' }));
    const dragged = after(...levels);
    expect(dragged.past).toHaveLength(1);
    expect(songReducer(dragged, SongActions.undone()).score).toBe(opened.score);
    expect(after(...levels, ScoreActions.partChanged({ part: 'part-2', change: { level: 5 }, gesture: 'level part-2' })).past).toHaveLength(2);
  });

  it('never loses a take by undoing', () => {
    const take = { ...Object.values(song.ledger.takes)[0]!, id: 'fresh' };
    const chosen = after(TakeActions.made({ takes: [take] }), TakeActions.heard({ take: 'fresh', section: 'section-1', line: 'harmony', at: 1 }), TakeActions.chosen({ section: 'section-1', line: 'harmony', take: 'fresh' }));
    expect(chosen.score?.sections[0]?.harmony).toBe('fresh');
    const undone = songReducer(chosen, SongActions.undone());
    expect(undone.score?.sections[0]?.harmony).not.toBe('fresh');
    expect(undone.takes['fresh']).toBe(take);
    expect(undone.heard).toEqual([{ take: 'fresh', at: 1 }]);
    expect(takesOf(undone.takes, 'section-1', 'harmony').map(({ id }) => id)).toContain('fresh');
  });

  it('revises the score with new takes in one step', () => {
    const take = { ...Object.values(song.ledger.takes)[0]!, id: 'typed' };
    const revised = after(ScoreActions.revised({ name: 'type a chord', score: { ...song.score, title: 'Revised' }, takes: [take], released: [] }));
    expect(revised.score?.title).toBe('Revised');
    expect(revised.takes['typed']).toBe(take);
    expect(revised.past.at(-1)?.name).toBe('type a chord');
    expect(songReducer(revised, SongActions.undone()).score).toBe(song.score);
  });

  it('knows whether it is saved', () => {
    const changed = after(TakeActions.judged({ take: 'x', verdict: 'kept' }));
    expect(changed.saving).toBe('changed');
    expect(songReducer(changed, SongActions.saved({ at: 1 })).saving).toBe('saved');
    expect(songReducer(changed, SongActions.savingFailed({ reason: 'full' })).saving).toBe('failed');
    expect(songReducer(changed, SongActions.closed())).toBe(CLOSED);
    expect(songReducer(CLOSED, ScoreActions.titleSet({ title: 'no song' }))).toBe(CLOSED);
  });
});

describe('the session', () => {
  const run = (...actions: Parameters<typeof sessionReducer>[1][]): SessionState => actions.reduce((state, action) => sessionReducer(state, action), FRESH);
  const hear = (line: string, take: string) => TakeActions.heard({ take, section: 'section-1', line, at: 0 });

  it('opens where there is something of the first part to hear', () => {
    expect(run(SongActions.opened({ song }))).toMatchObject({ occurrence: 'occurrence-1', line: 'part-1' });
    const bare = { ...song, score: { ...song.score, sections: song.score.sections.map((section) => ({ ...section, chosen: {} })) } };
    expect(run(SongActions.opened({ song: bare }))).toMatchObject({ occurrence: 'occurrence-1', line: 'harmony' });
  });

  it('keeps heard takes together until they are chosen or let go', () => {
    const two = run(hear('part-1', 'a'), hear('part-2', 'b'));
    expect(two.heard).toEqual({ 'section-1': { 'part-1': 'a', 'part-2': 'b' } });
    expect(sessionReducer(two, TakeActions.released({ section: 'section-1', line: 'part-1' })).heard['section-1']).toEqual({ 'part-2': 'b' });
    expect(sessionReducer(two, TakeActions.allChosen({ choices: [] })).heard).toEqual({});
    expect(selectHeardChoices.projector(song.score, two.heard)).toHaveLength(2);
  });

  it('drops the bar selection when another section is viewed', () => {
    const selected = run(SessionActions.barsSelected({ bars: { from: 1, to: 3 } }));
    expect(sessionReducer(selected, SessionActions.occurrenceViewed({ occurrence: 'occurrence-2' })).bars).toBeNull();
  });

  it('hears parts alone by turns', () => {
    expect(run(SessionActions.aloneToggled({ part: 'a' }), SessionActions.aloneToggled({ part: 'b' }), SessionActions.aloneToggled({ part: 'a' })).alone).toEqual(['b']);
  });
});

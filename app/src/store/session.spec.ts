import { HARMONY, type Song } from '@fendro/core/song/schema';
import { emptied, withChoice } from '@fendro/core/song/section';
import { newPart } from '@fendro/core/styles/band';
import { styleOf } from '@fendro/core/styles/styles';
import { scoreWith } from '@fendro/core/testing/scores';
import { FRESH, SessionActions, sessionReducer, type SessionState } from './session';
import { ScoreActions, SongActions, TakeActions } from './song.actions';

const { song } = scoreWith(1, 0);
const [verse, chorus] = song.score.sections;
const [melody] = song.score.parts;
const opened = (of: Song = song, before: SessionState = FRESH): SessionState =>
  sessionReducer(before, SongActions.opened({ song: of }));
const after = (...actions: Parameters<typeof sessionReducer>[1][]): SessionState =>
  actions.reduce((state, action) => sessionReducer(state, action), opened());
const withSections = (sections: Song['score']['sections']): Song => ({ ...song, score: { ...song.score, sections } });

describe('how things stand at the desk', () => {
  it('begins where there is something to hear of the first part', () => {
    expect(opened()).toMatchObject({ occurrence: 'occurrence-1', line: melody!.id });
    const later = withSections([withChoice(verse!, melody!.id, null), chorus!]);
    expect(opened(later)).toMatchObject({ occurrence: 'occurrence-2', line: melody!.id });
  });

  it('begins at the chords of the first section of a song without music, or without parts', () => {
    expect(opened(withSections([emptied(verse!), emptied(chorus!)]))).toMatchObject({
      occurrence: 'occurrence-1',
      line: HARMONY,
    });
    const empty = { ...song, score: { ...song.score, parts: [] } };
    expect(opened(empty).line).toBe(HARMONY);
  });

  it('keeps the writer’s habits from song to song, and what is copied, but nothing else', () => {
    const busy: SessionState = {
      ...FRESH,
      metronome: true,
      switchAt: 'beat',
      rolesShown: true,
      grid: 'triplet',
      clip: [],
      alone: ['x'],
      looping: false,
      drawer: 'mix',
      bars: { from: 1, to: 2 },
    };
    const now = opened(song, busy);
    expect(now).toMatchObject({ metronome: true, switchAt: 'beat', rolesShown: true, grid: 'triplet', clip: [] });
    expect(now).toMatchObject({ alone: [], looping: true, drawer: null, bars: null });
  });

  it('hears what was heard when the song was saved', () => {
    const hearing = { [verse!.id]: { [melody!.id]: 'other' } };
    expect(opened({ ...song, hearing }).heard).toBe(hearing);
  });

  it('lets bars and trials go with the section that they belong to', () => {
    const chosen = after(
      SessionActions.barsSelected({ bars: { from: 0, to: 1 } }),
      SessionActions.chordFocused({ at: 960 }),
      SessionActions.chordSettingTried({ section: verse!.id, setting: { spread: 'wide' } }),
    );
    expect(chosen).toMatchObject({ bars: { from: 0, to: 1 }, chordAt: 960 });
    const same = sessionReducer(chosen, SessionActions.occurrenceViewed({ occurrence: 'occurrence-1' }));
    expect(same).toBe(chosen);
    const other = sessionReducer(chosen, SessionActions.occurrenceViewed({ occurrence: 'occurrence-2' }));
    expect(other).toMatchObject({ bars: null, chordAt: 0, chordTrial: null });
    expect(sessionReducer(chosen, SessionActions.lineFocused({ line: HARMONY })).chordTrial).toBeNull();
    expect(sessionReducer(chosen, SessionActions.chordTabOpened({ tab: 'facts' }))).toMatchObject({
      chordTab: 'facts',
      chordTrial: null,
    });
  });

  it('turns things on and off', () => {
    const toggled = after(
      SessionActions.loopToggled(),
      SessionActions.metronomeToggled(),
      SessionActions.rolesToggled(),
      SessionActions.drawerToggled({ drawer: 'styles' }),
      SessionActions.aloneToggled({ part: 'a' }),
      SessionActions.aloneToggled({ part: 'b' }),
      SessionActions.aloneToggled({ part: 'a' }),
      SessionActions.switchMomentSet({ switchAt: 'top' }),
      SessionActions.gridSet({ grid: 'eighth' }),
      SessionActions.chordsCopied({ clip: [] }),
    );
    expect(toggled).toMatchObject({
      looping: false,
      metronome: true,
      rolesShown: true,
      drawer: 'styles',
      alone: ['b'],
      switchAt: 'top',
      grid: 'eighth',
      clip: [],
    });
    const drawer = (name: 'styles' | 'mix'): SessionState =>
      sessionReducer(toggled, SessionActions.drawerToggled({ drawer: name }));
    expect(drawer('styles').drawer).toBeNull();
    expect(drawer('mix').drawer).toBe('mix');
  });

  it('hears takes by section and line, and lets each of them go by itself', () => {
    const hear = (section: string, line: string, take: string) => TakeActions.heard({ section, line, take });
    const both = after(hear('s', 'a', 'one'), hear('s', 'b', 'two'), hear('t', 'a', 'three'), hear('s', 'a', 'four'));
    expect(both.heard).toEqual({ s: { a: 'four', b: 'two' }, t: { a: 'three' } });
    const released = sessionReducer(both, TakeActions.released({ section: 's', line: 'a' }));
    expect(released.heard).toEqual({ s: { b: 'two' }, t: { a: 'three' } });
    expect(sessionReducer(released, TakeActions.released({ section: 's', line: 'b' })).heard).toEqual({
      t: { a: 'three' },
    });
    expect(sessionReducer(both, TakeActions.released({ section: 'nowhere', line: 'a' })).heard).toEqual(both.heard);
  });

  it('goes to what was added, and to what a larger change asks to be looked at', () => {
    const part = newPart(styleOf('singer-songwriter'), 'bass', 'new-part', 3);
    expect(after(ScoreActions.partAdded({ part })).line).toBe('new-part');
    expect(after(ScoreActions.sectionAdded({ section: verse!, occurrence: 'fresh' })).occurrence).toBe('fresh');
    expect(after(ScoreActions.occurrenceAdded({ occurrence: { id: 'again', section: verse!.id } })).occurrence).toBe(
      'again',
    );
    const heard = TakeActions.heard({ section: verse!.id, line: HARMONY, take: 'tried' });
    const revised = ScoreActions.revised({
      name: 'move the key',
      score: song.score,
      takes: [],
      released: [{ section: verse!.id, line: HARMONY }],
      view: 'occurrence-2',
      focus: HARMONY,
    });
    const pending = { section: null, change: { tonic: 3 }, how: 'refit' } as const;
    const now = after(heard, SessionActions.groundTried({ pending }), revised);
    expect(now).toMatchObject({ heard: {}, occurrence: 'occurrence-2', line: HARMONY, pendingGround: null });
    const stays = after(heard, ScoreActions.revised({ name: 'x', score: song.score, takes: [], released: [] }));
    expect(stays).toMatchObject({ occurrence: 'occurrence-1', line: melody!.id });
    expect(Object.keys(stays.heard)).toEqual([verse!.id]);
  });
});

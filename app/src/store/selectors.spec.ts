import { PLAIN_CHORDS } from '@fendro/core/song/briefs';
import { remark } from '@fendro/core/song/edit';
import { HARMONY, type PartTake, type Song } from '@fendro/core/song/schema';
import { chosenId } from '@fendro/core/song/section';
import { editedTake } from '@fendro/core/song/take';
import { scoreWith } from '@fendro/core/testing/scores';
import {
  selectBar,
  selectChords,
  selectChordSetting,
  selectGround,
  selectHeard,
  selectHeardChoices,
  selectLine,
  selectLineTakes,
  selectMusic,
  selectPart,
  selectScore,
  selectSection,
  selectSounding,
  selectTakes,
  selectUndo,
  selectView,
} from './selectors';
import { FRESH, type PendingGround, type SessionState } from './session';
import { ScoreActions, SongActions } from './song.actions';
import { CLOSED, songReducer } from './song.reducer';

const { song, takes } = scoreWith(1, 0);
const [verse, chorus] = song.score.sections;
const [melody] = song.score.parts;

/** What a selector says of a song and of how things stand. */
const stateOf = (session: Partial<SessionState> = {}, of: Song = song) => ({
  song: songReducer(CLOSED, SongActions.opened({ song: of })),
  session: { ...FRESH, line: melody!.id, ...session },
});
const closed = { song: CLOSED, session: FRESH };

describe('what the views read', () => {
  it('is nothing while no song is open', () => {
    expect(selectView(closed)).toBeNull();
    expect(selectMusic(closed)).toBeNull();
    expect(selectGround(closed)).toBeNull();
    expect(selectBar(closed)).toBe(1920);
    expect(selectSounding(closed)).toBeNull();
    expect(selectChords(closed)).toEqual([]);
    expect(selectLineTakes(closed)).toEqual([]);
    expect(selectHeardChoices(closed)).toEqual([]);
    expect(selectChordSetting(closed)).toEqual(PLAIN_CHORDS);
  });

  it('is the place in view, or the first where that has gone', () => {
    expect(selectView(stateOf({ occurrence: 'occurrence-2' }))!.section).toBe(chorus);
    expect(selectView(stateOf({ occurrence: 'gone' }))!.occurrence.id).toBe('occurrence-1');
    expect(selectSection(stateOf())).toBe(verse);
    expect(selectPart(stateOf())).toBe(melody);
    expect(selectPart(stateOf({ line: HARMONY }))).toBeNull();
    expect(selectLine(stateOf())).toBe(melody!.id);
    // A part that is gone leaves the focus with the chords, takes and all.
    const removed = stateOf();
    const without = { ...removed, song: songReducer(removed.song, ScoreActions.partRemoved({ part: melody!.id })) };
    expect(selectLine(without)).toBe(HARMONY);
    expect(selectLineTakes(without).every(({ of }) => of === 'harmony')).toBe(true);
  });

  it('is the ground of the section in view, and its bars', () => {
    const own = { ...chorus!, ground: { metre: { beats: 3, unit: 4 as const, groups: [1, 1, 1] } } };
    const of = { ...song, score: { ...song.score, sections: [verse!, own] } };
    expect(selectBar(stateOf({ occurrence: 'occurrence-2' }, of))).toBe(1440);
    expect(selectBar(stateOf({ occurrence: 'occurrence-1' }, of))).toBe(1920);
  });

  it('sounds what is heard, else what is chosen', () => {
    const heard = { [verse!.id]: { [melody!.id]: `${verse!.id}-${melody!.id}-1` } };
    expect(selectSounding(stateOf())).toBe(chosenId(verse!, melody!.id));
    expect(selectSounding(stateOf({ heard }))).toBe(`${verse!.id}-${melody!.id}-1`);
    expect(selectHeardChoices(stateOf({ heard }))).toEqual([
      { section: verse!.id, line: melody!.id, take: `${verse!.id}-${melody!.id}-1` },
    ]);
    // Sections and parts that have gone are nobody's choice.
    const lost = { gone: { [melody!.id]: 'x' }, [verse!.id]: { nobody: 'y' } };
    expect(selectHeardChoices(stateOf({ heard: lost }))).toEqual([]);
  });

  it('lists drafts and what was brought in, and steps on the way only while they sound or were judged', () => {
    const drafted = [0, 1].map((attempt) => `${verse!.id}-${melody!.id}-${attempt}`);
    const mine = editedTake('mine', takes[drafted[0]!] as PartTake, []);
    const of: Song = { ...song, ledger: { ...song.ledger, takes: { ...takes, mine } } };
    const ids = (session: Partial<SessionState>, which: Song = of): string[] =>
      selectLineTakes(stateOf(session, which)).map(({ id }) => id);
    expect(ids({})).toEqual(drafted);
    expect(ids({ heard: { [verse!.id]: { [melody!.id]: 'mine' } } })).toEqual([...drafted, 'mine']);
    const judged = { ...of, score: remark(of.score, 'mine', { verdict: 'kept' }) };
    expect(ids({}, judged)).toEqual([...drafted, 'mine']);
    expect(ids({ occurrence: 'occurrence-2' })).not.toContain('mine');
  });

  it('is the chords’ setting with what is tried of it, in the section where it is tried', () => {
    const chordTrial = { section: verse!.id, setting: { spread: 'wide' as const } };
    expect(selectChordSetting(stateOf({ chordTrial }))).toEqual({ ...verse!.chordSetting, spread: 'wide' });
    expect(selectChordSetting(stateOf({ chordTrial, occurrence: 'occurrence-2' }))).toEqual(chorus!.chordSetting);
  });

  it('is the whole song as a change of key that is tried would make it, while the stored one stays', () => {
    const pendingGround: PendingGround = { section: null, change: { tonic: 5 }, how: 'move' };
    const tried = stateOf({ pendingGround, heard: { [verse!.id]: { [melody!.id]: `${verse!.id}-${melody!.id}-1` } } });
    expect(selectScore(tried)!.ground.tonic).toBe(5);
    expect(tried.song.score!.ground.tonic).toBe(song.score.ground.tonic);
    // What was heard is in it already.
    expect(selectHeard(tried)).toEqual({});
    expect(Object.keys(selectTakes(tried)).length).toBeGreaterThan(Object.keys(takes).length);
    expect(selectMusic(tried)!.score).toBe(selectScore(tried));
  });

  it('names what undo would do', () => {
    const state = stateOf();
    expect(selectUndo(state)).toBeNull();
    const renamed = { ...state, song: songReducer(state.song, ScoreActions.titleSet({ title: 'Gale' })) };
    expect(selectUndo(renamed)).toBe('rename the song');
  });
});

import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import { chosenId } from '@fendro/core/song/section';
import { HARMONY, type PartTake } from '@fendro/core/song/schema';
import { isDrumRole } from '@fendro/core/song/roles';
import { scoreWith } from '@fendro/core/testing/scores';
import { musicOf, storedSong } from '@fendro/core/testing/sounding';
import { readChord } from '@fendro/core/theory/read-chord';
import { HarmonyDesk } from './harmony-desk';
import {
  selectChords,
  selectHeard,
  selectOwnScore,
  selectScore,
  selectSession,
  selectSong,
  selectTakes,
} from '../store/selectors';
import { SessionActions } from '../store/session';
import { SongActions, TakeActions } from '../store/song.actions';
import { provideSong } from '../store/provide-song';

const { score, takes } = scoreWith(1, 0);
const verse = score.sections[0]!;
const keys = score.parts.find(({ role }) => role === 'comping')!;
const drums = score.parts.find(({ role }) => isDrumRole(role))!;
const chordOf = (text: string) => {
  const reading = readChord(text);
  return reading.ok ? reading.chord : null;
};
const FAR = [
  { start: 0, duration: 1920, chord: chordOf('F#') },
  { start: 1920, duration: 1920, chord: chordOf('B7') },
];

describe('the harmony desk', () => {
  let store: Store;
  let desk: HarmonyDesk;
  const read = <T>(selector: (state: object) => T): T => store.selectSignal(selector)();
  const section = () => read(selectOwnScore)!.sections[0]!;
  const takeOf = (line: string): PartTake => read(selectTakes)[chosenId(section(), line)!] as PartTake;

  beforeEach(() => {
    TestBed.configureTestingModule({ providers: [provideSong()] });
    store = TestBed.inject(Store) as Store;
    desk = TestBed.inject(HarmonyDesk);
    store.dispatch(SongActions.opened({ song: storedSong(musicOf(score, takes)) }));
  });

  it('edits chords in one step: parts that lie over them follow, drums stay, and one undo takes all of it back', () => {
    const before = section();
    desk.edit('type a chord', FAR);
    const now = chosenId(section(), HARMONY)!;
    expect(read(selectTakes)[now]).toMatchObject({ origin: { how: 'typed', parents: [verse.harmony] } });
    expect(takeOf(keys.id)).toMatchObject({ origin: { how: 'fitted' }, over: { harmony: now } });
    expect(takeOf(drums.id)).toBe(takes[chosenId(verse, drums.id)!]);
    expect(read(selectSong).past).toHaveLength(1);
    store.dispatch(SongActions.undone());
    expect(section()).toEqual(before);
  });

  it('lets an idea be heard without touching the song, goes back from it, or takes it', () => {
    desk.hear(FAR, 'the collection');
    expect(desk.trying()).toBe(true);
    expect(read(selectChords)).toEqual(FAR);
    expect(section()).toEqual(verse);
    desk.letGo();
    expect(desk.trying()).toBe(false);
    expect(read(selectChords)).not.toEqual(FAR);
    desk.hear(FAR, 'the collection');
    desk.chooseAll();
    expect(desk.trying()).toBe(false);
    expect(read(selectTakes)[chosenId(section(), HARMONY)!]).toMatchObject({
      origin: { how: 'picked', from: 'the collection' },
    });
    expect(takeOf(keys.id).origin.how).toBe('fitted');
  });

  it('never lets a line fall silent by going back', () => {
    expect(desk.backToChosen(verse.id, keys.id)).toBe(false);
    const other = `${verse.id}-${keys.id}-1`;
    store.dispatch(TakeActions.heard({ section: verse.id, line: keys.id, take: other }));
    expect(desk.backToChosen(verse.id, keys.id)).toBe(true);
    store.dispatch(TakeActions.chosen({ section: verse.id, line: keys.id, take: null }));
    store.dispatch(TakeActions.heard({ section: verse.id, line: keys.id, take: other }));
    expect(desk.backToChosen(verse.id, keys.id)).toBe(false);
    expect(read(selectHeard)[verse.id]?.[keys.id]).toBe(other);
  });

  it('takes a changed song with the chords that it drafted as one step that parts follow', () => {
    desk.hear(FAR, 'a leaning');
    const drafted = read(selectTakes)[read(selectHeard)[verse.id]![HARMONY]!]!;
    desk.chooseIn({ ...read(selectOwnScore)!, title: 'Leant' }, drafted, 'lean');
    expect([read(selectOwnScore)!.title, chosenId(section(), HARMONY)]).toEqual(['Leant', drafted.id]);
    expect(takeOf(keys.id)).toMatchObject({ origin: { how: 'fitted' }, over: { harmony: drafted.id } });
    expect([desk.trying(), read(selectSong).past.length]).toEqual([false, 1]);
  });

  it('gives a part what the chord line strikes, as a take that follows the chords', () => {
    desk.giveTo(keys.id);
    const given = takeOf(keys.id);
    expect(given).toMatchObject({
      origin: { how: 'voiced', from: 'the chord line', parents: [verse.harmony] },
      over: { harmony: verse.harmony },
    });
    expect(given.notes.length).toBeGreaterThan(0);
    desk.edit('type a chord', FAR);
    expect(takeOf(keys.id).origin).toMatchObject({ how: 'fitted', parents: [given.id] });
  });

  it('asks how the music follows another key before it changes, and not where there is no music or only tempo', () => {
    desk.changeGround({ section: null, change: { tempo: 133 } });
    expect(read(selectOwnScore)!.ground.tempo).toBe(133);
    desk.changeGround({ section: null, change: { tonic: 2 } });
    expect(read(selectSession).pendingGround).toMatchObject({ how: 'move', change: { tonic: 2 } });
    expect(read(selectOwnScore)!.ground.tonic).toBe(score.ground.tonic);
    // What is heard is the song as it would be.
    expect(read(selectScore)!.ground.tonic).toBe(2);
    desk.applyGround();
    expect(read(selectOwnScore)!.ground.tonic).toBe(2);
    expect(read(selectSession).pendingGround).toBeNull();
    expect(takeOf(keys.id)).toMatchObject({ over: { tonic: 2, harmony: chosenId(section(), HARMONY) } });
    store.dispatch(SessionActions.groundTried({ pending: null }));
    desk.changeGround({ section: null, change: { scale: 'dorian' } });
    expect(read(selectSession).pendingGround).toMatchObject({ how: 'refit' });
  });
});

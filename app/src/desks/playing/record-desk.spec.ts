import { waitFor } from '@testing-library/dom';
import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import { changeSection } from '@fendro/core/song/edit';
import { layOut, sectionTicks } from '@fendro/core/song/resolve';
import { HARMONY, type HarmonyTake, type PartTake, type Take } from '@fendro/core/song/schema';
import { chosenId, withChoice } from '@fendro/core/song/section';
import { storedSong } from '@fendro/core/testing/sounding';
import { chordSymbol } from '@fendro/core/theory/chord';
import { LiveSound } from '../../sound/live-sound';
import { Playback } from '../../sound/playback';
import { Notices } from '../../store/notices';
import { provideSong } from '../../store/provide-song';
import { selectMusic, selectSession, selectSong, selectSounding } from '../../store/selectors';
import { SessionActions } from '../../store/session';
import { ScoreActions, SongActions } from '../../store/song.actions';
import { pageMemory } from '../../ui/page-memory';
import { quietHands, SMALL, steppedPlayback } from '../../testing/view';
import { LikeThis } from './like-this';
import { PlayDesk } from './play-desk';
import { RecordDesk } from './record-desk';
import { RecordingSettings } from './record-settings';

const BAR = 1920;
/** Ticks a second, at 96 beats a minute. */
const SPEED = 768;
const [melody] = SMALL.score.parts;
const [place] = layOut(SMALL.score);
const LENGTH = sectionTicks(SMALL.score, place!.section);
const [LOWEST, SECOND, THIRD] = [0, 1, 2];
const DOWN = 6;

describe('playing by hand', () => {
  let store: Store;
  let desk: PlayDesk;
  let record: RecordDesk;
  let settings: RecordingSettings;
  /** Seconds of the page's clock, and when the music began; null while it stands still. */
  let clock: number;
  let begun: number | null;
  let stepped: ReturnType<typeof steppedPlayback>;
  const playing = signal(false);
  const live = quietHands();

  const song = () => store.selectSignal(selectSong)();
  const sounding = () => song().takes[store.selectSignal(selectSounding)()!];
  const played = (): Take[] => Object.values(song().takes).filter(({ origin }) => origin.how === 'played');
  const playedNotes = (): (readonly [number, number][])[] =>
    played().map((take) => (take as PartTake).notes.map(({ start, nudge = 0 }) => [start, nudge] as [number, number]));

  const placeAt = (ahead = 0) => {
    if (begun === null) return null;
    const tick = Math.round((clock + ahead / 1000 - begun) * SPEED);
    if (tick < 0) return null;
    const round = Math.floor(tick / LENGTH);
    const ground = SMALL.score.ground;
    return { section: place!.section.id, occurrence: place!.occurrence.id, round, at: tick - round * LENGTH, ground };
  };
  /** Goes on to a tick of the music, counted through all rounds, or by seconds while it stands still. */
  const goTo = (tick: number): void => {
    clock = begun === null ? tick / SPEED : begun + tick / SPEED;
    stepped.tell(begun === null ? null : { tick, speed: SPEED });
    TestBed.tick();
  };
  const starts = (after = 0): void => {
    begun = clock + after;
    playing.set(true);
    TestBed.tick();
  };
  const stops = (): void => {
    begun = null;
    playing.set(false);
    stepped.tell(null);
    TestBed.tick();
  };
  /** Touches a key of the right hand at a tick, for so many ticks. */
  const touch = (tick: number, key: number, length = 200): void => {
    goTo(tick);
    desk.touch(`right ${key}`, key);
    goTo(tick + length);
    desk.letGo(`right ${key}`);
  };
  const hold = (tick: number, name: string): void => {
    goTo(tick);
    desk.hold(
      name,
      desk.offered().findIndex(({ chord }) => chordSymbol(chord) === name),
    );
  };

  beforeEach(() => {
    pageMemory.remove('fendro recording');
    pageMemory.remove('fendro play desk way');
    [clock, begun] = [100, null];
    playing.set(false);
    jest.spyOn(performance, 'now').mockImplementation(() => clock * 1000);
    stepped = steppedPlayback({ from: 0, to: LENGTH });
    const playback = { ...stepped.playback, playing, waiting: () => false, placeAt };
    TestBed.configureTestingModule({
      providers: [provideSong(), { provide: Playback, useValue: playback }, { provide: LiveSound, useValue: live }],
    });
    store = TestBed.inject(Store) as Store;
    store.dispatch(SongActions.opened({ song: storedSong({ ...SMALL, heard: {} }) }));
    store.dispatch(SessionActions.lineFocused({ line: melody!.id }));
    desk = TestBed.inject(PlayDesk);
    record = TestBed.inject(RecordDesk);
    settings = TestBed.inject(RecordingSettings);
    TestBed.tick();
    playback.play.mockImplementation(() => {
      starts(2.5);
      return Promise.resolve();
    });
  });

  afterEach(() => jest.restoreAllMocks());

  it('is recorded after a count-in: every round another take, drawn to the grid, its deviation kept', () => {
    record.record();
    expect(record.counting()).toBe(true);
    // A little before the first bar, it is meant.
    touch(-20, LOWEST);
    touch(495, SECOND);
    expect(record.counting()).toBe(false);
    // A little before the loop comes round, the next round is meant, which is not over by that.
    touch(LENGTH - 20, LOWEST, 10);
    touch(LENGTH + 970, THIRD);
    expect(played()).toHaveLength(1);
    expect(store.selectSignal(selectSession)().metronome).toBe(true);
    goTo(2 * LENGTH + 10);
    expect(playedNotes()).toEqual([
      [
        [0, -4],
        [480, 3],
      ],
      [
        [0, -4],
        [960, 2],
      ],
    ]);
    touch(2 * LENGTH + 480, LOWEST);
    record.record();
    expect(playedNotes()).toHaveLength(3);
    // What came after the end stays as it was.
    expect(playedNotes()[2]!.map(([start]) => start)).toEqual([480, 960]);
    expect(store.selectSignal(selectSession)().metronome).toBe(false);
    expect(sounding()).toBe(played()[2]);
    // The song itself is as it was: each is heard, and chosen by the writer.
    expect(song().past).toEqual([]);
    expect((played()[0] as PartTake).over!.harmony).toBe(chosenId(place!.section, HARMONY));
    expect(record.remembers()).toBe(false);
  });

  it('goes over what is there, round after round, into the selected bars alone', () => {
    const before = sounding() as PartTake;
    settings.change({ rounds: 'over it', strength: 100, notes: 'stay as played' });
    starts();
    record.record();
    touch(5, LOWEST);
    touch(LENGTH + 485, SECOND);
    goTo(2 * LENGTH + 5);
    record.record();
    const over = sounding() as PartTake;
    expect(over.over).toBeNull();
    const starting = over.notes.map(({ start }) => start);
    for (const { start } of before.notes) expect(starting).toContain(start);
    expect(over.notes.length).toBeGreaterThan(before.notes.length);
    expect(over.origin.parents).toEqual([played()[0]!.id]);

    settings.change({ rounds: 'another take' });
    store.dispatch(SessionActions.barsSelected({ bars: { from: 1, to: 2 } }));
    record.record();
    touch(2 * LENGTH + BAR + 480, THIRD);
    goTo(3 * LENGTH + 1);
    record.record();
    const punched = sounding() as PartTake;
    expect(punched.notes.filter(({ start }) => start >= BAR).map(({ start }) => start)).toEqual([BAR + 480]);
    expect(punched.notes.filter(({ start }) => start < BAR)).toEqual(
      over.notes.filter(({ start }) => start < BAR).map((note) => expect.objectContaining({ ...note }) as object),
    );
  });

  it('becomes the chords where the chords are in focus', () => {
    store.dispatch(SessionActions.lineFocused({ line: HARMONY }));
    desk.arm();
    TestBed.tick();
    const names = desk.offered().map(({ chord }) => chordSymbol(chord));
    starts();
    record.record();
    hold(-10, names[1]!);
    touch(-5, DOWN);
    hold(BAR - 30, names[3]!);
    touch(BAR - 20, DOWN);
    record.record();
    const take = sounding() as HarmonyTake;
    expect(take.origin.how).toBe('played');
    expect(take.chords.slice(0, 2).map(({ start, chord }) => [start, chordSymbol(chord!)])).toEqual([
      [0, names[1]],
      [BAR, names[3]],
    ]);
    // No chord moves away under the fingers, whatever the section's chords are now; where letters mean commands, they do.
    expect(desk.offered().map(({ chord }) => chordSymbol(chord))).toEqual(names);
    desk.disarm();
    expect(chordSymbol(desk.offered()[0]!.chord)).toBe(names[1]);
  });

  it('ends with the music, and with another line in focus; what was played is kept', () => {
    starts();
    record.record();
    touch(5, LOWEST);
    stops();
    expect(record.recording()).toBe(false);
    expect(played()).toHaveLength(1);
    starts();
    record.record();
    touch(5, LOWEST);
    store.dispatch(SessionActions.lineFocused({ line: HARMONY }));
    TestBed.tick();
    expect(record.recording()).toBe(false);
    expect(played().filter(({ of }) => of === 'part')).toHaveLength(2);
    record.record();
    record.record();
    expect(TestBed.inject(Notices).open().at(-1)!.text).toContain('Nothing was played');
  });

  it('is the song’s where a line has nothing', () => {
    const empty = changeSection(SMALL.score, place!.section.id, {});
    const sections = empty.sections.map((section) => withChoice(section, melody!.id, null));
    store.dispatch(SongActions.opened({ song: storedSong({ ...SMALL, score: { ...empty, sections }, heard: {} }) }));
    store.dispatch(SessionActions.lineFocused({ line: melody!.id }));
    TestBed.tick();
    starts();
    record.record();
    touch(5, LOWEST);
    record.record();
    const music = store.selectSignal(selectMusic)()!;
    expect(chosenId(music.score.sections[0]!, melody!.id)).toBe(played()[0]!.id);
  });

  it('can be taken though nothing was recorded: the last two minutes, round by round', () => {
    starts();
    const rounds = Math.floor((120 * SPEED) / LENGTH);
    for (let round = 0; round < rounds + 4; round++) touch(round * LENGTH + 480, LOWEST);
    expect(record.remembers()).toBe(true);
    record.take();
    expect(played().length).toBeGreaterThanOrEqual(rounds - 1);
    expect(played().length).toBeLessThanOrEqual(rounds + 1);
    expect(playedNotes().every((notes) => notes.every(([start]) => start === 480))).toBe(true);
    expect(sounding()).toBe(played().at(-1));
    expect(record.remembers()).toBe(false);
    // Nothing that one part played is another's, and another song begins with nothing.
    touch((rounds + 5) * LENGTH + 480, LOWEST);
    store.dispatch(SessionActions.lineFocused({ line: SMALL.score.parts[1]!.id }));
    expect(record.remembers()).toBe(false);
    store.dispatch(SessionActions.lineFocused({ line: melody!.id }));
    expect(record.remembers()).toBe(true);
    record.take();
    // What was taken once is not taken again.
    const count = played().length;
    record.take();
    expect(played()).toHaveLength(count);
    touch((rounds + 6) * LENGTH + 480, LOWEST);
    store.dispatch(SongActions.opened({ song: { ...storedSong({ ...SMALL, heard: {} }), id: 'another' } }));
    store.dispatch(SessionActions.lineFocused({ line: melody!.id }));
    TestBed.tick();
    expect(record.remembers()).toBe(false);
  });

  it('can be taken though nothing played at all, at the tempo of the hands', () => {
    settings.change({ strength: 100 });
    const beat = SPEED * (60 / 90);
    for (let index = 0; index < 24; index++) touch(200_000 + index * beat, index % 3);
    record.take();
    expect(played()).toHaveLength(Math.ceil((24 * 480) / LENGTH));
    expect(playedNotes()[0]).toEqual(Array.from({ length: LENGTH / 480 }, (_, index) => [index * 480, 0]));
    expect(TestBed.inject(Notices).open().at(-1)!.text).toMatch(/found at 90 BPM|found at (?:89|90)\.\d BPM/);
    record.takeChords();
    expect(played().some(({ of }) => of === 'harmony')).toBe(true);
  });

  it('steers the next drafts: by its rhythm, which is held, and by its pitches', async () => {
    settings.change({ strength: 100 });
    starts();
    for (const at of [0, 480, 720, BAR, BAR + 960]) touch(at, at % 3, 100);
    const like = TestBed.inject(LikeThis);
    expect(like.ready()).toBe(true);
    await like.draft('rhythm');
    const drafted = (): PartTake[] =>
      Object.values(song().takes).filter(
        (take): take is PartTake =>
          take.of === 'part' && take.origin.how === 'drafted' && take.origin.parents.includes(played()[0]!.id),
      );
    await waitFor(() => {
      expect(drafted().length).toBeGreaterThan(3);
    });
    const onsets = ({ notes }: PartTake): number[] => notes.map(({ start }) => start);
    for (const take of drafted()) expect(onsets(take)).toEqual([0, 480, 720, BAR, BAR + 960]);
    expect(new Set(drafted().map(({ notes }) => notes.map(({ pitch }) => pitch).join())).size).toBeGreaterThan(1);

    // Something else is played: its pitches come in the rhythm of the take that was there.
    for (const at of [0, 960, BAR]) touch(4 * LENGTH + at, LOWEST, 100);
    const count = Object.keys(song().takes).length;
    await like.draft('pitches');
    expect(Object.keys(song().takes).length).toBeGreaterThan(count + 1);
    const blended = Object.values(song().takes).at(-1) as PartTake;
    expect(blended.origin.asking!.kin).toMatchObject({ by: 'rhythm and pitches' });
  });

  it('takes the chord that comes where the hand is a sixteenth early, and the section’s own while it only strums', () => {
    desk.setWay('strum only');
    TestBed.tick();
    starts();
    const chords = store.selectSignal(selectMusic)()!;
    const spans = Object.values(chords.takes).find(
      (take): take is HarmonyTake => take.of === 'harmony' && take.id === chosenId(place!.section, HARMONY),
    )!.chords;
    const [first, second] = spans;
    goTo(second!.start - 300);
    desk.touch('right 6', DOWN);
    expect(desk.hands().chosen).toEqual(first!.chord);
    goTo(second!.start - 100);
    desk.touch('right 7', DOWN);
    expect(desk.hands().chosen).toEqual(second!.chord);
    // A part that is made quiet, and another way of playing, take the fingers off.
    store.dispatch(ScoreActions.partChanged({ part: melody!.id, change: { muted: true } }));
    TestBed.tick();
    expect(desk.hands().sounding.size).toBe(0);
    desk.touch('right 7', DOWN);
    expect(desk.hands().sounding.size).toBeGreaterThan(0);
    desk.setWay('one hand');
    TestBed.tick();
    expect(desk.hands().sounding.size).toBe(0);
    expect(live.quiet).toHaveBeenCalled();
  });
});

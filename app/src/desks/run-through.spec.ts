import { TestBed } from '@angular/core/testing';
import { provideEffects } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import { chosenId } from '@fendro/core/song/section';
import { storedSong } from '@fendro/core/testing/sounding';
import { Playback } from '../sound/playback';
import type { Position } from '../sound/position-watch';
import { logWhatSounds } from '../store/effects';
import { provideSong } from '../store/provide-song';
import { selectHeard, selectSession, selectSong, selectSounding } from '../store/selectors';
import { SessionActions } from '../store/session';
import { ScoreActions, SongActions } from '../store/song.actions';
import { SMALL, steppedPlayback } from '../testing/view';
import { DraftRuns } from './draft-runs';
import { RunThrough } from './run-through';

const BAR = 1920;
const [melody] = SMALL.score.parts;
const section = SMALL.score.sections[0]!;
/** Ticks in a ms, at 96 beats a minute. */
const SPEED = 0.768;

describe('a run-through', () => {
  let store: Store;
  let run: RunThrough;
  let stepped: ReturnType<typeof steppedPlayback>;
  const song = () => store.selectSignal(selectSong)();
  const sounding = () => store.selectSignal(selectSounding)();
  const chosen = chosenId(section, melody!.id);
  /** The music stands here; whatever is drafted meanwhile is there then. */
  const at = async (position: Position | null): Promise<void> => {
    stepped.tell(position);
    for (let turn = 0; turn < 30; turn++) await Promise.resolve();
  };
  const here = (tick: number): Promise<void> => at({ tick, speed: SPEED });

  beforeEach(async () => {
    stepped = steppedPlayback({ from: 0, to: 2 * BAR });
    TestBed.configureTestingModule({
      providers: [provideSong(), provideEffects({ logWhatSounds }), { provide: Playback, useValue: stepped.playback }],
    });
    store = TestBed.inject(Store) as Store;
    run = TestBed.inject(RunThrough);
    store.dispatch(SongActions.opened({ song: storedSong({ ...SMALL, heard: {} }) }));
    store.dispatch(SessionActions.lineFocused({ line: melody!.id }));
    run.setEvery({ bars: 1 });
    run.toggle();
    await here(0);
  });

  it('sends another new take just before every step ends, and drafts ahead', async () => {
    expect(sounding()).toBe(chosen);
    await here(BAR / 2);
    expect(sounding()).toBe(chosen);
    const heard: (string | null)[] = [];
    for (let bar = 0; bar < 12; bar++) {
      const line = (bar % 2) * BAR;
      await here(line + BAR - 200);
      heard.push(sounding());
      await here(line + BAR - 100);
      expect(sounding()).toBe(heard.at(-1));
      await here(((bar + 1) % 2) * BAR);
    }
    expect(new Set(heard).size).toBe(12);
    expect(heard).not.toContain(chosen);
    expect(run.heard()).toBe(12);
    expect(song().heard.map(({ take }) => take)).toEqual(heard);
    // The song itself is as it was.
    expect(song().past).toEqual([]);
  });

  it('says how long the heard take goes on, and counts the rounds of a loop', async () => {
    run.setEvery({ loops: 2 });
    await here(10);
    expect(run.step()!.lasts).toBeCloseTo((4 * BAR - 10) / SPEED, 0);
    await here(2 * BAR - 100);
    expect(sounding()).toBe(chosen);
    await here(0);
    await here(2 * BAR - 100);
    expect(sounding()).not.toBe(chosen);
  });

  it('drafts again what was asked for otherwise: a word of the brief counts at once', async () => {
    await here(BAR - 100);
    await here(BAR);
    store.dispatch(ScoreActions.briefChanged({ part: melody!.id, change: { busyness: 7 } }));
    await here(2 * BAR - 100);
    await here(0);
    await here(BAR - 100);
    expect(song().takes[sounding()!]!.origin.asking!.brief!.busyness).toBe(7);
  });

  it('brings another take for every part at once where it goes through the band', async () => {
    run.setBand(true);
    await here(0);
    await here(BAR - 100);
    const heard = store.selectSignal(selectHeard)()[section.id]!;
    const playing = SMALL.score.parts.filter(({ id }) => chosenId(section, id) !== null).map(({ id }) => id);
    expect(Object.keys(heard).sort()).toEqual([...playing].sort());
    // Who listens, listens to what is heard with it.
    const bass = SMALL.score.parts.find(({ role }) => role === 'bass')!;
    const drums = SMALL.score.parts.find(({ role }) => role === 'drums')!;
    expect(song().takes[heard[bass.id]!]!.origin.asking!.beside).toEqual([heard[drums.id]]);
  });

  it('ends by its key, with the music, and where another section comes into view', async () => {
    const running = () => store.selectSignal(selectSession)().running === 'run-through';
    expect(running()).toBe(true);
    run.toggle();
    expect([running(), stepped.watched()]).toEqual([false, false]);
    run.toggle();
    await here(0);
    await at(null);
    expect(running()).toBe(false);
    run.toggle();
    TestBed.tick();
    store.dispatch(SessionActions.occurrenceViewed({ occurrence: SMALL.score.order[1]!.id }));
    TestBed.tick();
    expect(running()).toBe(false);
  });

  it('stops and says so where nothing new can be had', async () => {
    run.stop();
    store.dispatch(ScoreActions.briefChanged({ part: melody!.id, change: { low: 60, high: 60, anchoring: 100 } }));
    run.toggle();
    await here(0);
    expect(TestBed.inject(DraftRuns).problemInFocus()).not.toBeNull();
    expect(store.selectSignal(selectSession)().running).toBeNull();
  });
});

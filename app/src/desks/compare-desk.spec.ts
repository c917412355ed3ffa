import { TestBed } from '@angular/core/testing';
import { provideEffects } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import { chosenId } from '@fendro/core/song/section';
import type { PartTake } from '@fendro/core/song/schema';
import { storedSong } from '@fendro/core/testing/sounding';
import { expressionFor, LevelMatch } from '../sound/level-match';
import { Playback } from '../sound/playback';
import { logWhatSounds } from '../store/effects';
import { provideSong } from '../store/provide-song';
import { selectSession, selectSong, selectSounding } from '../store/selectors';
import { SessionActions } from '../store/session';
import { SongActions, TakeActions } from '../store/song.actions';
import { SMALL, steppedPlayback } from '../testing/view';
import { AuditionDesk } from './audition-desk';
import { CompareDesk } from './compare-desk';

const BAR = 1920;
const [melody, other] = SMALL.score.parts;
const section = SMALL.score.sections[0]!;
const chosen = chosenId(section, melody!.id)!;
const own = SMALL.takes[chosen] as PartTake;
/** The chosen take, louder by a fifth, with one note moved. */
const rival: PartTake = {
  ...own,
  id: 'rival',
  notes: own.notes.map((note, index) => ({
    ...note,
    velocity: Math.min(127, note.velocity + 12),
    pitch: note.pitch + (index === 0 ? 1 : 0),
  })),
};

describe('comparing two takes', () => {
  let store: Store;
  let compare: CompareDesk;
  let stepped: ReturnType<typeof steppedPlayback>;
  const sounding = () => store.selectSignal(selectSounding)();
  const settle = async (): Promise<void> => {
    for (let turn = 0; turn < 10; turn++) {
      TestBed.tick();
      await Promise.resolve();
    }
  };

  beforeEach(() => {
    stepped = steppedPlayback({ from: 0, to: 2 * BAR });
    TestBed.configureTestingModule({
      providers: [provideSong(), provideEffects({ logWhatSounds }), { provide: Playback, useValue: stepped.playback }],
    });
    store = TestBed.inject(Store) as Store;
    compare = TestBed.inject(CompareDesk);
    store.dispatch(SongActions.opened({ song: storedSong({ ...SMALL, heard: {} }) }));
    store.dispatch(SessionActions.lineFocused({ line: melody!.id }));
    TestBed.tick();
  });
  const hearRival = (): void => {
    store.dispatch(TakeActions.madeAndHeard({ takes: [rival], take: rival.id, section: section.id, line: melody!.id }));
  };

  it('needs another take; then it draws the one over the other, whichever is heard', () => {
    compare.toggle();
    expect(compare.on()).toBe(false);
    hearRival();
    compare.toggle();
    expect(compare.hollow()).toEqual(own.notes);
    compare.turn();
    expect([sounding(), compare.hollow()]).toEqual([chosen, rival.notes]);
    compare.turn();
    expect(sounding()).toBe(rival.id);
    compare.toggle();
    expect(compare.hollow()).toEqual([]);
  });

  it('is heard the other way round for as long as a key is held', () => {
    const audition = TestBed.inject(AuditionDesk);
    hearRival();
    audition.compare();
    expect(sounding()).toBe(chosen);
    audition.compareEnded();
    expect(sounding()).toBe(rival.id);
  });

  it('brings both to the level of the softer, each with its own expression, until it ends', async () => {
    const levels = TestBed.inject(LevelMatch);
    hearRival();
    compare.toggle();
    await settle();
    const down = levels.decibels().get(rival.id)!;
    expect(down).toBeLessThan(-5);
    expect(levels.decibels().get(chosen)! + 0).toBe(0);
    expect(compare.matched()).toMatch(/^levelled by \d+\.\d dB$/);
    expect(levels.expression()).toEqual({ part: melody!.id, value: expressionFor(down) });
    compare.turn();
    await settle();
    expect(levels.expression()).toEqual({ part: melody!.id, value: 127 });
    expect([expressionFor(0), expressionFor(-40), expressionFor(-12)]).toEqual([127, 13, 64]);
    compare.toggle();
    await settle();
    expect(levels.expression()).toBeNull();
  });

  it('turns the two round by itself, and writes each down once', async () => {
    hearRival();
    const logged = () => store.selectSignal(selectSong)().heard.length;
    const before = logged();
    compare.toggle();
    compare.setEvery({ bars: 1 });
    const heard: (string | null)[] = [];
    for (let bar = 0; bar < 4; bar++) {
      const line = (bar % 2) * BAR;
      stepped.tell({ tick: line + 10, speed: 0.768 });
      stepped.tell({ tick: line + BAR - 150, speed: 0.768 });
      await settle();
      heard.push(sounding());
    }
    expect(heard).toEqual([chosen, rival.id, chosen, rival.id]);
    expect(logged() - before).toBe(1);
    // With the music the turning ends, and with another line the comparison.
    stepped.tell(null);
    expect([compare.every(), store.selectSignal(selectSession)().running]).toEqual([null, null]);
    store.dispatch(SessionActions.lineFocused({ line: other!.id }));
    TestBed.tick();
    expect(compare.on()).toBe(false);
  });
});

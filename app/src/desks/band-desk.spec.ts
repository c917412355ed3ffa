import { TestBed } from '@angular/core/testing';
import { LIMITS } from '@fendro/core/song/limits';
import { Playback } from '../sound/playback';
import { PlayedMusic } from '../sound/played-music';
import { SessionActions } from '../store/session';
import { silentPlayback, SMALL, viewOf } from '../testing/view';
import { BarsStrip } from '../workspace/bars-strip';
import { BandDesk } from './band-desk';

const [melody] = SMALL.score.parts;

function band(playing = false) {
  const playback = { ...silentPlayback(), playing: () => playing };
  const view = viewOf(BarsStrip, {
    providers: [{ provide: Playback, useValue: playback }],
    done: [SessionActions.lineFocused({ line: melody!.id })],
  });
  return { view, playback, desk: TestBed.inject(BandDesk) };
}

describe('the band', () => {
  it('hears another instrument without changing the song, and goes back to silence', () => {
    const { view, playback, desk } = band();
    desk.tryInstrument('violin');
    desk.tryInstrument('oboe');
    expect(playback.triedInstrument()).toEqual({ part: melody!.id, instrument: 'oboe' });
    expect(playback.playIfStopped).toHaveBeenCalled();
    expect(view.score).toBe(SMALL.score);
    desk.letInstrumentGo();
    expect(playback.triedInstrument()).toBeNull();
    expect(playback.stop).toHaveBeenCalledTimes(1);
    desk.letInstrumentGo();
    expect(playback.stop).toHaveBeenCalledTimes(1);
  });

  it('plays on where it played before', () => {
    const { playback, desk } = band(true);
    desk.tryInstrument('violin');
    desk.letInstrumentGo();
    expect(playback.stop).not.toHaveBeenCalled();
  });

  it('takes parts up to the limit, each by a name of its own', () => {
    const { view, desk } = band();
    while (!desk.full()) desk.add('bass');
    expect(view.score.parts).toHaveLength(LIMITS.parts);
    expect(new Set(view.score.parts.map(({ name }) => name)).size).toBe(LIMITS.parts);
  });

  it('keeps levels within what there is, a run of presses as one step', () => {
    const { view, desk } = band();
    for (let times = 0; times < 30; times++) desk.level(view.score.parts[0]!, -5);
    expect(view.score.parts[0]!.level).toBe(0);
    expect(view.song.past).toHaveLength(1);
  });
});

describe('what is played', () => {
  it('has the tried instrument in place of the part’s own, and the song as it is without', () => {
    viewOf(BarsStrip);
    const played = TestBed.inject(PlayedMusic);
    const before = played.music();
    played.tried.set({ part: melody!.id, instrument: 'violin' });
    expect(played.music()!.score.parts.map(({ instrument }) => instrument)).toEqual(
      SMALL.score.parts.map(({ id, instrument }) => (id === melody!.id ? 'violin' : instrument)),
    );
    played.tried.set(null);
    expect(played.music()!.score).toBe(before!.score);
  });
});

import { SongSynth } from '../../synth/song-synth';
import { EVENT, QUANTUM } from '../../worklets/protocol';

const RATE = 8000;

describe('the synthesizer', () => {
  it('rests after five seconds with nothing to play, and works again at the next event', async () => {
    const synth = new SongSynth(RATE);
    const work = jest.spyOn(synth, 'renderOpen');
    await synth.initialized;
    let frame = 0;
    const worked = (seconds: number): boolean => {
      work.mockClear();
      for (const end = frame + seconds * RATE; frame < end; frame += QUANTUM)
        synth.render(new Float32Array(QUANTUM), new Float32Array(QUANTUM), frame);
      return work.mock.calls.length > 0;
    };
    const volume = (at: number): Float64Array => Float64Array.of(at, EVENT.controller, 0, 7, 100);

    expect(worked(1)).toBe(false);
    synth.applyNow(volume(0));
    expect(worked(4.9)).toBe(true);
    worked(0.2);
    expect(worked(1)).toBe(false);
    // While something is queued it works on, however far away that is.
    synth.queue(volume(frame + 3 * RATE));
    expect([worked(1), worked(1.9), worked(1)]).toEqual([true, true, true]);
    worked(4.2);
    expect(worked(1)).toBe(false);
  });
});

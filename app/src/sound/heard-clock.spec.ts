import { HeardClock } from './heard-clock';

/** A context that plays since the page's 1000th ms and is heard 42 ms later, as far as it tells. */
function playing() {
  const told = { contextTime: 0, performanceTime: 0 };
  const context = { currentTime: 0, baseLatency: 0.01, outputLatency: 0.032, getOutputTimestamp: () => told };
  const at = (seconds: number, off = 0): void => {
    context.currentTime = seconds + 0.042;
    told.contextTime = seconds;
    told.performanceTime = 1000 + 42 + 1000 * seconds + off;
  };
  return { context, told, at, clock: new HeardClock(context as unknown as AudioContext) };
}

describe('when sound is heard', () => {
  it('is told by the browser, and not moved by one look that came late', () => {
    const { at, clock } = playing();
    for (let look = 1; look <= 12; look++) {
      at(look / 50, look === 3 ? 79 : 0);
      clock.look();
    }
    expect(clock.steady).toBe(true);
    expect(clock.offset).toBeCloseTo(1042, 6);
  });

  it('is looked at once for each that is told', () => {
    const { at, clock } = playing();
    at(0.02, 79);
    for (let look = 0; look < 20; look++) clock.look();
    expect(clock.steady).toBe(false);
  });

  it('is learned anew after something held up the sound, and never told by one look that was far off', async () => {
    const { told, clock } = playing();
    let [looks, later] = [0, 0];
    Object.defineProperties(told, {
      contextTime: { get: () => ++looks / 100 },
      performanceTime: { get: () => 1042 + later + looks * 10 + 10 + (looks % 5 === 0 ? -1591 : 0) },
    });
    for (let look = 0; look < 103; look++) clock.look();
    const before = clock.offset;
    later = 820;
    const settled = clock.settled();
    expect(clock.offset).toBeCloseTo(before, 6);
    await settled;
    expect(clock.offset).toBeCloseTo(before + 820, 6);
  });

  it('does not wait long for a browser that tells nothing new', async () => {
    const { at, clock } = playing();
    at(1);
    await clock.settled();
    expect(clock.steady).toBe(false);
    expect(clock.offset).toBeCloseTo(1042, 6);
  });

  it('is estimated until the browser tells, and where it tells nothing', () => {
    const { context, at, clock } = playing();
    jest.spyOn(performance, 'now').mockReturnValue(2000);
    context.currentTime = 0.9;
    expect(clock.offset).toBeCloseTo(1142, 6);
    for (let look = 0; look < 8; look++) clock.look();
    expect(clock.steady).toBe(true);
    context.outputLatency = NaN;
    clock.forget();
    expect(clock.steady).toBe(false);
    expect(clock.offset).toBeCloseTo(1100, 6);
    at(1);
    clock.look();
    expect(clock.offset).toBeCloseTo(1042, 6);
  });
});

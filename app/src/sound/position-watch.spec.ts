import { PositionWatch, type Position } from './position-watch';

describe('the watch over the position', () => {
  const told: (Position | null)[] = [];
  let [playing, at] = [true, 0];

  beforeEach(() => {
    jest.useFakeTimers();
    told.length = 0;
    [playing, at] = [true, 0];
  });
  afterEach(() => {
    jest.useRealTimers();
  });

  const watch = (length = Infinity) =>
    new PositionWatch(
      () => playing,
      (ahead) => (at + ahead * 0.96) % length,
    );

  it('tells twenty times a second where the music is and how fast it goes', () => {
    const positions = watch();
    positions.add((position) => told.push(position));
    positions.start();
    jest.advanceTimersByTime(1000);
    expect(told).toHaveLength(20);
    expect(told[0]?.speed).toBeCloseTo(0.96);
  });

  it('keeps the speed where a loop begins again', () => {
    const positions = watch(100);
    positions.add((position) => told.push(position));
    positions.start();
    jest.advanceTimersByTime(50);
    at = 95;
    jest.advanceTimersByTime(50);
    expect(told.at(-1)).toEqual({ tick: 95, speed: told[0]?.speed });
  });

  it('is silent after its end, says once that nothing is heard, and ends by itself when the music has', () => {
    const positions = watch();
    const end = positions.add((position) => told.push(position));
    positions.start();
    positions.stop();
    expect(told).toEqual([null]);
    jest.advanceTimersByTime(500);
    positions.start();
    playing = false;
    jest.advanceTimersByTime(500);
    end();
    positions.stop();
    expect(told).toEqual([null]);
  });
});

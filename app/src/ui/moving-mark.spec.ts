import { MovingMark } from './moving-mark';

describe('a mark that moves with the music', () => {
  const way = { from: 10, to: 210, top: 5, height: 40 };
  const running: { currentTime: number; cancel: jest.Mock; pause: jest.Mock }[] = [];
  const element = document.createElement('div');
  const animate = jest.fn((_frames: unknown, _timing: unknown) => {
    running.push({ currentTime: 0, cancel: jest.fn(), pause: jest.fn() });
    return running.at(-1) as unknown as Animation;
  });
  Object.assign(element, { animate });
  let mark: MovingMark;

  beforeEach(() => {
    running.length = 0;
    animate.mockClear();
    mark = new MovingMark(element);
  });

  it('starts where the music is and is left alone while it keeps time', () => {
    mark.show(way, 0.25, 4000);
    expect(running[0]?.currentTime).toBe(1000);
    expect(element.style.height).toBe('40px');
    running[0]!.currentTime = 1100;
    mark.show({ ...way }, 0.275, 4000);
    expect(animate).toHaveBeenCalledTimes(1);
  });

  it('is set right where it is late, where the tempo changes and on another stretch', () => {
    mark.show(way, 0, 4000);
    running[0]!.currentTime = 400;
    mark.show(way, 0.2, 4000);
    expect(running[0]?.cancel).toHaveBeenCalled();
    mark.show(way, 0.2, 2000);
    mark.show({ ...way, top: 90 }, 0, 2000);
    expect(animate.mock.calls.map(([frames]) => frames)).toEqual([
      ...Array.from({ length: 3 }, () => [
        { transform: 'translate(10px, 5px)' },
        { transform: 'translate(210px, 5px)' },
      ]),
      [{ transform: 'translate(10px, 90px)' }, { transform: 'translate(210px, 90px)' }],
    ]);
  });

  it('steps at most ten times a second with reduced motion, and at once onto another stretch', () => {
    const asked = jest.fn((query: string) => ({ matches: query === '(prefers-reduced-motion: reduce)' }));
    const now = jest.spyOn(performance, 'now');
    const placed = (at: number, time: number, on = way, lasts = 4000): string => {
      now.mockReturnValue(time);
      mark.show(on, at, lasts);
      return element.style.transform;
    };
    mark.show(way, 0, 4000);
    Object.assign(globalThis, { matchMedia: asked });
    expect(placed(0.1, 400)).toBe('translate(30px, 5px)');
    expect(running[0]?.cancel).toHaveBeenCalled();
    expect(placed(0.12, 480)).toBe('translate(30px, 5px)');
    expect(placed(0.13, 520)).toBe('translate(36px, 5px)');
    expect(placed(0, 540, { ...way, top: 90 })).toBe('translate(10px, 90px)');
    expect(placed(0.5, 560, { ...way, top: 90 }, Infinity)).toBe('translate(110px, 90px)');
    mark.hide();
    expect(placed(0.25, 570, { ...way, top: 90 })).toBe('translate(60px, 90px)');
    Reflect.deleteProperty(globalThis, 'matchMedia');
    now.mockRestore();
    expect(animate).toHaveBeenCalledTimes(1);
  });

  it('goes and comes back', () => {
    mark.show(way, 0.5, 1000);
    mark.hide();
    expect(element.hidden).toBe(true);
    mark.show(way, 0.5, 1000);
    expect(element.hidden).toBe(false);
    expect(animate).toHaveBeenCalledTimes(2);
  });
});

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

  it('glides, and steps about eight times a second with reduced motion', () => {
    const asked = jest.fn((query: string) => ({ matches: query === '(prefers-reduced-motion: reduce)' }));
    mark.show(way, 0, 4000);
    Object.assign(globalThis, { matchMedia: asked });
    mark.show(way, 0, 2000);
    mark.show(way, 0, 50);
    mark.show(way, 0, Infinity);
    Reflect.deleteProperty(globalThis, 'matchMedia');
    expect(animate.mock.calls.map(([, timing]) => (timing as KeyframeAnimationOptions).easing)).toEqual([
      'linear',
      'steps(16)',
      'steps(1)',
      'linear',
    ]);
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

import { revealOneIn } from './reveal';

/** Something that lies so far down the page. */
function at(top: number, height: number): HTMLElement {
  const element = document.createElement('div');
  element.getBoundingClientRect = () => ({ top, bottom: top + height, height }) as DOMRect;
  Object.defineProperty(element, 'clientHeight', { value: height });
  return element;
}

describe('revealing', () => {
  it('scrolls as far as it must, and no further', () => {
    const frame = at(100, 200);
    const after = (...boxes: readonly (readonly [top: number, height: number])[]): number => {
      frame.scrollTop = 1000;
      revealOneIn(
        frame,
        boxes.map(([top, height]) => at(top, height)),
      );
      return frame.scrollTop;
    };
    expect(after([150, 40])).toBe(1000);
    expect(after([280, 40])).toBe(1020);
    expect(after([60, 40])).toBe(960);
    // What is higher than the frame begins where the frame does.
    expect(after([150, 400])).toBe(1050);
    // What can be seen already stays where it is, wherever the others are.
    expect(after([-500, 40], [150, 40])).toBe(1000);
    expect(after([-500, 40], [900, 40])).toBe(400);
    expect(after()).toBe(1000);
  });
});

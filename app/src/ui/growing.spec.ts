import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { growing } from './growing';

describe('a list that grows', () => {
  const numbers = (from: number, count: number): number[] => Array.from({ length: count }, (_, place) => from + place);
  const list = signal<readonly number[]>([]);
  let frames: FrameRequestCallback[] = [];
  const frame = (): void => {
    const due = frames;
    frames = [];
    for (const callback of due) callback(0);
    TestBed.tick();
  };
  const grown = (items: readonly number[]) => {
    list.set(items);
    const shown = TestBed.runInInjectionContext(() => growing(list, 10, (item) => item));
    TestBed.tick();
    return shown;
  };

  beforeEach(() => {
    frames = [];
    jest.spyOn(globalThis, 'requestAnimationFrame').mockImplementation((callback) => frames.push(callback));
  });
  afterEach(() => {
    jest.restoreAllMocks();
  });

  it('shows a short list at once, as it is', () => {
    const shown = grown(numbers(0, 10));
    frame();
    expect(shown()).toBe(list());
  });

  it('shows a long one picture by picture, to its end', () => {
    const shown = grown(numbers(0, 25));
    const lengths = [shown().length];
    for (let turn = 0; turn < 4; turn++) {
      frame();
      lengths.push(shown().length);
    }
    expect(lengths).toEqual([10, 20, 25, 25, 25]);
  });

  it('goes on where it is when items are added, and begins anew with another list', () => {
    const shown = grown(numbers(0, 25));
    frame();
    frame();
    list.set(numbers(0, 26));
    TestBed.tick();
    expect(shown()).toHaveLength(26);
    list.set(numbers(100, 40));
    TestBed.tick();
    expect(shown()).toEqual(numbers(100, 10));
  });
});

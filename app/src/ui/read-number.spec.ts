import { TEMPO_BOUNDS } from './ground-choices';
import { readNumber } from './read-number';

describe('a tempo that is typed', () => {
  it.each([
    ['20', 20],
    ['96', 96],
    ['132.5', 132.5],
    ['76,25', 76.25],
    ['100.123', 100.12],
    [' 300 ', 300],
  ])('is taken: %s', (text, tempo) => {
    expect(readNumber(text, TEMPO_BOUNDS)).toBe(tempo);
  });
  it.each(['', 'fast', '9999', '19', '300.01', '-80', '1e2', '0x60', 'Infinity', '1.2.3'])('is none: “%s”', (text) => {
    expect(readNumber(text, TEMPO_BOUNDS)).toBeNull();
  });
});

describe('a whole number that is typed', () => {
  const bars = { least: 1, most: 64 };
  it('is taken within its bounds only', () => {
    expect(['1', '64', ' 8 ', '8.0'].map((text) => readNumber(text, bars))).toEqual([1, 64, 8, 8]);
    for (const text of ['0', '65', '8.5', '8,5', '', 'eight']) expect(readNumber(text, bars)).toBeNull();
    expect(readNumber('-5', { least: -10, most: 10 })).toBe(-5);
  });
});

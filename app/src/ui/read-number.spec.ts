import { readNumber, readWhole } from './read-number';

describe('numbers as people write them', () => {
  it.each([
    ['96', 96],
    [' 76,25 ', 76.25],
    ['-3', -3],
    ['007', 7],
  ])('“%s” is read', (text, number) => {
    expect(readNumber(text)).toBe(number);
  });
  it.each(['', '1e1', '0x10', 'Infinity', 'NaN', '1.', '.5', '1 000', '9'.repeat(10)])('“%s” is none', (text) => {
    expect(readNumber(text)).toBeNull();
  });

  it('are whole and within limits where that is asked', () => {
    expect([readWhole('1', 1, 64), readWhole('64', 1, 64)]).toEqual([1, 64]);
    for (const text of ['0', '65', '8.5', '1e1', '']) expect(readWhole(text, 1, 64)).toBeNull();
  });
});

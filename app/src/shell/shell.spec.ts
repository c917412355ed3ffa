import { KEY_LIST } from './key-list';
import { readTempo } from '../ui/scale-groups';
import { tempoOf } from './tap-tempo';

describe('tempo', () => {
  it.each([
    ['20', 20],
    ['96', 96],
    ['132.5', 132.5],
    ['76,25', 76.25],
    ['100.123', 100.12],
    ['300', 300],
  ])('takes %s', (text, tempo) => {
    expect(readTempo(text)).toEqual({ tempo, problem: null });
  });
  it.each(['', 'fast', '9999', '19', '-80', '1e2', '0x60', 'Infinity'])('refuses “%s” in words', (text) => {
    expect(readTempo(text)).toEqual({ tempo: null, problem: expect.stringContaining('tempo') as string });
  });

  it('follows taps from the third on and stays in bounds', () => {
    expect(tempoOf([0, 500])).toBeNull();
    expect(tempoOf([0, 500, 1000])).toBe(120);
    expect(tempoOf([0, 10, 20])).toBe(300);
  });
});

describe('keys', () => {
  it('are listed once in each place', () => {
    for (const { keys } of KEY_LIST) expect(new Set(keys.map(([key]) => key)).size).toBe(keys.length);
  });
});

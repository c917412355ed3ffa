import { KEY_LIST } from './key-list';
import { tempoProblem } from './scale-groups';
import { tempoOf } from './tap-tempo';

describe('tempo', () => {
  it.each(['20', '96', '132.5', '76,25', '300'])('takes %s', (text) => expect(tempoProblem(text)).toBeNull());
  it.each(['', 'fast', '9999', '19', '-80'])('refuses “%s” in words', (text) => expect(tempoProblem(text)).toMatch(/tempo/));

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

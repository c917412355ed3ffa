import { tempoOf } from './tap-tempo';

describe('tempo', () => {
  it('follows taps from the third on and stays in bounds', () => {
    expect(tempoOf([0, 500])).toBeNull();
    expect(tempoOf([0, 500, 1000])).toBe(120);
    expect(tempoOf([0, 10, 20])).toBe(300);
  });
});

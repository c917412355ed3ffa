import type { Note } from '../song/schema';
import { echoesOf } from './echoes';

const BAR = 1920;
const said = (bar: number, steps: readonly (readonly [at: number, pitch: number])[]): Note[] =>
  steps.map(([at, pitch]) => ({ start: bar * BAR + at, duration: 200, pitch, velocity: 80 }));
const motif = [
  [0, 60],
  [480, 62],
  [720, 64],
  [960, 60],
] as const;
const moved = (by: number) => motif.map(([at, pitch]) => [at, pitch + by] as const);

describe('echoes', () => {
  it('are bars that say the same, exactly, in sequence or with another ending', () => {
    const answer = [...motif.slice(0, 3), [1440, 55]] as const;
    const notes = [...said(0, motif), ...said(2, moved(5)), ...said(4, answer), ...said(5, [[0, 60]])];
    expect(echoesOf(notes, [0], 8, BAR)).toEqual([2, 4]);
    expect(echoesOf(notes, [0, 2], 8, BAR)).toEqual([4]);
  });

  it('are not bars in the same rhythm with another shape, nor silence, nor single notes', () => {
    const other = [
      [0, 60],
      [480, 67],
      [720, 59],
      [960, 72],
    ] as const;
    const notes = [...said(0, motif), ...said(1, other), ...said(6, [[0, 60]]), ...said(7, [[0, 60]])];
    expect(echoesOf(notes, [0], 8, BAR)).toEqual([]);
    expect(echoesOf(notes, [3], 8, BAR)).toEqual([]);
    expect(echoesOf(notes, [6], 8, BAR)).toEqual([]);
  });
});

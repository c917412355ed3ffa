import { chordsOf } from '../testing/chords';
import { chordsWithin, progressionIn } from './progression';

const span = (start: number, duration: number, symbol: string) => ({
  start,
  duration,
  chord: chordsOf(symbol, duration)[0]!.chord,
});

describe('a kept progression', () => {
  const kept = { chords: [span(0, 1920, 'C'), span(1920, 1920, 'G7')], tonic: 0, scale: 'major', length: 3840 };

  it('goes round in another key until the room is full', () => {
    const laid = progressionIn(kept, { tonic: 2, scale: 'major' }, 5000);
    expect(laid).toEqual([span(0, 1920, 'D'), span(1920, 1920, 'A7'), span(3840, 1160, 'D')]);
  });

  it('is cut out of longer ones, counted from its own beginning', () => {
    expect(chordsWithin([...kept.chords, span(3840, 3840, 'F')], 1920, 5760)).toEqual([
      span(0, 1920, 'G7'),
      span(1920, 1920, 'F'),
    ]);
    expect(chordsWithin(kept.chords, 0, 3840)).toEqual(kept.chords);
    expect(chordsWithin(kept.chords, 960, 2880)).toEqual([span(0, 960, 'C'), span(960, 960, 'G7')]);
  });
});

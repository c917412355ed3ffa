import { scoreWith } from '../testing/scores';
import { METRES } from '../theory/metre';
import { readChord } from '../theory/read-chord';
import { chordFeatures, distance, noteFeatures } from './features';
import { factsOf } from './facts';

const key = { tonic: 0, scale: 'major' };
const note = (start: number, pitch: number, duration = 480) => ({ start, duration, pitch, velocity: 80 });

describe('facts about a take', () => {
  it('count what is there', () => {
    const reading = readChord('C');
    const chords = [{ start: 0, duration: 3840, chord: reading.ok ? reading.chord : null }];
    const notes = [
      note(0, 60),
      note(480, 62),
      note(960, 66),
      note(1680, 72, 240),
      note(1920, 60),
      note(2400, 62),
      note(2880, 64),
      note(3600, 72, 240),
    ];
    expect(factsOf(notes, chords, key, METRES[2]!, 2)).toEqual({
      notes: 8,
      onsetsPerBar: 4,
      low: 60,
      high: 72,
      steps: 43,
      skips: 14,
      leaps: 43,
      chordTonesOnBeats: 50,
      outsideScale: 1,
      offBeat: 25,
      repeatedRhythms: 100,
      longestSilence: 240,
    });
    expect(factsOf([], [], key, METRES[2]!, 2)).toMatchObject({ notes: 0, low: null, longestSilence: 3840 });
  });
});

describe('likeness', () => {
  it('is nothing between equals and something between others', () => {
    const { takes } = scoreWith(3, 0);
    const parts = Object.values(takes).flatMap((take) =>
      take.of === 'part' && take.part === 'part-1' ? [noteFeatures(take.notes, take.length, 1920)] : [],
    );
    expect(distance(parts[0]!, parts[0]!)).toBe(0);
    expect(distance(parts[0]!, parts[1]!)).toBeGreaterThan(0);
    const harmonies = Object.values(takes).flatMap((take) =>
      take.of === 'harmony' ? [chordFeatures(take.chords, take.length, 1920)] : [],
    );
    expect(distance(harmonies[0]!, harmonies[0]!)).toBe(0);
  });
});

import { motifFacts, scalePlace, sharedMotifs } from './motifs';

const key = { tonic: 0, scale: 'major' };
const line = (...pitches: number[]) => pitches.map((pitch, index) => ({ start: index * 480, pitch }));

describe('motifs in lines', () => {
  it('count steps along the scale, notes between them a half', () => {
    expect(scalePlace(62, key) - scalePlace(60, key)).toBe(1);
    expect(scalePlace(72, key) - scalePlace(60, key)).toBe(7);
    expect(scalePlace(61, key) - scalePlace(60, key)).toBe(0.5);
  });

  it('are heard again on another step of the scale, where rhythm and steps are the same', () => {
    // C E D G, then D F E A: the same steps, other semitones.
    const again = motifFacts(line(60, 64, 62, 67, 62, 65, 64, 69), key);
    expect(again).toEqual({ share: 0.5, longest: 4 });
    const late = line(60, 64, 62, 67, 62, 65, 64, 69).map((note, index) =>
      index === 6 ? { ...note, start: note.start + 120 } : note,
    );
    expect(motifFacts(late, key).share).toBe(0);
    expect(motifFacts(line(60, 64, 62, 67, 72, 71, 65, 60), key).share).toBe(0);
  });

  it('do not count what overlaps itself: a scale is no motif', () => {
    expect(motifFacts(line(60, 62, 64, 65, 67), key).share).toBe(0);
    expect(motifFacts([], key)).toEqual({ share: 0, longest: 0 });
  });

  it('are shared by lines that say the same anywhere', () => {
    expect(sharedMotifs(line(72, 60, 64, 62, 67), line(65, 62, 65, 64, 69, 59), key)).toBeCloseTo(4 / 5);
    expect(sharedMotifs(line(60, 64, 62), line(60, 64, 62), key)).toBe(0);
  });
});

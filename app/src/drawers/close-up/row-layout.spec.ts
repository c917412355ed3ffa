import fc from 'fast-check';
import type { ChordSpan, Note } from '@fendro/core/song/schema';
import { HEIGHTS, rowsOf, type RowWish } from './row-layout';

const chord = (start: number, root: number): ChordSpan => ({
  start,
  duration: 1920,
  chord: { root, tones: ['1', '3', '5'], bass: null },
});
const note = (pitch: number): Note => ({ start: 0, duration: 480, pitch, velocity: 80 });
const wish = (change: Partial<RowWish>): RowWish => ({
  choice: 'around the line',
  notes: [note(60), note(67)],
  drums: false,
  key: { tonic: 0, scale: 'major' },
  chords: [chord(0, 0), chord(1920, 1)],
  room: { low: 36, high: 96 },
  ...change,
});

describe('the rows of the close-up', () => {
  it('are as tall as they matter: chord notes full, scale notes half, all others a line', () => {
    const rows = rowsOf(wish({}));
    const kinds = Object.fromEntries(rows.all.map(({ pitch, kind }) => [pitch, kind]));
    // C and G major: both hold G, one each the others; F and A are of the scale, the rest of neither.
    expect([60, 62, 64, 65, 67, 69, 71].map((pitch) => kinds[pitch])).toEqual([
      'full',
      'full',
      'full',
      'half',
      'full',
      'half',
      'full',
    ]);
    expect([61, 63, 66, 68, 70].map((pitch) => kinds[pitch])).toEqual(Array(5).fill('line'));
    expect(rows.all.map(({ pitch }) => pitch)).toEqual(rows.all.map((_, index) => 72 - index));
  });

  it('lie below each other without gaps, and are found by place and by pitch', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 36, max: 96 }), { maxLength: 8 }),
        fc.constantFrom('around the line', 'what is played', 'all notes'),
        fc.boolean(),
        (pitches, choice, drums) => {
          const rows = rowsOf(wish({ notes: pitches.map(note), choice, drums }));
          let top = 0;
          for (const row of rows.all) {
            expect(row.top).toBe(top);
            expect(row.height).toBe(HEIGHTS[row.kind]);
            expect(rows.at(top)).toBe(row);
            expect(rows.at(top + row.height - 1)).toBe(row);
            expect(rows.of(row.pitch)).toBe(row);
            top += row.height;
          }
          expect(rows.height).toBe(top);
          for (const pitch of pitches) expect(rows.of(pitch)).toBeDefined();
        },
      ),
    );
  });

  it('fold to what is played, and open to all that the instrument plays', () => {
    expect(rowsOf(wish({ choice: 'what is played' })).all.map(({ pitch }) => pitch)).toEqual([67, 60]);
    expect(rowsOf(wish({ choice: 'all notes' })).all).toHaveLength(61);
    expect(rowsOf(wish({ notes: [], choice: 'what is played' })).all.length).toBeGreaterThan(8);
  });

  it('of drums have one for each drum that is struck, beside the usual ones, cymbals on top', () => {
    const kit = { drums: true, notes: [note(36), note(56)] };
    expect(rowsOf(wish({ ...kit, choice: 'what is played' })).all.map(({ pitch }) => pitch)).toEqual([36, 56]);
    expect(rowsOf(wish(kit)).all.map(({ pitch }) => pitch)).toEqual([49, 46, 51, 42, 38, 36, 56]);
    expect(rowsOf(wish({ ...kit, choice: 'all notes' })).all).toHaveLength(47);
  });
});

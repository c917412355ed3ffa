import * as fc from 'fast-check';
import { NOTHING_HEARD, songTicks } from '../song/resolve';
import { groundOf } from '../song/ground';
import { isDrumRole } from '../song/roles';
import { scoreSchema, takeSchema } from '../song/schema';
import { heardNotes } from '../testing/sounding';
import { ENDINGS } from '../song/style';
import { STYLES } from '../styles/styles';
import { scoreWith } from '../testing/scores';
import { chordMask } from '../theory/chord';
import { barTicks, METRES } from '../theory/metre';
import { inMask, pitchClassOf } from '../theory/pitch';
import { endSong } from './ending';
import { ENDING_NAMES } from './ending-names';
import { rounds } from '../testing/rounds';

const scales = ['major', 'minor', 'dorian', 'mixolydian', 'harmonic-minor', 'phrygian'];

describe('an ending', () => {
  it('comes after the last section, at home, within two bars, with every part that played, on chord notes', () => {
    fc.assert(
      fc.property(
        fc.integer(),
        fc.constantFrom(...ENDINGS),
        fc.constantFrom(...METRES),
        fc.constantFrom(...scales),
        fc.integer({ min: -4, max: 5 }),
        (seed, ending, metre, scale, tonic) => {
          const { score, takes } = scoreWith(seed, 0, { metre, scale, tonic });
          let id = 0;
          const ended = endSong(score, takes, ending, (kind) => `${kind}-end-${id++}`)!;
          expect(scoreSchema.safeParse(ended.score).success).toBe(true);
          expect(ended.takes.every((take) => takeSchema.safeParse(take).success)).toBe(true);
          const [before, after] = [songTicks(score), songTicks(ended.score)];
          expect(after - before).toBe(ENDING_NAMES[ending].bars * barTicks(metre));
          expect(after - before).toBeLessThanOrEqual(2 * barTicks(metre));
          const chords = ended.takes[0]!;
          if (chords.of !== 'harmony') throw new Error('no chords');
          expect(pitchClassOf(chords.chords.at(-1)!.chord!.root)).toBe(pitchClassOf(tonic));
          expect(chords.chords.reduce((total, { duration }) => total + duration, 0)).toBe(after - before);
          const all = { ...takes, ...Object.fromEntries(ended.takes.map((take) => [take.id, take])) };
          const sounding = heardNotes(ended.score, all, NOTHING_HEARD, { from: before, to: after });
          for (const part of score.parts) {
            const own = sounding.filter((note) => note.part === part.id);
            expect(`${part.role} ${own.length > 0}`).toBe(`${part.role} true`);
            expect(own.every(({ end }) => end <= after)).toBe(true);
            if (isDrumRole(part.role)) continue;
            for (const { start, pitch } of own) {
              const chord = chords.chords.findLast((span) => span.start <= start - before)!.chord!;
              expect(inMask(chordMask(chord), pitch)).toBe(true);
              expect(pitch >= part.brief.low && pitch <= part.brief.high).toBe(true);
            }
          }
        },
      ),
      { numRuns: rounds(120) },
    );
  });

  it('leaves what was there as it was, and stands on the last section’s own ground', () => {
    const { score, takes } = scoreWith(4, 0);
    const own = {
      ...score,
      sections: score.sections.map((section) => ({ ...section, ground: { tempo: 61, tonic: 2 } })),
    };
    let id = 0;
    const ended = endSong(own, takes, 'held', () => `x${id++}`)!;
    expect(ended.score.sections.slice(0, -1)).toEqual(own.sections);
    expect(groundOf(ended.score, ended.score.sections.at(-1)!)).toMatchObject({ tempo: 61, tonic: 2 });
    expect(ended.score.sections.at(-1)!.name).toBe('Ending');
    expect(endSong({ ...score, order: [] }, takes, 'held', () => 'x')).toBeNull();
  });

  it('is named by every style', () => {
    for (const { ending } of STYLES) expect(ENDINGS).toContain(ending);
    expect(new Set(STYLES.map(({ ending }) => ending)).size).toBeGreaterThanOrEqual(5);
  });
});

import * as fc from 'fast-check';
import type { Score } from '../../song/schema';
import { NOTHING_HEARD } from '../../song/resolve';
import { grooved, unswung } from '../../sounding/groove';
import { asWritten, deliverSong } from '../outgoing/deliver';
import { startScore } from '../../styles/band';
import { STYLES, styleOf } from '../../styles/styles';
import { inferSwing } from '../../study/infer/swing';
import { rounds } from '../../testing/rounds';
import { scoreWith } from '../../testing/scores';
import { heardNotes, musicOf } from '../../testing/sounding';
import { METRES, metreName } from '../../theory/metre';
import type { ImportFile } from './file-model';
import { lacking, styleForFile, swingOfFile, unswungFile, withBand } from './fit-band';
import { groundOfFile, importInto } from './imported-song';
import { readImport } from './midi-import';

const FOUR = METRES.find((metre) => metreName(metre) === '4/4')!;
const swings = fc.integer({ min: 0, max: 100 });

/** A drafted song that swings so far, as a file. */
function fileThatSwings(seed: number, swing: number): ImportFile {
  const { score, takes } = scoreWith(seed, 0);
  const reading = readImport(
    deliverSong(musicOf(asWritten({ ...score, ground: { ...score.ground, swing, metre: FOUR } }), takes)).bytes,
  );
  if (!reading.ok) throw new Error(reading.reason);
  return reading.file;
}
let serial = 0;
const newId = (kind: string): string => `${kind}-${serial++}`;

/** A file as a song of its own. */
function songFrom(file: ImportFile, swing: number): ReturnType<typeof importInto> {
  const key = { tonic: 0, scale: 'major' };
  const style = styleOf('folk');
  const started = startScore('Rain', { ...groundOfFile(file, key, style.id), swing }, style, newId);
  const blank: Score = { ...started, parts: [], sections: [], order: [] };
  const chords = file.sections.map(() => []);
  const choice = { lines: file.lines.map(({ id }) => id), key, move: 'leave', file: 'rain.mid' } as const;
  return importInto(blank, file, chords, choice, newId);
}

describe('how far music swings', () => {
  it('is found in what was played, straight music among it', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 6 }), swings, (seed, swing) => {
        const found = swingOfFile(fileThatSwings(seed, swing));
        if (swing < 10) expect(found).toBe(0);
        else if (swing > 20) expect(Math.abs(found - swing)).toBeLessThanOrEqual(8);
      }),
      { numRuns: rounds(24) },
    );
  });

  it('is nothing in compound beats, in a few notes, and where each is late otherwise', () => {
    const halves = Array.from({ length: 40 }, (_, index) => index * 480 + 310);
    expect(inferSwing(halves, FOUR)).toBeGreaterThan(80);
    expect(inferSwing(halves.slice(0, 11), FOUR)).toBe(0);
    expect(
      inferSwing(
        halves,
        METRES.find((metre) => metreName(metre) === '6/8')!,
      ),
    ).toBe(0);
    const loose = halves.map((at, index) => at - 105 + ((index * 37) % 130));
    expect(inferSwing(loose, FOUR)).toBe(0);
  });

  it('is undone by what is written for it, to the hundredth of a beat', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 20_000 }), swings, (at, swing) => {
        const note = { start: unswung(at, swing, FOUR), duration: 100, pitch: 60, velocity: 80 };
        const [sounding] = grooved([note], { swing, metre: FOUR });
        expect(Math.abs(sounding!.start - at)).toBeLessThanOrEqual(2);
      }),
    );
  });
});

describe('a band for music that came in', () => {
  it('leaves the music sounding as it did, though it is written straight', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 6 }), swings, (seed, swing) => {
        const file = fileThatSwings(seed, swing);
        const found = swingOfFile(file);
        const [plain, fitted] = [songFrom(file, 0), songFrom(unswungFile(file, found), found)];
        const inOrder = ({ score, takes }: ReturnType<typeof importInto>) =>
          heardNotes(score, Object.fromEntries(takes.map((take) => [take.id, take])), NOTHING_HEARD)
            .map(({ start: at, pitch, part }) => ({ at, pitch, part: score.parts.findIndex(({ id }) => id === part) }))
            .sort((a, b) => a.part - b.part || a.pitch - b.pitch || a.at - b.at);
        const [before, after] = [inOrder(plain), inOrder(fitted)];
        expect(after.map(({ part, pitch }) => [part, pitch])).toEqual(before.map(({ part, pitch }) => [part, pitch]));
        after.forEach(({ at }, index) => expect(Math.abs(at - before[index]!.at)).toBeLessThanOrEqual(3));
      }),
      { numRuns: rounds(12) },
    );
  });

  it('is what the style plays and the file lacks, each part once', () => {
    for (const style of STYLES) {
      const empty = {
        ...startScore('Rain', groundOfFile(fileThatSwings(1, 0), { tonic: 0, scale: 'major' }, style.id), style, newId),
        parts: [],
      };
      expect(lacking(empty, style)).toEqual(style.band);
      const { score, added } = withBand(empty, style, newId);
      expect(added).toEqual(score.parts.map(({ id }) => id));
      expect(lacking(score, style)).toEqual([]);
      const [first, ...others] = score.parts;
      expect(lacking({ parts: others }, style).map(({ role }) => role)).toEqual([first!.role]);
    }
  });

  it('is of the style that is nearest by metre, tempo and swing', () => {
    const [first] = fileThatSwings(1, 0).sections;
    const of = (tempo: number, metre: string): ImportFile => ({
      ...fileThatSwings(1, 0),
      sections: [{ ...first!, tempo, metre: METRES.find((own) => metreName(own) === metre)! }],
    });
    for (const [tempo, metre, swing] of [
      [180, '4/4', 90],
      [128, '4/4', 0],
      [100, '3/4', 0],
      [70, '6/8', 0],
    ] as const) {
      const style = styleForFile(of(tempo, metre), swing);
      expect(style.metres).toContain(metre);
      expect(style.tempo.low).toBeLessThanOrEqual(tempo);
      expect(style.tempo.high).toBeGreaterThanOrEqual(tempo);
    }
    expect(styleForFile(of(180, '4/4'), 90).swing).toBeGreaterThan(40);
  });
});

import fc from 'fast-check';
import { CURVE_KINDS, CURVES, valueAt } from '../../song/curve';
import type { Curve, CurveKind, Note } from '../../song/schema';
import { looseTake } from '../../song/take';
import { withChoice } from '../../song/section';
import { scoreWith } from '../../testing/scores';
import { musicOf } from '../../testing/sounding';
import { deliverOneTrack, deliverSong } from '../outgoing/deliver';
import { bendRange, bendValue, curvesOver } from './midi-expression';
import { readImport } from '../incoming/midi-import';

/** A song whose first part plays some notes as they are written, and nobody else plays. */
function songWith(notes: readonly Note[]) {
  const { score } = scoreWith(1, 0);
  const [part] = score.parts;
  const [section] = score.sections;
  const take = looseTake({ id: 'own', section: section!.id, length: 3840 }, part!.id, notes, { how: 'edited' });
  const song = {
    ...score,
    ground: { ...score.ground, feel: 0 },
    parts: [{ ...part!, brief: { ...part!.brief, humanise: 0 } }],
    order: [{ id: 'o', section: section!.id }],
    sections: [withChoice({ ...section!, chosen: {} }, part!.id, 'own')],
  };
  return musicOf(song, { own: take });
}

const curves = (low: number, high: number) =>
  fc
    .uniqueArray(fc.record({ at: fc.integer({ min: 0, max: 900 }), value: fc.integer({ min: low, max: high }) }), {
      selector: ({ at }) => Math.floor(at / 120),
      minLength: 1,
      maxLength: 5,
    })
    .map((points): Curve => points.sort((a, b) => a.at - b.at));
const notes = fc.tuple(
  fc.option(curves(-1100, 1100), { nil: undefined }),
  fc.option(curves(0, 100), { nil: undefined }),
  fc.option(curves(20, 100), { nil: undefined }),
);

describe('expression in files', () => {
  it('comes back from a delivered file, note by note, in both types', () => {
    fc.assert(
      fc.property(fc.array(notes, { minLength: 1, maxLength: 3 }), fc.boolean(), (list, single) => {
        const written = list.map(([bend, vibrato, swell], index): Note => ({
          start: index * 1200,
          duration: 960,
          pitch: 60 + index,
          velocity: 80,
          ...(bend ? { bend } : {}),
          ...(vibrato ? { vibrato } : {}),
          ...(swell ? { swell } : {}),
        }));
        const music = songWith(written);
        const one = deliverOneTrack(music);
        if (!one.ok) throw new Error(one.reason);
        const reading = readImport((single ? one.delivery : deliverSong(music)).bytes);
        if (!reading.ok) throw new Error(reading.reason);
        const read = reading.file.lines[0]!.notes;
        const usual = (kind: CurveKind, note: Note, at: number): number =>
          note[kind] ? valueAt(note[kind], at) : CURVES[kind].rest;
        const far: unknown[] = [];
        written.forEach((note, index) => {
          for (const kind of CURVE_KINDS)
            for (const at of [0, 130, 505, 940]) {
              // Steps of a 7-bit controller, or of a bend, less than 20 ticks after what they follow.
              const around = [];
              for (let near = at - 20; near <= at + 20; near++) around.push(usual(kind, note, near));
              const fine = kind === 'bend' ? 14 : 3;
              const got = usual(kind, read[index]!, at);
              const off = Math.max(Math.min(...around) - got, got - Math.max(...around));
              if (off >= fine) far.push({ note: index, kind, at, off });
            }
        });
        expect(far).toEqual([]);
      }),
      { numRuns: 150 },
    );
  });

  it('takes the narrowest range that holds all bends, and reaches its ends', () => {
    expect(bendRange([])).toBeNull();
    expect([150, -200, 201, 1300].map((value) => bendRange([{ control: 'bend', value }]))).toEqual([2, 2, 12, 24]);
    expect([-200, 0, 200].map((cents) => bendValue(cents, 2))).toEqual([1, 8192, 16_383]);
  });

  it('gives no curve to a note over which nothing happens', () => {
    const nothing = { bend: [], vibrato: [], swell: [] };
    expect(curvesOver({ start: 0, duration: 100 }, { ...nothing, bend: [{ at: 500, value: 100 }] })).toEqual({});
    expect(curvesOver({ start: 600, duration: 100 }, { ...nothing, bend: [{ at: 500, value: 100 }] })).toEqual({
      bend: [{ at: 0, value: 100 }],
    });
  });
});

import * as fc from 'fast-check';
import type { Note } from '@fendro/core/song/schema';
import { layersOf, noteUnder, type NoteScene } from './note-layers';

const BAR = 1920;
const TO = 4 * BAR;

const note = (start: number, pitch: number, more: Partial<Note> = {}): Note => ({
  start,
  duration: 240,
  pitch,
  velocity: 90,
  ...more,
});

const scene = (more: Partial<NoteScene> = {}): NoteScene => ({
  notes: [],
  from: 0,
  to: TO,
  bar: BAR,
  colour: 2,
  shape: 'bar',
  chords: [],
  marks: [],
  held: [],
  picked: [],
  roles: [],
  hollow: [],
  tentative: false,
  size: { width: 400, height: 40 },
  ...more,
});

const tokens = (more: Partial<NoteScene>): readonly string[] => layersOf(scene(more)).map(({ token }) => token);

/** Every x and y of a path of straight lines and rectangles, where each begins. */
const starts = (path: string): readonly (readonly [number, number])[] =>
  [...path.matchAll(/M(-?[\d.]+),(-?[\d.]+)/g)].map(([, x, y]) => [Number(x), Number(y)]);

const notes = fc.uniqueArray(
  fc
    .tuple(fc.integer({ min: -BAR, max: TO + BAR }), fc.integer({ min: 30, max: 100 }))
    .map(([start, pitch]) => note(start, pitch)),
  { maxLength: 40, selector: ({ start, pitch }) => `${start} ${pitch}` },
);

describe('a picture of notes', () => {
  it('has nothing where it has no room, and bar lines without notes', () => {
    expect(layersOf(scene({ size: { width: 0, height: 40 } }))).toEqual([]);
    expect(tokens({})).toEqual(['--line']);
    expect(starts(layersOf(scene())[0]!.path)).toEqual([0, 100, 200, 300, 399].map((x) => [x, 0]));
  });

  it('shows each note that sounds between its ends, and no other, in the colour of its part', () => {
    fc.assert(
      fc.property(notes, (all) => {
        const shown = all.filter(({ start, duration }) => start < TO && start + duration > 0);
        const [layer] = layersOf(scene({ notes: all, shape: 'outline' })).filter(({ token }) => token === '--part-2');
        const places = starts(layer?.path ?? '');
        expect(places).toHaveLength(shown.length);
        places.forEach(([x], index) => {
          expect(x).toBeCloseTo((shown[index]!.start * 400) / TO + 0.7, 1);
        });
      }),
    );
  });

  it('keeps every note between its upper and lower edge, higher pitches above lower ones', () => {
    fc.assert(
      fc.property(notes, (all) => {
        const inside = all.filter(({ start }) => start >= 0 && start < TO);
        const [layer] = layersOf(scene({ notes: inside, shape: 'outline' })).filter(
          ({ token }) => token === '--part-2',
        );
        const tops = starts(layer?.path ?? '').map(([, y]) => y);
        for (const top of tops) expect(top >= 0 && top <= 40).toBe(true);
        inside.forEach((one, index) => {
          inside.forEach((other, at) => {
            if (one.pitch > other.pitch) expect(tops[index]!).toBeLessThan(tops[at]!);
          });
        });
      }),
      { numRuns: 50 },
    );
  });

  it('finds a note wherever one is drawn, and none between them', () => {
    fc.assert(
      fc.property(notes, (all) => {
        const drawn = scene({ notes: all.filter(({ start }) => start >= 0 && start < TO), shape: 'outline' });
        const layer = layersOf(drawn).find(({ token }) => token === '--part-2');
        for (const [x, y] of starts(layer?.path ?? '')) {
          const found = drawn.notes[noteUnder(drawn, x + 1, y + 1) ?? -1];
          expect(Math.abs((found!.start * 400) / TO - x)).toBeLessThan(20);
        }
      }),
    );
    const two = scene({ notes: [note(0, 60), note(BAR, 72)] });
    expect([noteUnder(two, 5, 35), noteUnder(two, 105, 5), noteUnder(two, 250, 20)]).toEqual([0, 1, null]);
  });

  it('strokes outlined notes and fills all others; what is only tried is faint', () => {
    const part = (more: Partial<NoteScene>) =>
      layersOf(scene({ notes: [note(0, 60)], ...more })).find(({ token }) => token === '--part-2');
    expect(part({ shape: 'outline' })).toMatchObject({ stroke: 1.4 });
    for (const shape of ['bar', 'slim', 'dot', 'hatched'] as const) expect(part({ shape })?.stroke).toBeUndefined();
    expect(part({ tentative: true })).toMatchObject({ opacity: 0.8 });
  });

  it('lays chords under the notes, and everything that is said of notes over them', () => {
    const chord = (start: number) => ({ start, duration: BAR }) as NoteScene['chords'][number];
    expect(
      tokens({
        notes: [note(0, 60), note(BAR, 64)],
        chords: [chord(0), chord(BAR)],
        hollow: [note(0, 62)],
        held: [0],
        picked: [1],
        roles: ['passing', 'chord note'],
        marks: [1],
      }),
    ).toEqual([
      '--band-even',
      '--band-odd',
      '--line',
      '--part-2',
      '--ink',
      '--surface',
      '--ink',
      '--ink',
      '--ink',
      '--alert',
    ]);
  });

  it('has a row for each drum, and larger dots for louder strokes', () => {
    const widest = (velocity: number): number => {
      const drawn = layersOf(scene({ shape: 'dot', notes: [note(0, 36, { velocity })] }));
      return starts(drawn.find(({ token }) => token === '--part-2')!.path)[0]![0];
    };
    expect(widest(127)).toBeGreaterThan(widest(20));
    const drums = layersOf(scene({ shape: 'dot', notes: [note(0, 36), note(0, 38), note(0, 42), note(480, 36)] }));
    const rows = starts(drums.find(({ token }) => token === '--part-2')!.path).map(([, y]) => y);
    expect(new Set(rows).size).toBe(3);
    expect(rows[3]).toBe(rows[0]);
  });
});

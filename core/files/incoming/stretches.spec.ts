import fc from 'fast-check';
import type { Note } from '../../song/schema';
import { barTicks, METRES } from '../../theory/metre';
import type { ImportLine, ImportNote, ImportSection } from './file-model';
import { cutOut, fewestOf, soundingIn, withinRoom, type Stretch } from './stretches';

/** Everything of a file, where it stands. */
const stillOf = (file: readonly ImportSection[]) => ({ shift: 0, fifths: 0, first: 0, last: endOf(file) });

/** The sections of a file, one after the other. */
const sections = fc
  .array(
    fc.record({
      name: fc.constantFrom('Verse', 'Chorus', ''),
      bars: fc.integer({ min: 1, max: 5 }),
      metre: fc.constantFrom(...METRES.slice(0, 3)),
    }),
    { minLength: 1, maxLength: 12 },
  )
  .map((list) => {
    let start = 0;
    return list.map((section): ImportSection => {
      const begun = start;
      start += section.bars * barTicks(section.metre);
      return { ...section, start: begun, tempo: 120, tempos: [], key: null };
    });
  });
const endOf = (file: readonly ImportSection[]): number => {
  const last = file.at(-1)!;
  return last.start + last.bars * barTicks(last.metre);
};
/** Sections with a line that plays somewhere in them; no two notes are alike. */
const files = sections.chain((file) =>
  fc
    .uniqueArray(fc.integer({ min: 0, max: endOf(file) - 1 }), { maxLength: 30 })
    .map((starts) => starts.sort((a, b) => a - b))
    .map((starts) => ({ file, line: lineOf(starts.map((start, index) => ({ ...note, start, velocity: index + 1 }))) })),
);
const note = { start: 0, duration: 480, pitch: 60, velocity: 80 };
const lineOf = (notes: readonly Note[], drums = false): ImportLine => ({
  id: 'a',
  name: 'A',
  drums,
  role: drums ? 'drums' : 'melody',
  instrument: 'piano',
  moves: {},
  notes: notes,
});
const stretchesOf = (file: readonly ImportSection[]): Stretch[] => file.map((section) => ({ section, chords: [] }));

describe('the stretches of a file', () => {
  it('keep every note once, at its moment, however they are joined', () => {
    fc.assert(
      fc.property(files, fc.integer({ min: 1, max: 12 }), ({ file, line }, room) => {
        const { cuts } = withinRoom(stretchesOf(file), (stretch) => cutOut(stretch, [line], stillOf(file)), {
          sections: room,
          places: room,
        });
        const back = cuts.flatMap((cut) =>
          cut.lines[0]!.notes.map(({ start, velocity }) => [start + cut.section.start, velocity]),
        );
        expect(back).toEqual(line.notes.map(({ start, velocity }) => [start, velocity]));
        expect(endOf(cuts.map(({ section }) => section))).toBe(endOf(file));
      }),
    );
  });

  it('are as few as there is room for, unless metres keep them apart', () => {
    fc.assert(
      fc.property(files, fc.integer({ min: 1, max: 12 }), ({ file, line }, room) => {
        const { cuts, print } = withinRoom(stretchesOf(file), (stretch) => cutOut(stretch, [line], stillOf(file)), {
          sections: room,
          places: 12,
        });
        const changes = file.filter(({ metre }, index) => metre !== (file[index - 1] ?? file[0])!.metre).length;
        expect(fewestOf(file)).toBe(changes + 1);
        expect(new Set(cuts.map(print)).size).toBeLessThanOrEqual(Math.max(room, changes + 1));
      }),
    );
  });

  it('are moved to another key, drums excepted, and hear what began before them', () => {
    const [metre] = METRES;
    const section: ImportSection = {
      name: '',
      start: barTicks(metre!),
      bars: 1,
      metre: metre!,
      tempo: 120,
      tempos: [],
      key: null,
    };
    const before = { ...note, start: section.start - 240 };
    const within = { ...note, start: section.start, duration: 9 * barTicks(metre!) };
    const move = { shift: 2, fifths: 2, first: 0, last: 0 };
    const { lines } = cutOut({ section, chords: [] }, [lineOf([before, within]), lineOf([within], true)], move);
    // What rings on ends a bar after the stretch.
    expect(lines.map(({ notes }) => notes)).toEqual([
      [{ ...note, pitch: 62, duration: 2 * barTicks(metre!) }],
      [{ ...note, duration: 2 * barTicks(metre!) }],
    ]);
    expect(soundingIn(section, [before, within] as ImportNote[]).map(({ start }) => start)).toEqual([-240, 0]);
  });
});

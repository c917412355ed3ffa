import * as fc from 'fast-check';
import { barTicks, METRES, type Metre } from '../theory/metre';
import { ticksOf } from './values';
import { writtenLine, type SoundingNote, type WrittenEvent } from './written-line';

const FOUR = METRES[2]!;
const SIGNS = { whole: 'w', half: 'h', quarter: 'q', eighth: 'e', '16th': 's', '32nd': 't' } as const;
/** “q. e~ e r:h” : heads with dots, ties over to the next, triplets as “3e”, rests after “r:”. */
const told = (events: readonly WrittenEvent[]): string =>
  events
    .map(({ value, pitches, goesOn }) => {
      const head = `${value.triplet ? '3' : ''}${SIGNS[value.name]}${value.dots === 1 ? '.' : ''}`;
      return `${pitches.length === 0 ? 'r:' : ''}${head}${goesOn ? '~' : ''}`;
    })
    .join(' ');
/** Notes of so many ticks one after the other; negative ones are rests. */
const line = (...lengths: readonly number[]): SoundingNote[] => {
  let at = 0;
  return lengths.flatMap((length) => {
    const note = { start: at, duration: Math.abs(length), pitch: 60 };
    at += Math.abs(length);
    return length > 0 ? [note] : [];
  });
};
const written = (notes: readonly SoundingNote[], bars = 1, metre: Metre = FOUR): string =>
  told(writtenLine(notes, metre, bars * barTicks(metre)));

describe('a written line', () => {
  it.each([
    ['q q h', [480, 480, 960]],
    ['q. e h', [720, 240, 960]],
    ['e q e h', [240, 480, 240, 960]],
    ['q q~ q q', [480, 960, 480]],
    ['h. r:q', [1440, -480]],
    ['s s e q h', [120, 120, 240, 480, 960]],
    ['3e 3e 3e q h', [160, 160, 160, 480, 960]],
    ['3q 3e q h', [320, 160, 480, 960]],
    ['r:q q h', [-480, 480, 960]],
    ['r:e e q h', [-240, 240, 480, 960]],
  ] as const)('is %s', (text, lengths) => {
    expect(written(line(...lengths))).toBe(text);
  });

  it('is tied over bar lines and strong beats', () => {
    expect(written(line(1440, 960, 1440), 2)).toBe('h. q~ q q~ h');
    expect(written(line(720, 720, 480))).toBe('q. e~ q q');
  });

  it('goes by the beats of its metre', () => {
    const six = METRES.find(({ beats, unit }) => beats === 6 && unit === 8)!;
    expect(written(line(720, 240, 480), 1, six)).toBe('q. e q');
    expect(written(line(480, 480, 480), 1, six)).toBe('q e~ e q');
    expect(written(line(480, 480, 480), 1, METRES[1])).toBe('q q q');
  });

  it('closes the gaps that only touch leaves, and puts hands on the grid', () => {
    expect(written(line(440, -40, 440, -40, 900, -60))).toBe('q q h');
    const loose = line(480, 480, 960).map((note, index) => ({ ...note, start: note.start + [0, 14, -11][index]! }));
    expect(written(loose)).toBe('q q h');
  });

  it('begins before the bar line with a pick-up', () => {
    expect(written([{ start: -240, duration: 240, pitch: 67 }, ...line(1920)])).toBe('r:e e w');
  });

  it('fills every bar, ties what belongs together, and keeps each note', () => {
    const step = fc.constantFrom(120, 160, 240, 480, 720, 960, 1440);
    fc.assert(
      fc.property(
        fc.array(fc.tuple(step, fc.boolean(), fc.integer({ min: 48, max: 80 })), { minLength: 1, maxLength: 24 }),
        fc.constantFrom(...METRES),
        (steps, metre) => {
          let at = 0;
          const notes = steps.flatMap(([length, rests, pitch]): SoundingNote[] => {
            const note = { start: at, duration: length, pitch };
            at += length;
            return rests ? [] : [note];
          });
          const bar = barTicks(metre);
          const to = Math.max(1, Math.ceil(at / bar)) * bar;
          const events = writtenLine(notes, metre, to);
          let end = 0;
          for (const event of events) {
            expect(event.start).toBe(end);
            expect(ticksOf(event.value)).toBe(event.duration);
            // No head crosses a bar line.
            expect(Math.floor(event.start / bar)).toBe(Math.floor((event.start + event.duration - 1) / bar));
            end += event.duration;
          }
          expect(end).toBe(to);
          events.forEach((event, index) => {
            expect(events[index + 1]?.tied ?? false).toBe(event.goesOn);
            if (event.goesOn) expect(events[index + 1]!.pitches).toEqual(event.pitches);
          });
          const onGrid = notes.every(({ start }) => start % 120 === 0);
          const begun = events.filter(({ pitches, tied }) => pitches.length > 0 && !tied);
          if (onGrid)
            expect(begun.map(({ start, pitches }) => [start, pitches[0]])).toEqual(
              notes.map(({ start, pitch }) => [start, pitch]),
            );
          // Groups of three open and close in turn.
          const marks = events.flatMap(({ tuplet }) => (tuplet ? [tuplet] : []));
          marks.forEach((mark, index) => expect(mark).toBe(index % 2 === 0 ? 'start' : 'stop'));
          expect(marks.length % 2).toBe(0);
        },
      ),
      { numRuns: 400 },
    );
  });
});

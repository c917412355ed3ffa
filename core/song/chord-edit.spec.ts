import * as fc from 'fast-check';
import { METRES, type Metre } from '../theory/metre';
import {
  clearChords,
  copyChords,
  joinChords,
  moveBoundary,
  moveChord,
  pasteChords,
  repeatChords,
  reverseChords,
  spanText,
  splitChord,
  transposeByDegrees,
  transposeChords,
} from './chord-edit';
import { typeChords, type Typing } from './chord-typing';
import type { ChordSpan } from './schema';

const FOUR = METRES[2] as Metre;
const typing: Typing = { key: { tonic: 0, scale: 'major' }, metre: FOUR, length: 4 * 1920 };
const names = (chords: readonly ChordSpan[]): string =>
  chords.map((span) => `${span.start / 480} ${spanText(span)}`).join(', ');
const typed = (text: string, at = 0, before: readonly ChordSpan[] = []): ChordSpan[] =>
  typeChords(before, at, text, typing);

describe('typing chords', () => {
  it('one stands until the next', () => {
    const one = typed('Am');
    expect(one).toEqual([{ start: 0, duration: 7680, chord: { root: 3, tones: ['1', 'b3', '5'], bass: null } }]);
    expect(names(typed('D/F#', 960, one))).toBe('0 Am, 2 D/F♯');
    expect(names(typed('', 960, typed('D/F#', 960, one)))).toBe('0 Am');
    expect(names(typed('N. C.', 1920, one))).toBe('0 Am, 4 N.C.');
  });

  it('a line as on paper: several a bar, bar lines, repeats, dashes', () => {
    expect(names(typed('Am F | C G7 | % | Dm - - E7'))).toBe('0 Am, 2 F, 4 C, 6 G7, 8 C, 10 G7, 12 Dm, 15 E7');
    expect(names(typed('| C | | G |'))).toBe('0 C, 8 G');
    expect(names(typed('%', 1920, typed('Am F')))).toBe('0 Am, 2 F, 4 Am, 6 F');
    expect(names(typed('C D E', 480))).toBe('1 C, 2 D, 3 E');
    expect(names(typed('C D E F G A'))).toMatch(/^0 C, 0.66\d* D/);
  });

  it('keeps what cannot be read, as it was typed', () => {
    const chords = typed('Am | Hxq | G');
    expect(names(chords)).toBe('0 Am, 4 Hxq, 8 G');
    expect(chords[1]).toMatchObject({ chord: null, unread: 'Hxq' });
  });

  it('spells for the key', () => {
    expect(names(typeChords([], 0, 'B', { ...typing, key: { tonic: -3, scale: 'minor' } }))).toBe('0 C♭');
  });
});

const sections = (): fc.Arbitrary<ChordSpan[]> =>
  fc
    .array(fc.tuple(fc.nat(15), fc.constantFrom('C', 'Am7', 'G7/B', 'F#m7b5', 'N.C.', 'Bbmaj7')), {
      minLength: 1,
      maxLength: 12,
    })
    .map((list) => list.reduce<ChordSpan[]>((now, [beat, text]) => typed(text, beat * 480, now), []));
const stretches = () =>
  fc
    .tuple(fc.nat(14), fc.integer({ min: 1, max: 8 }))
    .map(([from, size]) => ({ from: from * 480, to: Math.min(7680, (from + size) * 480) }));

function sound(chords: readonly ChordSpan[]): void {
  chords.forEach(({ start, duration }, index) => {
    expect(duration).toBeGreaterThan(0);
    expect(start + duration).toBe(chords[index + 1]?.start ?? 7680);
  });
}

describe('editing stretches of chords', () => {
  it('always leaves a line without gaps or overlaps', () => {
    fc.assert(
      fc.property(
        sections(),
        stretches(),
        fc.nat(15),
        fc.integer({ min: -12, max: 12 }),
        (chords, stretch, beat, by) => {
          const at = beat * 480;
          for (const edited of [
            pasteChords(chords, at, copyChords(chords, stretch), 7680),
            repeatChords(chords, stretch, 7680),
            transposeChords(chords, stretch, by, typing.key),
            transposeByDegrees(chords, stretch, by, typing.key),
            reverseChords(chords, stretch, 7680),
            splitChord(chords, at, 7680),
            joinChords(chords, stretch, 7680),
            clearChords(chords, stretch, 7680),
            moveChord(chords, chords[0]!.start, at, 7680),
            moveBoundary(chords, chords.at(-1)!.start, at, 7680),
          ])
            sound(edited);
        },
      ),
    );
  });

  it('changes nothing outside the stretch', () => {
    fc.assert(
      fc.property(sections(), stretches(), fc.integer({ min: 1, max: 11 }), (chords, stretch, by) => {
        const outside = (list: readonly ChordSpan[]) =>
          list.filter(({ start }) => start < stretch.from || start >= stretch.to);
        expect(outside(transposeChords(chords, stretch, by, typing.key))).toEqual(outside(chords));
      }),
    );
  });

  it('copies, repeats, reverses, splits, joins and moves', () => {
    const chords = typed('C Am | F G');
    expect(names(repeatChords(chords, { from: 0, to: 3840 }, 7680))).toBe(
      '0 C, 2 Am, 4 F, 6 G, 8 C, 10 Am, 12 F, 14 G',
    );
    expect(names(reverseChords(chords, { from: 0, to: 3840 }, 7680))).toBe('0 G, 2 F, 4 Am, 6 C, 8 G');
    expect(names(splitChord(chords, 480, 7680))).toBe('0 C, 1 C, 2 Am, 4 F, 6 G');
    expect(names(joinChords(chords, { from: 0, to: 1920 }, 7680))).toBe('0 C, 4 F, 6 G');
    expect(names(moveBoundary(chords, 960, 800, 7680))).toMatch(/^0 C, 1.66/);
    expect(names(moveChord(chords, 960, 3360, 7680))).toBe('0 C, 4 F, 6 G, 7 Am, 9 G');
  });

  it('moves along the scale inside the key', () => {
    expect(names(transposeByDegrees(typed('C Dm7 | G7/B E7'), { from: 0, to: 7680 }, 1, typing.key))).toBe(
      '0 Dm, 2 Em7, 4 Am7/C, 6 F7',
    );
    expect(names(transposeChords(typed('C Am'), { from: 0, to: 7680 }, 3, { tonic: -3, scale: 'major' }))).toBe(
      '0 E♭, 2 Cm',
    );
  });

  it('moves there and back again to the same chords', () => {
    fc.assert(
      fc.property(sections(), fc.integer({ min: -11, max: 11 }), (chords, by) => {
        const all = { from: 0, to: 7680 };
        const masks = (list: readonly ChordSpan[]) =>
          list.map(({ chord }) => (chord ? (((chord.root * 7) % 12) + 12) % 12 : null));
        expect(masks(transposeChords(transposeChords(chords, all, by, typing.key), all, -by, typing.key))).toEqual(
          masks(chords),
        );
      }),
    );
  });
});

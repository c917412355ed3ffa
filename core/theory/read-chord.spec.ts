import * as fc from 'fast-check';
import { Chord as Tonal, Note as TonalNote } from 'tonal';
import { chordMask, chordNotes, chordSymbol, makeChord, qualitySymbol } from './chord';
import { maskOf, printedName, typedName } from './pitch';
import { readChord } from './read-chord';

/** What is typed, the notes that must sound, and the one way in which it is printed. */
const SPELLINGS: readonly (readonly [typed: string, notes: string, printed: string])[] = [
  ['C', 'C E G', 'C'],
  ['c', 'C E G', 'C'],
  ['CM', 'C E G', 'C'],
  ['Cmaj', 'C E G', 'C'],
  ['Am', 'A C E', 'Am'],
  ['Amin', 'A C E', 'Am'],
  ['A-', 'A C E', 'Am'],
  ['am', 'A C E', 'Am'],
  ['A−', 'A C E', 'Am'],
  ['Bdim', 'B D F', 'Bdim'],
  ['B°', 'B D F', 'Bdim'],
  ['Bo', 'B D F', 'Bdim'],
  ['Bº7', 'B D F A♭', 'Bdim7'],
  ['C+', 'C E G♯', 'Caug'],
  ['Caug', 'C E G♯', 'Caug'],
  ['C+7', 'C E G♯ B♭', 'C7♯5'],
  ['C7+', 'C E G♯ B♭', 'C7♯5'],
  ['F#m7b5', 'F♯ A C E', 'F♯m7♭5'],
  ['F♯ø', 'F♯ A C E', 'F♯m7♭5'],
  ['F#ø7', 'F♯ A C E', 'F♯m7♭5'],
  ['G7', 'G B D F', 'G7'],
  ['Gdom7', 'G B D F', 'G7'],
  ['G9', 'G B D F A', 'G9'],
  ['G13', 'G B D F A E', 'G13'],
  ['Bb△', 'B♭ D F A', 'B♭maj7'],
  ['BbΔ7', 'B♭ D F A', 'B♭maj7'],
  ['Bbmaj7', 'B♭ D F A', 'B♭maj7'],
  ['BbM7', 'B♭ D F A', 'B♭maj7'],
  ['Bbma9', 'B♭ D F A C', 'B♭maj9'],
  ['Cm7', 'C E♭ G B♭', 'Cm7'],
  ['C-7', 'C E♭ G B♭', 'Cm7'],
  ['Cm9', 'C E♭ G B♭ D', 'Cm9'],
  ['Cm11', 'C E♭ G B♭ D F', 'Cm11'],
  ['CmM7', 'C E♭ G B', 'Cmmaj7'],
  ['Cm(maj7)', 'C E♭ G B', 'Cmmaj7'],
  ['C-maj7', 'C E♭ G B', 'Cmmaj7'],
  ['C6', 'C E G A', 'C6'],
  ['Cm6', 'C E♭ G A', 'Cm6'],
  ['C6/9', 'C E G A D', 'C6/9'],
  ['C69', 'C E G A D', 'C6/9'],
  ['Csus4', 'C F G', 'Csus4'],
  ['Csus', 'C F G', 'Csus4'],
  ['Csus2', 'C D G', 'Csus2'],
  ['C7sus4', 'C F G B♭', 'C7sus4'],
  ['C9sus4', 'C F G B♭ D', 'C9sus4'],
  ['Cadd9', 'C E G D', 'Cadd9'],
  ['Cmadd9', 'C E♭ G D', 'Cmadd9'],
  ['C2', 'C E G D', 'Cadd9'],
  ['C5', 'C G', 'C5'],
  ['C7b9', 'C E G B♭ D♭', 'C7♭9'],
  ['C7#9', 'C E G B♭ D♯', 'C7♯9'],
  ['C7(b9,#11)', 'C E G B♭ D♭ F♯', 'C7♭9♯11'],
  ['C7#11', 'C E G B♭ F♯', 'C7♯11'],
  ['C7-5', 'C E G♭ B♭', 'C7♭5'],
  ['C7b13', 'C E G B♭ A♭', 'C7♭13'],
  ['C/E', 'C E G', 'C/E'],
  ['C/Bb', 'B♭ C E G', 'C/B♭'],
  ['D7/F#', 'D F♯ A C', 'D7/F♯'],
  ['Ebm', 'E♭ G♭ B♭', 'E♭m'],
  ['Abm', 'A♭ C♭ E♭', 'A♭m'],
  ['B', 'B D♯ F♯', 'B'],
  ['Cbmaj7', 'C♭ E♭ G♭ B♭', 'C♭maj7'],
  ['Calt', 'C E G♭ G♯ B♭ D♭ D♯', 'C7♭5♯5♭9♯9'],
  ['Dm7/G', 'G D F A C', 'Dm7/G'],
];

describe('reading chords', () => {
  it.each(SPELLINGS)('reads %s as %s', (typed, notes, printed) => {
    const reading = readChord(typed);
    if (!reading.ok || !reading.chord) throw new Error(reading.ok ? 'nothing sounds' : reading.reason);
    expect(new Set(chordNotes(reading.chord).map(printedName))).toEqual(new Set(notes.split(' ')));
    expect(chordSymbol(reading.chord)).toBe(printed);
  });

  it.each(['N.C.', 'NC', 'n.c.', 'no chord'])('reads %s as silence', (typed) => {
    expect(readChord(typed)).toEqual({ ok: true, chord: null });
  });

  it.each(['H7', '', 'Cfoo', 'Gm7x', '7', 'A/', 'Am7/K', 'C&'])('refuses %s and says what is wrong', (typed) => {
    const reading = readChord(typed);
    expect(reading).toMatchObject({ ok: false });
    expect(!reading.ok && reading.reason).toMatch(/Try /);
  });

  it('reads back everything that it prints', () => {
    const qualities = SPELLINGS.map(([typed]) => readChord(typed)).flatMap((reading) =>
      reading.ok && reading.chord ? [reading.chord.tones] : [],
    );
    fc.assert(
      fc.property(
        fc.integer({ min: -8, max: 10 }),
        fc.constantFrom(...qualities),
        fc.option(fc.integer({ min: -6, max: 8 })),
        (root, tones, bass) => {
          const chord = makeChord(root, tones, bass);
          expect(readChord(chordSymbol(chord))).toEqual({ ok: true, chord });
        },
      ),
    );
  });

  it('agrees with a second library on common symbols', () => {
    for (const quality of [
      '',
      'm',
      '7',
      'maj7',
      'm7',
      'm7b5',
      'dim7',
      '6',
      'm6',
      '9',
      'm9',
      'sus4',
      '7b9',
      '7#9',
      'aug',
      'maj9',
      '7sus4',
    ]) {
      for (const root of ['C', 'Eb', 'F#', 'Bb']) {
        const reading = readChord(root + quality);
        const other = Tonal.get(root + quality).notes.map((note) => TonalNote.chroma(note));
        expect(reading.ok && reading.chord && chordMask(reading.chord)).toBe(maskOf(other));
      }
    }
  });

  it('prints a quality for every set of tones', () => {
    fc.assert(
      fc.property(
        fc.subarray(['b3', '3', '4', 'b5', '5', '#5', '6', 'bb7', 'b7', '7', 'b9', '9', '#11', '13']),
        (tones) => {
          expect(typeof qualitySymbol(['1', ...tones])).toBe('string');
          expect(typedName(0)).toBe('C');
        },
      ),
    );
  });
});

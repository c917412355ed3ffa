import { chordMask } from './chord';
import { maskOf, pitchClassOf, readName } from './pitch';
import { readChord } from './read-chord';

/** The notes that must sound, and ways in which people of many trades and countries write them. */
const WRITTEN = `
C E G = C major ; C Major ; C maj ; C^ ; C/E ; C/e ; C\\E ; C / E ; C over E ; C on E ; c ; C♮ ; C! ; C* ; C.
C E G = C, ; C:maj ; C:maj/3
C Eb G = C minor ; Cm ; Cmin ; Cmi ; C- ; C−
A C E = A minor ; am ; A:min
C E G B = C maj7 ; C major 7 ; C major seventh ; C7M ; CM7 ; CMA7 ; CMaj7 ; Cma7 ; Cj7 ; CJ7 ; C^7 ; CΔ ; C△
C Eb G Bb = C min7 ; C minor 7 ; C minor seventh ; Cm7/Bb ; CMI7 ; Cminor7 ; C:min7
C E G Bb = C 7 ; C dominant 7 ; C dominant seventh ; C:7
C E G Bb D = Cdom9 ; C7(9) ; C7/9 ; C9
C Eb Gb = C diminished ; C° ; Cº ; C0 ; Cm(b5)
C Eb Gb Bbb = C diminished 7 ; C dim7 ; C°7 ; Co7 ; C07
C E G# = C augmented ; C aug ; C+5 ; C5+
C Eb Gb Bb = C half-diminished ; C half diminished 7 ; C half-dim ; Cø ; Cø7 ; CØ ; Cm7b5 ; Cm7(b5) ; Cm7(♭5)
C Eb Gb Bb = C-7(b5) ; C-7b5 ; C-7-5 ; Cm7-5 ; Cmin7b5 ; Cmi7(b5) ; Cm7/b5 ; C:hdim7
C Eb G B = C minor major 7 ; Cminmaj7 ; Cmin/maj7 ; Cm/maj7 ; Cm/M7 ; C-/maj7 ; Cmi/ma7 ; Cm+7 ; Cm7+ ; Cm(Δ7)
C Eb G B = CmΔ ; C-Δ7 ; Cm7M
C F G = C suspended 4 ; C suspended ; C sus 4 ; C sus ; C4 ; C(sus4)
C D G = C suspended second
C# E# G# = C sharp
C# E G# = C sharp minor ; C♯m
F# A C# E = F sharp minor 7 ; f#m7
Bb D F = B flat ; Bb/D
Bb D F A = B flat major 7
Bb Db F = B-flat minor
Eb G Bb Db = E flat 7
A C# E G# = A7M
C E G B D = C7M(9) ; Cmaj7/9 ; Cmaj7(9) ; CΔ9 ; CM9
C E G B F# = C7M(#11) ; CM7(#11) ; Cmaj7#11
Bb D F# A = Bb7M(#5)
C E G A D = C6(9) ; C6/9 ; C69 ; C6,9 ; C6 9 ; C6add9 ; C6(add9) ; C6/9/E
C Eb G A D = Cm6(9) ; Cm6/9
C E G Bb A = C7(13) ; C7/13
C E G Bb D A = C7(9,13) ; C7(9/13) ; C13
C E G Bb Db Ab = C7(b9/b13) ; C7(b9b13) ; C7(b9 b13)
C E G# Bb D# = C7(#9/#5) ; C7#5#9
A C E G B = Am7/9
C E G D = C/9 ; C(9) ; C(add9) ; C add9 ; C add 9 ; Cadd2 ; C2 ; C(add2) ; C/add9
C Eb G D = Cm/9 ; Cm(add9) ; Cm add9 ; Cm(9)
C F G Bb = C7/4 ; C4/7 ; C7(4) ; C7 sus ; C7(sus4) ; Csus4/7
C F G Bb Db = C7sus4(b9) ; C7susb9 ; C7(sus)(b9) ; C7b9sus4
C F G Bb D = C9(sus4)
C F G Bb D A = C13sus ; C13sus4
C F G D = Csus4add9
C D F G = Csus2/4
C E Gb = C(b5) ; Cb5 ; C-5 ; C(♭5)
C# G# = C#5
C E G# Bb = C7+5 ; C7(+5) ; C+7 ; Caug7
C E G Bb Db = C7(-9) ; C7[b9] ; C7(b9)/E
C E G Bb D# = C7(+9)
C E G# Bb D = C+9 ; Caug9 ; C9#5
C E G# Bb Db = C+7(b9) ; C7#5b9
C E G# B = C+maj7 ; C+M7 ; C+Δ ; CΔ7#5 ; Cmaj7(#5) ; Cmaj7+5 ; Caug(maj7)
C Eb Gb B = C°M7 ; Cdim(maj7) ; C°(maj7)
C Eb Gb Bbb D = Cdim9
C Eb Gb Bb D = Cø9
C Eb Gb Bb D F = Cm11(b5)
C Eb G Bb F = Cm7(11)
C Eb G Bb D = Cm7(9) ; Cm9 ; C-9
C Eb G B D = Cm(maj9) ; CmM9
C E G F# = C(add#11) ; C/F# ; C/F♯
C E G F = C(add4)
C E G B A = Cmaj7add13 ; Cmaj7(13)
C G = C(no3) ; Cno3 ; C(no3rd) ; C no 3rd ; C(omit3) ; C(omit 3) ; C5 ; C power ; C5(no3) ; C(5)
C E = C(no5) ; Cno5
C E Bb = C7(no5) ; C7(no5th)
C G Bb = C7no3
C E G A = C6 ; Cmaj6 ; CM6 ; C(6)
C Eb G A = Cm6 ; C-6 ; Cmin6 ; Cm(6)
C Eb G Ab = Cmb6 ; Cm(b6)
C Eb G Bb Db = Cm7(b9)
C E G Bb D F = C11
C E G Bb D F# = C9(#11) ; C9#11
C E G Bb D F# A = C13(#11)
C E G Bb Db A = C13b9 ; C13(b9)
C E Gb Bb D = C9b5 ; C9(b5)
C E Gb Bb = C7b5 ; C7(b5) ; C7-5 ; C7♭5
C E Gb Bb Db = C7b5b9
C E Gb Bb D# = C7b5#9 ; C7(b5,#9) ; C7(b5)(#9)
C E G Bb D# Ab = C7#9b13
C E G Bb D# F# = C7#9#11
C E G Bb Db F# = C7b9#11
C E Gb G# Bb Db D# = C7alt ; C7(alt) ; C7alt. ; Calt ; C7 altered
C E G Bb F# = C7#11 ; C7+11 ; C7lyd
C E G B D A = CM13
C E G B D F# A = Cmaj13(#11)
C E G B D F# = Cmaj9(#11)
C E Gb B = Cmaj7(b5)
C D G B = Cmaj7sus2
C F G B = Cmaj7sus4
C F G B D = Cmaj9sus4
C G B = Cmaj7(no3)
D F# A = D/F#
A C Eb G = Am7(b5)/G
A C E G = a-7 ; (Am7)
Bb D F Ab = bb7
Cb Eb Gb = C♭
Eb G Bb D = E♭△7
Ab Cb Ebb Gb = A♭m7♭5
G# B D F = G♯°7
C Eb G Bb D F = Cm11
C Eb G Bb D F A = Cm13
C Eb G Bb A = Cm7(13)
F A C = (F)
G B D F = [G7]
- = N.C. ; NC ; N/C ; n.c. ; n/c ; (N.C.) ; [N.C.] ; no chord ; No Chord ; tacet
`;

const rows = WRITTEN.trim()
  .split('\n')
  .flatMap((row) => {
    const [notes = '', spellings = ''] = row.split(' = ');
    return spellings.split(' ; ').map((typed) => [typed, notes.trim()] as const);
  });

const maskFor = (notes: string): number | null =>
  notes === '-' ? null : maskOf(notes.split(' ').map((name) => pitchClassOf(readName(name)!)));

/** What a chord sounds, its bass included; text where it cannot be read. */
function sounding(typed: string, german = false): number | string | null {
  const reading = readChord(typed, { german });
  if (!reading.ok) return reading.reason;
  if (!reading.chord) return null;
  const { bass } = reading.chord;
  return chordMask(reading.chord) | (bass === null ? 0 : maskOf([pitchClassOf(bass)]));
}

describe('chords as they are written', () => {
  it.each(rows)('reads %s as %s', (typed, notes) => {
    expect(sounding(typed)).toBe(maskFor(notes));
  });

  it.each([
    ['H', 'B D# F#'],
    ['H7', 'B D# F# A'],
    ['h', 'B D# F#'],
    ['hm7', 'B D F# A'],
    ['B', 'Bb D F'],
    ['Bm', 'Bb Db F'],
    ['Bb', 'Bb D F'],
    ['Fis', 'F# A# C#'],
    ['fism', 'F# A C#'],
    ['Cism7', 'C# E G# B'],
    ['Es', 'Eb G Bb'],
    ['As7', 'Ab C Eb Gb'],
    ['Asus4', 'A D E'],
    ['Des', 'Db F Ab'],
    ['Ges', 'Gb Bb Db'],
    ['G/H', 'G B D'],
    ['C7/B', 'C E G Bb'],
    ['D/Fis', 'D F# A'],
    ['C dur', 'C E G'],
    ['a moll', 'A C E'],
  ])('reads %s as %s where notes have German names', (typed, notes) => {
    expect(sounding(typed, true)).toBe(maskFor(notes));
  });

  it('tells that H is a German name where it is not read', () => {
    expect(readChord('H7')).toMatchObject({ ok: false, reason: expect.stringContaining('German') as string });
  });
});

import { chordNotes } from './chord';
import { nearestChords } from './nearest-chords';
import { printedName } from './pitch';
import { readChord } from './read-chord';
import { readRoman } from './roman';
import { chordSymbol } from './chord';
import { spellChord } from './spelling';
import { collection } from '../styles/progressions/collection';

/** What songwriters type, and the notes that must sound: rows of one family of spellings, parted by semicolons. */
const TYPED = `
C = C E G; CM = C E G; Cmaj = C E G; CMaj = C E G; C major = ; Db = D♭ F A♭; D♭ = D♭ F A♭; C# = C♯ E♯ G♯;
  C♯ = C♯ E♯ G♯; Gb = G♭ B♭ D♭; F# = F♯ A♯ C♯; E#= ; Fb = F♭ A♭ C♭; B# = B♯ D𝄪 F𝄪; bb = B♭ D F; eb = E♭ G B♭;
  a = A C♯ E
Cm = C E♭ G; Cmin = C E♭ G; Cmi = C E♭ G; C- = C E♭ G; CMIN = C E♭ G; CMin = C E♭ G; cm = C E♭ G; G#m = G♯ B D♯;
  D#m = D♯ F♯ A♯; Bbm = B♭ D♭ F; Ebm = E♭ G♭ B♭; Cbm = C♭ E𝄫 G♭; F#m = F♯ A C♯; f#m = F♯ A C♯; F♯− = F♯ A C♯
C7 = C E G B♭; Cdom7 = C E G B♭; F7 = F A C E♭; B7 = B D♯ F♯ A; Eb7 = E♭ G B♭ D♭; F#7 = F♯ A♯ C♯ E;
  Db7 = D♭ F A♭ C♭; A7 = A C♯ E G; ab7 = A♭ C E♭ G♭
Cmaj7 = C E G B; CM7 = C E G B; Cma7 = C E G B; CMA7 = C E G B; CMaj7 = C E G B; CΔ = C E G B; CΔ7 = C E G B;
  C△7 = C E G B; Cj7 = C E G B; C^7 = C E G B; C^ = C E G; Fmaj7 = F A C E; Ebmaj7 = E♭ G B♭ D; Bmaj7 = B D♯ F♯ A♯;
  Abmaj7 = A♭ C E♭ G; C(maj7) = C E G B
Am7 = A C E G; Amin7 = A C E G; Ami7 = A C E G; A-7 = A C E G; am7 = A C E G; Bbm7 = B♭ D♭ F A♭; G#m7 = G♯ B D♯ F♯;
  Ebm7 = E♭ G♭ B♭ D♭; C#m7 = C♯ E G♯ B
CmM7 = C E♭ G B; Cmmaj7 = C E♭ G B; CmMaj7 = C E♭ G B; Cm(M7) = C E♭ G B; Cm(maj7) = C E♭ G B; C-Δ = C E♭ G B;
  C-maj7 = C E♭ G B; CminMaj7 = C E♭ G B; CmΔ7 = C E♭ G B
Bdim = B D F; B° = B D F; Bo = B D F; Bm(b5) = B D F; Bmb5 = B D F; Bdim7 = B D F A♭; B°7 = B D F A♭;
  Bo7 = B D F A♭; BDIM7 = B D F A♭; C#dim7 = C♯ E G B♭; F#°7 = F♯ A C E♭; Ebdim = E♭ G♭ B𝄫
Bm7b5 = B D F A; Bm7(b5) = B D F A; Bm7-5 = B D F A; Bø = B D F A; Bø7 = B D F A; B-7b5 = B D F A;
  Bmin7b5 = B D F A; C#m7♭5 = C♯ E G B; Bm9b5 = B D F A C♯
C+ = C E G♯; Caug = C E G♯; Caug7 = C E G♯ B♭; C7aug = C E G♯ B♭; C7#5 = C E G♯ B♭; C7(#5) = C E G♯ B♭;
  C+7 = C E G♯ B♭; C7+5 = C E G♯ B♭; Cmaj7#5 = C E G♯ B; CM7#5 = C E G♯ B; C+maj7 = C E G♯ B; Ab+ = A♭ C E
C6 = C E G A; Cadd6 = C E G A; CM6 = C E G A; Cm6 = C E♭ G A; C-6 = C E♭ G A; Cmin6 = C E♭ G A; C6/9 = C E G A D;
  C69 = C E G A D; C6add9 = C E G A D; Cm6/9 = C E♭ G A D; Cm69 = C E♭ G A D; Cmaj6 = C E G A
C9 = C E G B♭ D; C11 = C E G B♭ D F; C13 = C E G B♭ D A; Cmaj9 = C E G B D; CM9 = C E G B D; CΔ9 = C E G B D;
  Cmaj11 = C E G B D F; Cmaj13 = C E G B D A; Cm9 = C E♭ G B♭ D; C-9 = C E♭ G B♭ D; Cm11 = C E♭ G B♭ D F;
  Cm13 = C E♭ G B♭ D F A; CmM9 = C E♭ G B D; Eb13 = E♭ G B♭ D♭ F C; Cmaj7add13 = C E G B A
Csus = C F G; Csus4 = C F G; CSUS4 = C F G; C4 = C F G; Csus2 = C D G; C7sus = C F G B♭; C7sus4 = C F G B♭;
  C7sus2 = C D G B♭; C9sus4 = C F G B♭ D; C9sus = C F G B♭ D; C13sus4 = C F G B♭ D A; Csus2sus4 = C D F G;
  Csus24 = C D F G; Asus = A D E; Bbsus2 = B♭ C F; Cmaj7sus4 = C F G B
Cadd9 = C E G D; Cadd2 = C E G D; C2 = C E G D; C(add9) = C E G D; Cmadd9 = C E♭ G D; Cm(add9) = C E♭ G D;
  Cadd11 = C E G F; Cadd4 = C E G F; Cadd#11 = C E G F♯; Cmadd11 = C E♭ G F; Cmadd2 = C E♭ G D; Cadd13 = C E G A;
  Cadd9add11 = C E G D F
C5 = C G; G5 = G D; F#5 = F♯ C♯; Cno3 = C G; C(no3) = C G; Cno5 = C E; C7no5 = C E B♭; C7omit5 = C E B♭;
  C9no3 = C G B♭ D; C(omit3) = C G
C7b5 = C E G♭ B♭; C7-5 = C E G♭ B♭; C7♭5 = C E G♭ B♭; C7b9 = C E G B♭ D♭; C7(b9) = C E G B♭ D♭; C7-9 = C E G B♭ D♭;
  C7#9 = C E G B♭ D♯; C7(#9) = C E G B♭ D♯; C7+9 = C E G B♭ D♯; C7#11 = C E G B♭ F♯; C7+11 = C E G B♭ F♯;
  C9#11 = C E G B♭ D F♯; C13#11 = C E G B♭ D F♯ A; C13b9 = C E G B♭ D♭ A; C7b13 = C E G B♭ A♭; C9b5 = C E G♭ B♭ D;
  C7b5b9 = C E G♭ B♭ D♭; C7#5#9 = C E G♯ B♭ D♯; C7(b9,b13) = C E G B♭ D♭ A♭; C7b9#9 = C E G B♭ D♭ D♯;
  Cmaj7#11 = C E G B F♯; CΔ#11 = C E G B F♯; Cmaj9#11 = C E G B D F♯; Cmaj7b5 = C E G♭ B;
  Calt = C E G♭ G♯ B♭ D♭ D♯; C7alt = C E G♭ G♯ B♭ D♭ D♯; E7#9 = E G♯ B D F𝄪; Ab7#11 = A♭ C E♭ G♭ D;
  Cm7b9 = C E♭ G B♭ D♭; Cm7#11 = C E♭ G B♭ F♯; Cm7add11 = C E♭ G B♭ F
C/E = C E G; C/G = C E G; C/B = B C E G; C/Bb = B♭ C E G; Am/G = G A C E; D/F# = D F♯ A; F/G = G F A C;
  Dm7/G = G D F A C; G7/B = G B D F; Ab/Bb = B♭ A♭ C E♭; Cmaj7/E = C E G B; Em7b5/Bb = E G B♭ D; C\\E = C E G;
  C / E = C E G; F#m7/E = F♯ A C♯ E; D7sus4/A = D G A C; Bb6/9/D = B♭ D F G C; Gadd9/B = G B D A
`;

const rows = TYPED.trim()
  .split(/[;\n]/)
  .map((row) => row.split('=').map((cell) => cell.trim()))
  .filter(([, notes]) => notes) as [string, string][];

describe('typed chords', () => {
  it('are at least two hundred', () => {
    expect(new Set(rows.map(([typed]) => typed)).size).toBeGreaterThanOrEqual(200);
  });

  it.each(rows)('%s sounds %s', (typed, notes) => {
    const reading = readChord(typed);
    if (!reading.ok || !reading.chord) throw new Error(reading.ok ? 'silence' : reading.reason);
    expect([...new Set(chordNotes(reading.chord).map(printedName))].sort()).toEqual(notes.split(' ').sort());
  });
});

describe('what cannot be read', () => {
  it.each([
    ['Hm7', 'Bm7'],
    ['Cmja7', 'Cmaj7'],
    ['Amn', 'Am'],
    ['Gsuss4', 'Gsus4'],
    ['Dadd99', 'Dadd9'],
    ['F7ss4/C', 'F7sus4/C'],
    ['xEm', 'Em'],
  ])('%s is offered as %s among the nearest', (typed, wanted) => {
    const reading = readChord(typed);
    if (reading.ok) throw new Error('was read');
    expect(reading.nearest).toContain(wanted);
    for (const offer of reading.nearest) expect(readChord(offer)).toMatchObject({ ok: true });
  });

  it('offers nothing where no note is named', () => {
    expect(nearestChords('???')).toEqual([]);
  });
});

describe('spelling in a key', () => {
  const spelled = (typed: string, tonic: number, scale: string): string => {
    const reading = readChord(typed);
    return reading.ok && reading.chord ? chordSymbol(spellChord(reading.chord, { tonic, scale })) : typed;
  };
  it.each([
    ['Bm', -3, 'minor', 'C♭m'],
    ['B', -3, 'minor', 'C♭'],
    ['Bb', 5, 'major', 'A♯'],
    ['Bbdim', 5, 'major', 'A♯dim'],
    ['D#', -3, 'major', 'E♭'],
    ['G#', 0, 'major', 'A♭'],
    ['A#7', 0, 'major', 'B♭7'],
    ['D#m', -6, 'major', 'E♭m'],
    ['C#dim', 0, 'major', 'C♯dim'],
    ['Dbdim7', 0, 'major', 'D♭dim7'],
    ['Db', 0, 'major', 'D♭'],
    ['Gb7', 0, 'major', 'G♭7'],
    ['F#m7b5', 0, 'major', 'F♯m7♭5'],
    ['E7', 0, 'major', 'E7'],
    ['C/D#', -3, 'minor', 'C/E♭'],
    ['Am/Gb', 1, 'major', 'Am/F♯'],
    ['E#dim', 6, 'major', 'E♯dim'],
    ['Fdim', 6, 'major', 'E♯dim'],
    ['G', 8, 'harmonic-minor', 'F𝄪'],
    ['Abm', 4, 'major', 'G♯m'],
  ])('writes %s in the key on %s %s as %s', (typed, tonic, scale, wanted) => {
    expect(spelled(typed, tonic, scale)).toBe(wanted);
  });

  it('never changes what sounds', () => {
    for (const [typed] of rows) {
      const reading = readChord(typed);
      if (!reading.ok || !reading.chord) continue;
      for (const tonic of [-6, -3, 0, 2, 5, 8]) {
        const chord = spellChord(reading.chord, { tonic, scale: 'major' });
        const sounding = (notes: number[]): number[] => notes.map((note) => (((note * 7) % 12) + 12) % 12);
        expect(new Set(sounding(chordNotes(chord)))).toEqual(new Set(sounding(chordNotes(reading.chord))));
      }
    }
  });
});

describe('degrees', () => {
  const inC = { tonic: 0, scale: 'major' };
  const inA = { tonic: 3, scale: 'minor' };
  it.each([
    ['I', inC, 'C'],
    ['ii7', inC, 'Dm7'],
    ['V7', inC, 'G7'],
    ['bVII', inC, 'B♭'],
    ['iv', inC, 'Fm'],
    ['V7/V', inC, 'D7'],
    ['vii°', inC, 'Bdim'],
    ['#iv°7', inC, 'F♯dim7'],
    ['I/3', inC, 'C/E'],
    ['IVmaj7', inC, 'Fmaj7'],
    ['V7sus4', inC, 'G7sus4'],
    ['i', inA, 'Am'],
    ['VI', inA, 'F'],
    ['VII', inA, 'G'],
    ['III', inA, 'C'],
    ['V7', inA, 'E7'],
    ['ii7b5', inA, 'Bm7♭5'],
    ['i/b7', inA, 'Am/G'],
    ['bII', inA, 'B♭'],
  ])('%s', (text, key, wanted) => {
    const chord = readRoman(text, key);
    expect(chord && chordSymbol(chord)).toBe(wanted);
  });

  it('are refused where they are none', () => {
    expect(readRoman('H', inC)).toBeNull();
    expect(readRoman('Ifoo', inC)).toBeNull();
  });

  it('make up a collection of at least 150 different progressions of 2 to 16 bars', () => {
    const all = collection();
    expect(all.length).toBeGreaterThanOrEqual(150);
    expect(new Set(all.map(({ mode, bars }) => `${mode} ${bars.map((bar) => bar.join(' ')).join(' | ')}`)).size).toBe(
      all.length,
    );
    for (const { bars } of all) {
      expect(bars.length).toBeGreaterThanOrEqual(2);
      expect(bars.length).toBeLessThanOrEqual(16);
    }
  });
});

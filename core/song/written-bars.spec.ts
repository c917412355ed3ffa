import * as fc from 'fast-check';
import { METRES } from '../theory/metre';
import { readDegree } from '../theory/roman';
import { chordSymbol } from '../theory/chord';
import { spanText } from './chord-edit';
import { typeChords } from './chord-typing';
import { writtenBars } from './written-bars';

const bars = (text: string, beats = 4): string =>
  writtenBars(text, beats)
    .map((words) => words.join(' '))
    .join(' | ');

describe('written bars', () => {
  it.each([
    ['C', 'C'],
    ['C / / / | F / G /', 'C / / / | F / G /'],
    ['C / / / G / / /', 'C / / / | G / / /'],
    ['| C | | G |', 'C |  | G'],
    ['||: Am | F :||', 'Am | F | Am | F'],
    ['|: Am | F :| x4', 'Am | F | Am | F | Am | F | Am | F'],
    ['|: Am | F :| (3x) G', 'Am | F | Am | F | Am | F | G'],
    ['|: Am | F :| x1', 'Am | F'],
    ['Am F x2', 'Am F | Am F'],
    ['| Am | F | x2', 'Am | F | Am | F'],
    ['|: C | F |1. G :|2. C |', 'C | F | G | C | F | C'],
    ['| C | % | % |', 'C | C | C'],
    ['|: C :|: G :|', 'C | C | G | G'],
    ['C F :|', 'C F | C F'],
    ['C minor | Bb major', 'C minor | Bb major'],
    ['|C:maj|G:min|', 'C:maj | G:min'],
  ])('%s is %s', (text, written) => {
    expect(bars(text)).toBe(written);
  });

  it('count beats in any metre where strokes do', () => {
    expect(bars('C / / G / /', 3)).toBe('C / / | G / /');
  });

  it('never fail, and say every chord that is written at least once', () => {
    const word = fc.constantFrom('C', 'Am7', '/', '-', '%', '|', '|:', ':|', 'x3', '1.', '2.', '(x2)', 'G/B', 'N.C.');
    fc.assert(
      fc.property(fc.array(word, { maxLength: 20 }), (words) => {
        const written = writtenBars(words.join(' '), 4).flat();
        for (const chord of ['C', 'Am7', 'G/B', 'N.C.'] as const)
          if (words.includes(chord)) expect(written).toContain(chord);
      }),
    );
  });
});

describe('chords typed as degrees', () => {
  const typing = { key: { tonic: 1, scale: 'major' }, metre: METRES[2]!, length: 4 * 1920 };
  const names = (text: string): string =>
    typeChords([], 0, text, typing)
      .map((span) => spanText(span))
      .join(' ');

  it.each([
    ['1 | 5 | 6 | 4', 'G D Em C'],
    ['I | vi | ii7 | V7/V', 'G Em Am7 A7'],
    ['57 | ♭7 | 2m7 | 1maj7', 'D7 F Am7 Gmaj7'],
    ['5/7 | 7 | 1/3 | 4', 'D/F♯ F♯dim G/B C'],
    ['bVII | IV6 | iv | I', 'F C6 Cm G'],
  ])('%s are %s', (text, symbols) => {
    expect(names(text)).toBe(symbols);
  });

  it.each(['8', '0', '12x', '1/9', ''])('%s is none', (text) => {
    expect(readDegree(text, typing.key)).toBeNull();
  });

  it('stay in the key where they say nothing more', () => {
    const minor = [1, 2, 3, 4, 5, 6, 7].map((degree) => readDegree(String(degree), { tonic: 3, scale: 'minor' }));
    expect(minor.map((chord) => chordSymbol(chord!))).toEqual(['Am', 'Bdim', 'C', 'Dm', 'Em', 'F', 'G']);
  });
});

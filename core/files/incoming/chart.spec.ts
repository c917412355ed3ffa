import * as fc from 'fast-check';
import { spanText } from '../../song/chord-edit';
import { metreName } from '../../theory/metre';
import { readChart, type Chart } from './chart';
import { readKeyText } from './chart-lines';

const read = (text: string, writing = {}): Chart => {
  const reading = readChart(text, writing);
  if (!reading.ok) throw new Error(reading.reason);
  return reading.chart;
};
/** Each section as its name, its bars and its chords with the quarter that each begins on. */
const told = ({ sections }: Chart): string[] =>
  sections.map(({ name, bars, chords }) =>
    `${name} ${bars}: ${chords.map((span) => `${span.start / 480} ${spanText(span)}`).join(' ')}`.trim(),
  );

describe('a chord chart', () => {
  it('is read with its title, key, tempo, metre, headings and order', () => {
    const chart = read(`
      Needle in the Wind
      Key: G major   Tempo: 92   3/4

      [Verse 1]
      | G / / | D/F# / / | Em | C - D |
      Snow on the mast and the needle turns
      Chorus x2
      |: C | G :| Am7 | D7 ||
      [Verse 1]
      Coda: G | N.C. |
      D.S. al Fine
    `);
    expect(chart).toMatchObject({ title: 'Needle in the Wind', key: { tonic: 1, scale: 'major' }, tempo: 92 });
    expect(metreName(chart.metre)).toBe('3/4');
    expect(told(chart)).toEqual([
      'Verse 1 4: 0 G 3 D/F♯ 6 Em 9 C 11 D',
      'Chorus 6: 0 C 3 G 6 C 9 G 12 Am7 15 D7',
      'Coda 2: 0 G 3 N.C.',
    ]);
    expect(chart.order).toEqual([0, 1, 1, 0, 2]);
    expect(chart.remarks).toEqual(['Not followed: “D.S. al Fine”.']);
  });

  it('takes a chord a bar where there are no bar lines, and beats where strokes count them', () => {
    expect(told(read('C G Am F'))).toEqual(['4: 0 C 4 G 8 Am 12 F']);
    expect(told(read('C / / / F / G /'))).toEqual(['2: 0 C 4 F 6 G']);
    expect(told(read('Am\nwords that are sung here\nF   G\nand more of them'))).toEqual(['3: 0 Am 4 F 8 G']);
    expect(told(read('[C]Falling [Am]snow\n[F]Over the [G]ridge'))).toEqual(['4: 0 C 4 Am 8 F 12 G']);
  });

  it('goes on over lines: repeats, endings, bars said again, lines played several times', () => {
    expect(told(read('|: Am | F |\n| C |1. G :|2. E7 |\n'))).toEqual(['8: 0 Am 4 F 8 C 12 G 16 Am 20 F 24 C 28 E7']);
    expect(told(read('| C | % | G | x2'))).toEqual(['6: 0 C 4 C 8 G 12 C 16 C 20 G']);
    expect(told(read('Intro (x2)\nC | F\nA: C | G\n[B]\nF | (F) |'))).toEqual([
      'Intro 2: 0 C 4 F',
      'A 2: 0 C 4 G',
      'B 2: 0 F 4 F',
    ]);
  });

  it('takes degrees and numerals in the key that it states, else in C', () => {
    expect(told(read('Key: Bb\nI | vi | ii7 V7 | bVII'))).toEqual(['4: 0 B♭ 4 Gm 8 Cm7 10 F7 12 A♭']);
    expect(told(read('1 | 6 | 4 | b7'))).toEqual(['4: 0 C 4 Am 8 F 12 B♭']);
  });

  it('reads notes by their German names where that is asked', () => {
    expect(told(read('| Em | H7 | Am | Fism7b5 |', { german: true }))).toEqual(['4: 0 Em 4 B7 8 Am 12 F♯m7♭5']);
    expect(read('| H7 | Em | C | G |').remarks[0]).toContain('“H7”');
  });

  it('judges its key by its chords where it does not say it', () => {
    expect(read('| Dm | Gm | A7 | Dm |').key).toMatchObject({ tonic: 2 });
    expect(read('| G | C | D7 | G |')).toMatchObject({ key: { tonic: 1, scale: 'major' }, keyStated: false });
  });

  it('keeps what cannot be read in its place, and says so', () => {
    const chart = read('[Verse]\n| C | Gxq | Am | F |');
    expect(told(chart)).toEqual(['Verse 4: 0 C 4 Gxq 8 Am 12 F']);
    expect(chart.remarks[0]).toMatch(/“Gxq” in Verse could not be read/);
  });

  it.each(['', 'A letter to the crew of the station.\nIt snows again.', '   \n\n'])(
    'is refused in words: %j',
    (text) => {
      expect(readChart(text)).toMatchObject({ ok: false, reason: expect.stringContaining('No chords') as string });
    },
  );

  it.each([
    ['C', 0, 'major'],
    ['c minor', 0, 'minor'],
    ['F#m', 6, 'minor'],
    ['B flat major', -2, 'major'],
    ['E♭ dur', -3, 'major'],
    ['D Dorian', 2, 'dorian'],
  ])('may state the key %s', (text, tonic, scale) => {
    expect(readKeyText(text)).toEqual({ tonic, scale });
  });

  it('covers its bars without gaps, whatever is written', () => {
    const word = fc.constantFrom(
      'C',
      'Am7',
      '/',
      '%',
      '|',
      '|:',
      ':|',
      'x3',
      '\n',
      '[Verse]',
      'Chorus:',
      'snow',
      'N.C.',
      '1.',
      'Key: G',
    );
    fc.assert(
      fc.property(fc.array(word, { maxLength: 30 }), (words) => {
        const reading = readChart(words.join(' '));
        if (!reading.ok) return;
        for (const { bars, chords } of reading.chart.sections) {
          expect(bars).toBeGreaterThan(0);
          chords.forEach(({ start, duration }, index) =>
            expect(start + duration).toBe(chords[index + 1]?.start ?? bars * 1920),
          );
          expect(chords[0]?.start ?? 0).toBe(0);
        }
      }),
    );
  });
});

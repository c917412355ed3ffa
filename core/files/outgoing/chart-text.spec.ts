import * as fc from 'fast-check';
import { chordsIn, layOut, NOTHING_HEARD } from '../../song/resolve';
import { startScore } from '../../styles/band';
import { STYLES } from '../../styles/styles';
import { scoreWith } from '../../testing/scores';
import { musicOf } from '../../testing/sounding';
import { chordMask } from '../../theory/chord';
import { pitchClassOf } from '../../theory/pitch';
import { readChart, type Chart } from '../incoming/chart';
import { chartInto, groundOfChart } from '../incoming/chart-song';
import type { ChordSpan } from '../../song/schema';
import { chordChart } from '../../notation/chord-chart';
import { chartText } from './chart-text';

const [style] = STYLES;
let serial = 0;
const read = (text: string): Chart => {
  const reading = readChart(text);
  if (!reading.ok) throw new Error(reading.reason);
  return reading.chart;
};
/** A song of a chart, as music. */
const songOf = (text: string) => {
  const chart = read(text);
  const started = startScore(chart.title, groundOfChart(chart, style!), style!);
  const made = chartInto({ ...started, sections: [], order: [] }, chart, (kind) => `${kind}-${serial++}`);
  return musicOf(made.score, Object.fromEntries(made.takes.map((take) => [take.id, take])));
};
const sounding = (chords: readonly ChordSpan[]) =>
  chords.map(({ start, duration, chord }) => [
    start,
    duration,
    chord && [chordMask(chord), pitchClassOf(chord.bass ?? chord.root)],
  ]);

describe('a chord chart as text', () => {
  it('is written as people write one', () => {
    const music = songOf(
      'Mast in the Fog\nKey: G\nTempo: 92\n[Verse]\nG / / D/F# | - | C#m7b5 N.C. | Bb\nEm\nChorus x2\n|: C / G / | D :|\nVerse',
    );
    expect(chartText(chordChart(music))).toBe(
      [
        'Mast in the Fog',
        'Key: G major  Tempo: 92  4/4',
        '',
        '[Verse]',
        '| G / / D/F# | - | C#m7b5 N.C. | Bb |',
        '| Em |',
        '',
        '[Chorus] x2',
        '| C G | D | C G | D |',
        '',
        '[Verse]',
        '',
      ].join('\n'),
    );
  });

  it('says what a place has of its own', () => {
    const music = songOf('Mast\nKey: G\nTempo: 92\n[Verse]\nG | D\n[Verse]');
    const [first, second] = music.score.order;
    const score = { ...music.score, order: [first!, { ...second!, lift: 2 }, { ...first!, id: 'third' }] };
    expect(
      chartText(chordChart({ ...music, score }))
        .split('\n')
        .slice(3),
    ).toEqual(['[Verse]', '| G | D |', '', '[Verse] (up by 2)', '| A | E |', '', '[Verse]', '| G | D |', '']);
  });

  it('comes back as the same chords in the same order, whatever was drafted', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 300 }), fc.constantFrom(-3, 0, 2), (seed, tonic) => {
        const { score, takes } = scoreWith(seed, 0, { tonic });
        const music = musicOf(score, takes);
        const chart = read(chartText(chordChart(music)));
        expect(chart.order.map((index) => sounding(chart.sections[index]!.chords))).toEqual(
          layOut(score).map(({ section }) => sounding(chordsIn(section, takes, NOTHING_HEARD))),
        );
        expect(chart).toMatchObject({ title: score.title, keyStated: true, tempo: score.ground.tempo });
      }),
      { numRuns: 60 },
    );
  });
});

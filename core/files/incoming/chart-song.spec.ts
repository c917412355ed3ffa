import { scoreProblem } from '../../song/check';
import { layOut } from '../../song/resolve';
import { startScore } from '../../styles/band';
import { STYLES } from '../../styles/styles';
import { scoreWith } from '../../testing/scores';
import { readChart, type Chart } from './chart';
import { chartInto, chartProblem, groundOfChart } from './chart-song';

let serial = 0;
const newId = (kind: string): string => `${kind}-new-${serial++}`;
const read = (text: string): Chart => {
  const reading = readChart(text);
  if (!reading.ok) throw new Error(reading.reason);
  return reading.chart;
};
const CHART = read('Mast\nKey: Em\nTempo: 88\n3/4\n[Verse]\nEm | C | G | D\nRefrain x2\nAm | B7');
const [style] = STYLES;

describe('a chart as a song', () => {
  it('has its sections, its order and its ground, and opens', () => {
    const started = startScore('Mast', groundOfChart(CHART, style!), style!, newId);
    const made = chartInto({ ...started, sections: [], order: [] }, CHART, newId);
    expect(made.score.ground).toMatchObject({ tonic: 4, scale: 'minor', tempo: 88 });
    expect(layOut(made.score).map(({ section }) => `${section.name} ${section.kind} ${section.bars}`)).toEqual([
      'Verse verse 4',
      'Refrain chorus 2',
      'Refrain chorus 2',
    ]);
    // What is the song's own is said once.
    expect(made.score.sections.every(({ ground }) => Object.keys(ground).length === 0)).toBe(true);
    expect(made.takes.map((take) => take.of === 'harmony' && take.chords.length)).toEqual([4, 2]);
    expect(scoreProblem(made.score, Object.fromEntries(made.takes.map((take) => [take.id, take])))).toBeNull();
    expect(made.score.parts).toHaveLength(style!.band.length);
  });

  it('goes to the end of the song that is there, in its own key and metre', () => {
    const { score, takes } = scoreWith(1, 0);
    const made = chartInto(score, CHART, newId);
    expect(made.score.sections.slice(0, score.sections.length)).toEqual(score.sections);
    expect(made.score.sections.at(-1)!.ground).toMatchObject({ tonic: 4, scale: 'minor', tempo: 88 });
    const all = { ...takes, ...Object.fromEntries(made.takes.map((take) => [take.id, take])) };
    expect(scoreProblem(made.score, all)).toBeNull();
    // A section of that name is there already.
    expect(made.score.sections.map(({ name }) => name)).toContain('Verse 2');
  });

  it('is told where there is no room for it', () => {
    const { score } = scoreWith(1, 0);
    expect(chartProblem(score, CHART)).toBeNull();
    const full = {
      ...score,
      sections: Array.from({ length: 63 }, (_, index) => ({ ...score.sections[0]!, id: `${index}` })),
    };
    expect(chartProblem(full, CHART)).toMatch(/room for 1 in \d+.*song of its own/);
  });
});

import { layOut } from '@fendro/core/song/resolve';
import { SMALL, viewOf } from '../testing/view';
import { TempoStrip } from './tempo-strip';

const [place] = layOut(SMALL.score);
const drawn = (values: readonly number[]) => ({
  ...SMALL.score,
  sections: SMALL.score.sections.map((section) =>
    section.id === place!.section.id
      ? { ...section, tempos: values.map((value, index) => ({ at: index * place!.length, value })) }
      : section,
  ),
});
const strip = (score = SMALL.score) => {
  const view = viewOf(TempoStrip, { score, inputs: { place: layOut(score)[0]! } });
  return view.by.getByRole('slider', { name: `Tempo of ${place!.section.name}` });
};

describe('the tempo over a section', () => {
  const own = SMALL.score.ground.tempo;

  it('is told in beats a minute, steady or from where to where', () => {
    expect(strip().getAttribute('aria-valuetext')).toBe(`${own} beats a minute`);
    expect(strip(drawn([100, 50])).getAttribute('aria-valuetext')).toBe(
      `${own} beats a minute to ${own / 2} beats a minute`,
    );
  });
});

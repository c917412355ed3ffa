import { TestBed } from '@angular/core/testing';
import { fireEvent } from '@testing-library/dom';
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

  it('goes up by as many steps as keys come, however quickly', () => {
    const risen = (...keys: readonly string[]): number => {
      TestBed.resetTestingModule();
      const view = viewOf(TempoStrip, { inputs: { place: layOut(SMALL.score)[0]! } });
      const target = view.by.getByRole('slider', { name: `Tempo of ${place!.section.name}` });
      view.act(() => keys.forEach((key) => fireEvent.keyDown(target, { key })));
      return view.score.sections[0]!.tempos![0]!.value - 100;
    };
    const one = risen('ArrowUp');
    expect(one).toBeGreaterThan(0);
    expect(Math.abs(risen('ArrowUp', 'ArrowUp', 'ArrowUp') - 3 * one)).toBeLessThanOrEqual(2);
  });
});

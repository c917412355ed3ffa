import { homeMetre, layFigure } from './figure';
import { INSTRUMENTS } from '../sounding/instruments';
import { ROLES } from '../song/schema';
import { barTicks, METRES, metreName } from '../theory/metre';
import { groundFor, newPart, startScore } from './band';
import { styleSchema } from '../song/style';
import { STYLES, styleOf } from './styles';

describe('styles', () => {
  it('come from six families, one of them in three and one in six', () => {
    expect(new Set(STYLES.map(({ family }) => family)).size).toBeGreaterThanOrEqual(6);
    expect(STYLES.map(({ metres }) => metres[0])).toEqual(expect.arrayContaining(['3/4', '6/8', '4/4']));
  });

  it.each(STYLES.map((style) => [style.name, style] as const))(
    '%s satisfies the schema and its figures fill their bars',
    (_name, style) => {
      expect(styleSchema.safeParse(style).error).toBeUndefined();
      const steps = barTicks(homeMetre(style.metres[0]!)) / 120;
      const figures = [...style.comping, ...style.bass]
        .map(({ steps: text }) => text)
        .concat(...[...style.grooves, ...style.fills].map(({ voices }) => Object.values(voices)));
      for (const figure of figures) for (const bar of figure.split('|')) expect(bar).toHaveLength(steps);
      for (const { instrument } of style.band) expect(INSTRUMENTS.map(({ id }) => id)).toContain(instrument);
    },
  );

  it.each(STYLES.map((style) => [style.name, style] as const))('%s brings figures enough', (_name, style) => {
    expect(style.comping.length + (style.strums?.length ?? 0)).toBeGreaterThanOrEqual(3);
    expect(style.bass.length).toBeGreaterThanOrEqual(3);
    expect(style.grooves.length).toBeGreaterThanOrEqual(2);
    expect(style.fills.length).toBeGreaterThanOrEqual(4);
    expect(new Set(style.fills.map(({ name }) => name)).size).toBe(style.fills.length);
  });

  it('keep every part in what its instrument can play', () => {
    for (const style of STYLES) {
      for (const part of startScore('x', groundFor(style, { tonic: 0, scale: 'major' }), style).parts) {
        const instrument = INSTRUMENTS.find(({ id }) => id === part.instrument)!;
        expect(part.brief.low).toBeGreaterThanOrEqual(instrument.low);
        expect(part.brief.high).toBeLessThanOrEqual(instrument.high);
      }
      for (const role of ROLES) expect(newPart(style, role, 'p', 11)).toMatchObject({ role, colour: 1 });
    }
    expect(styleOf('nothing of the kind').id).toBe(STYLES[0]!.id);
  });

  it('carry figures to every metre by what each beat does', () => {
    const figure = 'x.......X.......';
    for (const metre of METRES) {
      const laid = layFigure(figure, homeMetre('4/4'), metre, 0);
      expect(laid[0]).toEqual({ at: 0, symbol: 'x' });
      for (const { at } of laid) expect(at).toBeLessThan(barTicks(metre));
    }
    const back = layFigure(
      '....x.......x...',
      homeMetre('4/4'),
      METRES.find((metre) => metreName(metre) === '6/8')!,
      0,
    );
    expect(back).toEqual([{ at: 720, symbol: 'x' }]);
  });
});

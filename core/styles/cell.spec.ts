import * as fc from 'fast-check';
import { barTicks, METRES } from '../theory/metre';
import { layCell } from './cell';
import { COMMON_CELLS } from './common-figures';
import { homeMetre } from './figure';
import { STYLES } from './styles';

const common = homeMetre('4/4');

describe('cells of melodies', () => {
  it('cut each beat into as many parts as it has signs', () => {
    expect(layCell('x-.x-xxx-x..x', common, common)).toEqual([[0, 720, 960, 1120, 1280, 1440, 1800]]);
    expect(layCell('x-.-.-.|.-x-.-xx', common, common)).toEqual([[0], [480, 1440, 1680]]);
    const six = homeMetre('6/8');
    expect(layCell('x.x-xxxxxx', six, six)).toEqual([[0, 480, 720, 840, 960, 1080, 1200, 1320]]);
  });

  it('keep back beats back beats in another metre, and swing the halves of a compound beat', () => {
    const three = homeMetre('3/4');
    expect(layCell('x-xx-x-xxxx', common, three)).toEqual([[0, 480, 720, 960, 1200]]);
    const six = homeMetre('6/8');
    expect(layCell('xx-x-.-.', common, six)).toEqual([[0, 480, 720]]);
  });

  it('of every style lie in every metre, inside the bar and rising', () => {
    const cells = [
      ...COMMON_CELLS.map(({ steps }) => ({ steps, home: common })),
      ...STYLES.flatMap(({ melody = [], metres }) =>
        melody.map(({ steps }) => ({ steps, home: homeMetre(metres[0] ?? '4/4') })),
      ),
    ];
    fc.assert(
      fc.property(fc.constantFrom(...cells), fc.constantFrom(...METRES), ({ steps, home }, metre) => {
        for (const bar of layCell(steps, home, metre)) {
          expect(bar.every((at) => at >= 0 && at < barTicks(metre))).toBe(true);
          expect(bar).toEqual([...new Set(bar)].sort((a, b) => a - b));
        }
      }),
    );
  });

  it('have as many beats as their style’s home bar', () => {
    for (const { id, melody = [], metres } of STYLES)
      for (const { name, steps } of melody)
        for (const bar of steps.split('|'))
          expect([id, name, bar.split('-').length]).toEqual([
            id,
            name,
            { '4/4': 4, '6/8': 2, '12/8': 4, '2/4': 2, '3/4': 3 }[metres[0] ?? ''],
          ]);
  });
});

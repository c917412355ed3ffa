import type { PartTake, Verdict } from '../song/schema';
import { looseTake } from '../song/take';
import { inTakeOrder, TAKE_ORDERS } from './take-order';

const BAR = 1920;
const take = (id: string, pitches: readonly number[], step = 480): PartTake =>
  looseTake(
    { id, section: 's', length: 4 * BAR },
    'p',
    pitches.map((pitch, index) => ({ start: index * step, duration: 200, pitch, velocity: 80 })),
    { how: 'edited' },
  );
const low = take('low', [48, 50, 52]);
const busy = take('busy', [60, 62, 64, 65, 67, 69, 71, 72], 240);
const nearly = take('nearly', [60, 62, 64, 65, 67, 69, 72, 72], 240);
const high = take('high', [80, 82, 84, 86]);
const all = [busy, low, high, nearly];
const verdicts: Readonly<Record<string, Verdict>> = { busy: 'discarded', high: 'kept' };
const ids = (order: (typeof TAKE_ORDERS)[number], like: PartTake | null = null): string[] =>
  inTakeOrder(all, order, { bar: BAR, verdictOf: ({ id }) => verdicts[id] ?? null, like }).map(({ id }) => id);

describe('the order of takes', () => {
  it('goes by verdict, busyness, register or likeness, and leaves the rest as it was', () => {
    expect(ids('as drafted')).toEqual(['busy', 'low', 'high', 'nearly']);
    expect(ids('kept first')).toEqual(['high', 'low', 'nearly', 'busy']);
    expect(ids('sparse to busy')).toEqual(['low', 'high', 'busy', 'nearly']);
    expect(ids('low to high')).toEqual(['low', 'busy', 'nearly', 'high']);
    expect(ids('like one', busy).slice(0, 2)).toEqual(['busy', 'nearly']);
    expect(ids('like one')).toEqual(ids('as drafted'));
  });

  it('never loses a take, whichever it is', () => {
    for (const order of TAKE_ORDERS) expect(ids(order, high).sort()).toEqual(all.map(({ id }) => id).sort());
  });
});

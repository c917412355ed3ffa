import type { Note, TakeNote } from '../song/schema';
import { NOTHING_HELD, type Held, type HeldStroke } from './held';
import { laidOver } from './held-bars';

const bar = 1920;
const note = (start: number, pitch: number, duration = 480, velocity = 80): Note => ({
  start,
  duration,
  pitch,
  velocity,
});
const stroke = (notes: readonly Note[], held: Partial<HeldStroke> = {}): HeldStroke => ({
  notes: notes.map((own, id): TakeNote => ({ ...own, id })),
  rhythm: true,
  pitch: true,
  dynamics: true,
  ...held,
});
const over = (drafted: readonly Note[], held: Partial<Held>): Note[] =>
  laidOver(drafted, { held: { ...NOTHING_HELD, ...held }, barTicks: bar });
const oneBar = (of: number, strokes: readonly HeldStroke[], rings = of * bar): Partial<Held> => ({
  bars: new Map([[of, { strokes, rings }]]),
});

describe('held bars of accompaniment and drums', () => {
  const drafted = [note(0, 60, 3 * bar), note(bar, 64), note(bar + 480, 67), note(2 * bar, 65)];

  it('are laid over what was drafted, which ends where they begin, or where what sounded into them ended', () => {
    const held = stroke([note(bar, 50)]);
    expect(over(drafted, oneBar(1, [held]))).toEqual([note(0, 60, bar), held.notes[0], note(2 * bar, 65)]);
    expect(over(drafted, oneBar(1, [held], bar + 240))[0]).toEqual(note(0, 60, bar + 240));
    expect(over(drafted, {})).toEqual(drafted);
    expect(over(drafted, oneBar(1, []))).toEqual([note(0, 60, bar), note(2 * bar, 65)]);
  });

  it('whose rhythm alone is held strike in it what was drawn, as loud as they were where that is held too', () => {
    const places = [stroke([note(bar + 960, 50, 120, 99), note(bar + 960, 55, 120, 90)], { pitch: false })];
    const [first, struck, last] = over(drafted, oneBar(1, places));
    expect([first!.pitch, last!.pitch]).toEqual([60, 65]);
    expect(struck).toEqual({ ...note(bar + 960, 67, 120, 99) });
  });

  it('whose rhythm alone is free give new strokes what they had at the time', () => {
    const had = [
      stroke([note(bar, 50, 480, 70), note(bar, 53, 480, 60)], { rhythm: false }),
      stroke([note(bar + 240, 52, 480, 100)], { rhythm: false, dynamics: false }),
    ];
    const inIt = over(drafted, oneBar(1, had)).filter(({ start }) => start >= bar && start < 2 * bar);
    expect(inIt).toEqual([
      { ...note(bar, 50, 480, 70), id: 0 },
      { ...note(bar, 53, 480, 60), id: 1 },
      { ...note(bar + 480, 52, 480, 80), id: 0 },
    ]);
  });

  it('and single notes that are held leave no room for drawn ones on their pitch while they sound', () => {
    const held = stroke([note(480, 64, 960)]);
    const around = [note(240, 64), note(720, 64), note(720, 67), note(1440, 64)];
    expect(over(around, { strokes: [held] })).toEqual([
      note(240, 64, 240),
      held.notes[0],
      note(720, 67),
      note(1440, 64),
    ]);
  });
});

import * as fc from 'fast-check';
import { tempoMap } from '../sounding/tempo-map';
import {
  clockFollowed,
  ledTempo,
  positionOf,
  PULSE_TICKS,
  pulsesIn,
  tickOfPosition,
  UNLED,
  type Followed,
} from './midi-clock';

describe('the clock that is given', () => {
  it('has 24 pulses a quarter and does not drift in five minutes, through changes of tempo', () => {
    const tempo = tempoMap([
      { start: 0, end: 96_000, tempo: 117.3 },
      { start: 96_000, end: 300_000, tempo: 93.7 },
    ]);
    // It is given bit by bit, as it is queued.
    const all: { tick: number; at: number }[] = [];
    let from = 0;
    while (tempo.secondsAt(from) < 300) {
      const to = from + 1920;
      all.push(...pulsesIn({ from, to }, tempo, 1000 * tempo.secondsAt(from)));
      from = to;
    }
    expect(all).toHaveLength(from / PULSE_TICKS);
    all.forEach(({ tick, at }, index) => {
      expect(tick).toBe(index * PULSE_TICKS);
      expect(Math.abs(at - 1000 * tempo.secondsAt(tick))).toBeLessThan(0.001);
    });
  });

  it('meets whatever it is cut into', () => {
    const tempo = tempoMap([{ start: 0, end: 1e6, tempo: 100 }]);
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 3000 }), { minLength: 1, maxLength: 20 }), (cuts) => {
        let from = 0;
        const ticks = cuts.flatMap((length) => {
          const found = pulsesIn({ from, to: from + length }, tempo, 0).map(({ tick }) => tick);
          from += length;
          return found;
        });
        expect(ticks).toEqual(pulsesIn({ from: 0, to: from }, tempo, 0).map(({ tick }) => tick));
      }),
    );
  });
});

describe('the clock that is followed', () => {
  const pulsed = (clock: Followed, tempo: number, count: number, from = 0, jitter = 0): Followed =>
    Array.from({ length: count }, (_, index) => index).reduce(
      (now, index) =>
        clockFollowed(now, { says: 'clock' }, from + (index * 60_000) / (tempo * 24) + ((index * 7) % 5) * jitter),
      clock,
    );

  it('gives its tempo, however its pulses tremble', () => {
    fc.assert(
      fc.property(fc.integer({ min: 40, max: 240 }), fc.constantFrom(0, 0.2), (tempo, jitter) => {
        expect(Math.abs(ledTempo(pulsed(UNLED, tempo, 60, 0, jitter))! - tempo)).toBeLessThan(tempo / 200);
      }),
    );
    expect(ledTempo(pulsed(UNLED, 120, 6))).toBeNull();
  });

  it('counts from the start, from a place that is told, and stands while it is stopped', () => {
    const started = pulsed(clockFollowed(UNLED, { says: 'start' }, 0), 120, 48);
    expect(started.pulses * PULSE_TICKS).toBe(960);
    const stopped = pulsed(clockFollowed(started, { says: 'stop' }, 0), 120, 10);
    expect(stopped.pulses).toBe(started.pulses);
    const placed = clockFollowed(stopped, { says: 'position', sixteenths: positionOf(7680) }, 0);
    expect(clockFollowed(placed, { says: 'continue' }, 0)).toMatchObject({ running: true, pulses: 7680 / PULSE_TICKS });
    expect(tickOfPosition(positionOf(7700))).toBe(7680);
  });

  it('begins anew after a silence', () => {
    const once = pulsed(UNLED, 120, 60);
    const again = pulsed(once, 90, 60, 10_000);
    expect(Math.abs(ledTempo(again)! - 90)).toBeLessThan(0.5);
  });
});

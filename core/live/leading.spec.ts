import * as fc from 'fast-check';
import { stream } from '../trellis/random';
import { leaderOf, leaderTick, leaderTime, meetingTempo } from './leader';
import { clockFollowed, PULSE_TICKS, PULSES, UNLED, type Followed } from './midi-clock';
import { writeMessage, readMessage } from './midi-message';
import { NOTHING_CAME, placeHeard, studioHeard, tempoHeard, type StudioHeard } from './studio';

/** A clock that began at a moment and has given so many pulses, which tremble by up to so many ms. */
function given(tempo: number, count: number, zero: number, trembles = 0): Followed {
  const roll = stream(count, 'clock');
  let clock = clockFollowed(UNLED, { says: 'start' }, zero);
  for (let pulse = 0; pulse < count; pulse++)
    clock = clockFollowed(
      clock,
      { says: 'clock' },
      zero + (pulse * 60_000) / (tempo * PULSES) + trembles * roll.next(),
    );
  return clock;
}

describe('another’s clock', () => {
  const tempos = fc.double({ min: 40, max: 240, noNaN: true });

  it('is a straight line through its last pulses, wherever one asks', () => {
    fc.assert(
      fc.property(tempos, fc.integer({ min: 30, max: 400 }), (tempo, count) => {
        const leader = leaderOf(given(tempo, count, 1000))!;
        const ms = 60_000 / (tempo * PULSES);
        expect(leaderTick(leader, 1000 + (count - 1) * ms)).toBeCloseTo((count - 1) * PULSE_TICKS, 3);
        expect(leaderTime(leader, count * PULSE_TICKS)).toBeCloseTo(1000 + count * ms, 3);
      }),
    );
    expect(leaderOf(given(100, 3, 0))).toBeNull();
    expect(leaderOf({ ...given(100, 100, 0), running: false })).toBeNull();
  });

  it('is met where each stretch ends, so that music follows it for five minutes within 2 ms, though it trembles', () => {
    const [tempo, trembles] = [113.7, 2];
    const pulse = 60_000 / (tempo * PULSES);
    const length = 2 * 1920;
    let [from, at] = [0, 1000.4];
    for (let seconds = 0; seconds < 300; seconds = at / 1000) {
      // The tempo is asked for while the stretch before is heard.
      const count = Math.max(40, Math.floor((at - 1000) / pulse) - 30);
      const meets = meetingTempo(leaderOf(given(tempo, count, 1000, trembles))!, from, length, at)!;
      at += (60_000 * length) / (meets * 480);
      from += length;
      const true_ = 1000 + trembles / 2 + (from / PULSE_TICKS) * pulse;
      if (from > 4 * length) expect(Math.abs(at - true_)).toBeLessThan(2);
    }
    expect(from).toBeGreaterThan(250_000);
  });

  it('is joined anew where it is too far away to hurry after', () => {
    const leader = leaderOf(given(120, 100, 0))!;
    const here = leaderTime(leader, 4800);
    expect(meetingTempo(leader, 4800, 1920, here)).toBeCloseTo(120, 6);
    expect(meetingTempo(leader, 4800, 1920, here + 40)).toBeGreaterThan(120);
    expect(meetingTempo(leader, 4800, 1920, here + 1000)).toBeNull();
    expect(meetingTempo(leader, 4800, 1920, here + 100_000)).toBeNull();
  });
});

describe('a studio', () => {
  const hear = (heard: StudioHeard, bytes: readonly number[], at: number, tempo = 120): StudioHeard =>
    studioHeard(heard, readMessage(bytes)!, at, tempo);

  it('shows the notes of each channel, and which of them sound', () => {
    let heard = hear(NOTHING_CAME, writeMessage({ says: 'program', channel: 3, program: 25 }), 0);
    for (const pitch of [48, 60])
      heard = hear(heard, writeMessage({ says: 'note on', channel: 3, pitch, velocity: 9 }), 0);
    heard = hear(heard, writeMessage({ says: 'note off', channel: 3, pitch: 48 }), 5);
    heard = hear(heard, writeMessage({ says: 'control', channel: 4, controller: 7, value: 9 }), 5);
    expect([...heard.channels]).toEqual([[3, { program: 25, struck: 2, low: 48, high: 60, sounding: new Set([60]) }]]);
  });

  it('holds a clock against its own tempo, and tells where it is', () => {
    let heard = hear(NOTHING_CAME, writeMessage({ says: 'position', sixteenths: 32 }), 0);
    heard = hear(heard, writeMessage({ says: 'continue' }), 0);
    for (let pulse = 0; pulse <= 6 * PULSES; pulse++)
      heard = hear(heard, writeMessage({ says: 'clock' }), (pulse * 500) / PULSES + (pulse === 50 ? 0.75 : 0));
    expect(heard.furthest).toBeCloseTo(0.75, 6);
    expect(heard.drift).toBeCloseTo(0, 6);
    expect(tempoHeard(heard)).toBeCloseTo(120, 1);
    expect(placeHeard(heard)).toEqual({ bar: 4, beat: 3 });
    heard = hear(heard, writeMessage({ says: 'stop' }), 4000);
    expect(placeHeard(hear(heard, writeMessage({ says: 'clock' }), 4100))).toEqual({ bar: 4, beat: 3 });
    expect(hear(heard, writeMessage({ says: 'start' }), 5000).furthest).toBe(0);
  });
});

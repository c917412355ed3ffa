import { TestBed } from '@angular/core/testing';
import { placeHeard } from '@fendro/core/live/studio';
import type { SimulatedIn } from '../../devices/simulated/simulated-in';
import { Notices } from '../../store/notices';
import { studio } from '../../testing/studio';
import { ClockFollower } from './clock-follower';
import { ClockSender } from './clock-sender';

beforeEach(() => {
  jest.useFakeTimers();
});
afterEach(() => {
  jest.useRealTimers();
});

describe('the clock that goes out', () => {
  it('stays within 1 ms of a studio for five minutes, 24 pulses a quarter', () => {
    const { uses, heard, play, stop, came } = studio();
    TestBed.inject(ClockSender);
    uses.change('Grey studio', { clocked: true });
    play(117);
    jest.advanceTimersByTime(300_000);
    stop();
    const { furthest, clock } = heard(117);
    expect(furthest).toBeLessThan(1);
    expect(clock.running).toBe(false);
    const pulses = came.filter(({ message }) => message.says === 'clock').length;
    expect(Math.abs(pulses - 5 * 117 * 24)).toBeLessThan(10);
    expect(came.slice(0, 2).map(({ message }) => message.says)).toEqual(['position', 'start']);
    // Nothing is sent long before it is meant.
    expect(Math.max(...came.map(({ at }) => at - performance.now()))).toBeLessThan(200);
  });

  it('tells where music begins that begins elsewhere, at the next sixteenth, and goes to nobody who did not ask', () => {
    const { uses, heard, play, came, there } = studio();
    TestBed.inject(ClockSender);
    play(120, 1930);
    jest.advanceTimersByTime(100);
    expect(came).toEqual([]);
    uses.change('Grey studio', { clocked: true });
    TestBed.tick();
    play(120, 1930);
    jest.advanceTimersByTime(1000);
    expect(came[0]!.message).toEqual({ says: 'position', sixteenths: 17 });
    expect(came[1]!.message).toEqual({ says: 'continue' });
    expect(placeHeard(heard(120)).bar).toBe(2);
    there.set(false);
    TestBed.tick();
    const count = came.length;
    jest.advanceTimersByTime(1000);
    expect(came.slice(count).map(({ message }) => message.says)).toEqual([]);
  });
});

describe('the clock that comes in', () => {
  const lead = (input: SimulatedIn, tempo: number, count: number): void => {
    for (let pulse = 0; pulse < count; pulse++) {
      input.say({ says: 'clock' });
      jest.advanceTimersByTime(60_000 / (tempo * 24));
    }
  };

  it('begins the music where it is, leads its tempo, and stops it', async () => {
    const { input, uses, playback } = studio();
    uses.change('Grey studio', { leads: true });
    input.say({ says: 'position', sixteenths: 64 });
    input.say({ says: 'continue' });
    lead(input, 125, 48);
    await Promise.resolve();
    expect(playback.playWith).toHaveBeenCalledTimes(1);
    const [pace] = playback.playWith.mock.lastCall!;
    expect(pace.tempo()).toBeCloseTo(125, 3);
    const now = performance.now();
    expect(pace.tickAt(now)).toBeCloseTo(64 * 120 + 960, 0);
    expect(pace.tempoFor(64 * 120 + 960, 1920, now)).toBeCloseTo(125, 1);
    expect(TestBed.inject(ClockFollower).led()).toEqual({ device: 'Grey studio', tempo: 125 });
    expect(TestBed.inject(Notices).open()[0]!.text).toMatch(/^Grey studio leads/);
    input.say({ says: 'stop' });
    expect(playback.stop).toHaveBeenCalledTimes(1);
    expect(TestBed.inject(ClockFollower).led()).toBeNull();
  });

  it('leads nothing any more when it is pulled out; the music goes on', () => {
    const { input, uses, playback, there } = studio();
    uses.change('Grey studio', { leads: true });
    input.say({ says: 'start' });
    lead(input, 125, 48);
    expect(TestBed.inject(ClockFollower).led()).not.toBeNull();
    there.set(false);
    TestBed.tick();
    expect(TestBed.inject(ClockFollower).led()).toBeNull();
    expect(playback.stop).not.toHaveBeenCalled();
  });

  it('joins it anew where it jumps, follows one device only, and none that was not asked to lead', () => {
    const { input, uses, playback } = studio();
    input.say({ says: 'start' });
    lead(input, 125, 48);
    expect(playback.playWith).not.toHaveBeenCalled();
    uses.change('Other box', { leads: true });
    uses.change('Grey studio', { leads: true });
    expect(uses.of('Other box').leads).toBe(false);
    input.say({ says: 'start' });
    lead(input, 125, 48);
    input.say({ says: 'position', sixteenths: 0 });
    lead(input, 125, 4);
    expect(playback.playWith).toHaveBeenCalledTimes(2);
  });
});

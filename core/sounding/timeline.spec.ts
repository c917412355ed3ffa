import * as fc from 'fast-check';
import { NOTHING_HEARD, songTicks } from '../song/resolve';
import { METRES } from '../theory/metre';
import { scoreWith } from '../testing/scores';
import { channelsOf, DRUM_CHANNEL, panController } from './channels';
import { INSTRUMENTS, instrumentOf, instrumentsFor } from './instruments';
import { groundAt, secondsPerTick, secondsTo } from './tempo';
import { clicks, swung, timeline, withoutOverlaps } from './timeline';

const wholeSpan = (score: ReturnType<typeof scoreWith>['score']) => ({ from: 0, to: songTicks(score) });

describe('the timeline', () => {
  it('gives the same notes in two neighbouring windows as in one', () => {
    fc.assert(
      fc.property(
        fc.integer(),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.integer({ min: 0, max: 100 }),
        (seed, share, swing) => {
          const { score, takes } = scoreWith(seed, swing);
          const { from, to } = wholeSpan(score);
          const cut = Math.round(from + (to - from) * share);
          const whole = timeline(score, takes, NOTHING_HEARD, { from, to }).notes;
          const parts = [
            ...timeline(score, takes, NOTHING_HEARD, { from, to: cut }).notes,
            ...timeline(score, takes, NOTHING_HEARD, { from: cut, to }).notes,
          ];
          expect(parts).toEqual(whole);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('tells which notes still sound when a window begins', () => {
    fc.assert(
      fc.property(fc.integer(), fc.double({ min: 0, max: 1, noNaN: true }), (seed, share) => {
        const { score, takes } = scoreWith(seed, 0);
        const { from, to } = wholeSpan(score);
        const cut = Math.round(from + (to - from) * share);
        const expected = timeline(score, takes, NOTHING_HEARD, { from, to }).notes.filter(
          ({ start, end }) => start < cut && end > cut,
        );
        const chase = timeline(score, takes, NOTHING_HEARD, { from: cut, to }).chase;
        expect(new Set(chase.map((note) => JSON.stringify(note)))).toEqual(
          new Set(expected.map((note) => JSON.stringify(note))),
        );
      }),
      { numRuns: 60 },
    );
  });

  it('sounds a heard take in place of the chosen one, only in its section', () => {
    const { score, takes } = scoreWith(1, 0);
    const section = score.sections[0]!;
    const part = score.parts[0]!;
    const other = Object.values(takes).find(
      (take) => take.of === 'part' && take.part === part.id && take.id !== section.chosen[part.id],
    )!;
    const heard = { [section.id]: { [part.id]: other.id } };
    const sounding = timeline(score, takes, heard, wholeSpan(score)).notes.filter(
      (note) => note.part === part.id && note.start < 3840,
    );
    expect(sounding.map(({ pitch }) => pitch)).toEqual(
      other.of === 'part' ? other.notes.map(({ pitch }) => pitch) : [],
    );
  });

  it('lets a pick-up silence what came before it, and a last note ring for a bar at most', () => {
    const { score, takes } = scoreWith(1, 0);
    const part = score.parts[0]!.id;
    const section = score.sections[0]!;
    const own = {
      id: 'own',
      of: 'part' as const,
      part,
      section: section.id,
      length: 3840,
      origin: { how: 'drafted' as const, asking: null, seed: 0, attempt: 0, parents: [] },
      notes: [
        { start: -240, duration: 240, pitch: 70, velocity: 90 },
        { start: 0, duration: 480, pitch: 72, velocity: 90 },
        { start: 3360, duration: 9000, pitch: 74, velocity: 90 },
      ],
    };
    const alone = {
      ...score,
      order: [
        { id: 'a', section: section.id },
        { id: 'b', section: section.id },
      ],
      sections: [{ ...section, chosen: { [part]: 'own' } }],
    };
    const notes = timeline(alone, { ...takes, own }, NOTHING_HEARD, { from: 0, to: 7680 }).notes;
    expect(notes.map(({ start, end }) => [start, end])).toEqual([
      [0, 480],
      [3360, 3600],
      [3600, 3840],
      [3840, 4320],
      [7200, 9600],
    ]);
  });

  it('clips a take that is longer than its shortened section', () => {
    const { score, takes } = scoreWith(3, 0);
    const short = {
      ...score,
      sections: score.sections.map((section) => ({ ...section, bars: 1 })),
      order: score.order.slice(0, 1),
    };
    for (const { start } of timeline(short, takes, NOTHING_HEARD, { from: 0, to: 99_999 }).notes)
      expect(start).toBeLessThan(1920);
  });

  it('ends every note before the same one starts again', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            start: fc.integer({ min: 0, max: 500 }),
            length: fc.integer({ min: 1, max: 300 }),
            pitch: fc.integer({ min: 60, max: 62 }),
          }),
        ),
        (raw) => {
          const notes = raw
            .map(({ start, length, pitch }) => ({ part: 'p', start, end: start + length, pitch, velocity: 80 }))
            .sort((a, b) => a.start - b.start);
          const result = withoutOverlaps(notes);
          for (const one of result)
            for (const other of result)
              if (one !== other && one.pitch === other.pitch)
                expect(one.end <= other.start || other.end <= one.start).toBe(true);
        },
      ),
    );
  });
});

describe('swing', () => {
  it('keeps beats, order and positive lengths, and reaches the triplet at 100 %', () => {
    const metre = METRES[2]!;
    fc.assert(
      fc.property(fc.integer({ min: -2000, max: 8000 }), fc.integer({ min: 0, max: 100 }), (at, swing) => {
        expect(swung(at + 1, swing, metre)).toBeGreaterThanOrEqual(swung(at, swing, metre));
        expect(swung(at * 480, swing, metre)).toBe(at * 480);
      }),
    );
    expect(swung(240, 100, metre)).toBe(320);
    expect(swung(240, 0, metre)).toBe(240);
    expect(swung(240, 100, METRES[4]!)).toBe(240);
  });
});

describe('channels, instruments and clicks', () => {
  it('puts drums on channel 10 and nothing else there', () => {
    const { score } = scoreWith(2, 0);
    const channels = channelsOf(score);
    for (const part of score.parts) expect(channels.get(part.id) === DRUM_CHANNEL).toBe(part.role === 'drums');
    expect(panController(-100)).toBe(1);
    expect(panController(0)).toBe(64);
    expect(panController(100)).toBe(127);
  });

  it('knows a sound for every role and falls back to the piano', () => {
    expect(new Set(INSTRUMENTS.map(({ id }) => id)).size).toBe(INSTRUMENTS.length);
    expect(instrumentsFor('drums').every(({ family }) => family === 'drums')).toBe(true);
    expect(instrumentsFor('bass').some(({ family }) => family === 'drums')).toBe(false);
    expect(instrumentOf('unheard-of').id).toBe('grand-piano');
  });

  it('clicks the beats of a span, the bar lines strong', () => {
    const { score } = scoreWith(2, 0);
    expect(clicks(score, { from: 480, to: 2400 }).map(({ at, strong }) => [at, strong])).toEqual([
      [480, false],
      [960, false],
      [1440, false],
      [1920, true],
    ]);
    expect(secondsPerTick(120) * 480).toBeCloseTo(0.5);
  });

  it('follows sections that stand on ground of their own', () => {
    const { score } = scoreWith(2, 0);
    const [first, second] = score.sections;
    const waltz = {
      ...score,
      sections: [first!, { ...second!, ground: { tempo: score.ground.tempo * 2, metre: METRES[1]! } }],
    };
    expect(songTicks(waltz)).toBe(3840 + 2880 + 3840);
    expect(clicks(waltz, { from: 3840, to: 3840 + 1440 }).map(({ strong }) => strong)).toEqual([true, false, false]);
    expect(groundAt(waltz, 3839).tempo).toBe(score.ground.tempo);
    expect(groundAt(waltz, 3840).tempo).toBe(score.ground.tempo * 2);
    expect(secondsTo(waltz, songTicks(waltz))).toBeCloseTo((7680 + 1440) * secondsPerTick(score.ground.tempo));
  });
});

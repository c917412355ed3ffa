import * as fc from 'fast-check';
import type { ChordSpan, OccurrenceId, SectionId } from '../song/schema';
import { swung } from '../sounding/groove';
import { readChord } from '../theory/read-chord';
import { chordSymbol, type Chord } from '../theory/chord';

import { begun, over, REMEMBERED_SECONDS, since, type Captured, type PlayedNote } from './capture';
import { foundPulse } from './pulse';
import { chordsPlayed, freelyPlaced, roundsOf, writtenRound, type RoundNote } from './rounds';

const SECTION = 'verse' as SectionId;
const PLACE = 'place' as OccurrenceId;
const BAR = 1920;
const METRE = { beats: 4, unit: 4, groups: [2, 2] } as const;
const ROOM = { from: 0, to: 2 * BAR, low: 0, high: 127 };

const chord = (text: string): Chord => {
  const read = readChord(text);
  if (!read.ok || !read.chord) throw new Error(text);
  return read.chord;
};
const note = (from: number, more: Partial<PlayedNote> = {}): PlayedNote => ({
  line: 'keys',
  pitch: 60,
  velocity: 80,
  from,
  to: null,
  moment: null,
  chord: null,
  ...more,
});
const struck = (start: number, more: Partial<RoundNote> = {}): RoundNote => ({
  start,
  duration: 200,
  pitch: 60,
  velocity: 80,
  chord: null,
  ...more,
});

describe('what is remembered', () => {
  it('is what was played in the last two minutes, with what still sounds', () => {
    const played = [0, 30, 119, 150, 200].reduce<Captured>((now, at) => over(begun(now, note(at)), 60, at + 0.5), []);
    expect(played.map(({ from }) => from)).toEqual([119, 150, 200]);
    const held = begun(played, note(201, { pitch: 64 }));
    const later = begun(held, note(201 + REMEMBERED_SECONDS + 5));
    expect(later.map(({ from }) => from)).toEqual([201, 326]);
    expect(since(later, 0, 400).map(({ to }) => to)).toEqual([400, 400]);
  });

  it('ends the note that sounds, and no other', () => {
    const two = over(begun(over(begun([], note(0)), 60, 1), note(2)), 60, 3);
    expect(two.map(({ to }) => to)).toEqual([1, 3]);
    expect(over(two, 60, 9)).toBe(two);
  });
});

describe('rounds', () => {
  const moment = (round: number, at: number) => ({ section: SECTION, occurrence: PLACE, round, at });

  it('keep what was played in each apart', () => {
    const placed = [
      { ...note(0, { to: 1, moment: moment(0, 0) }), moment: moment(0, 0), duration: 100 },
      { ...note(5, { to: 6, moment: moment(1, 480) }), moment: moment(1, 480), duration: 100 },
      { ...note(6, { to: 7, moment: moment(1, 960) }), moment: moment(1, 960), duration: 0 },
    ];
    const rounds = roundsOf(placed);
    expect(rounds.map(({ round, notes }) => [round, notes.map(({ start }) => start)])).toEqual([
      [0, [0]],
      [1, [480, 960]],
    ]);
    expect(rounds[1]!.notes[1]!.duration).toBe(1);
  });

  it('are written on the grid, and keep how far each note sounds from there', () => {
    const hand = [struck(20), struck(455, { pitch: 62 }), struck(-18, { pitch: 64 })];
    expect(writtenRound(hand, { step: 240, strength: 100 }, ROOM).map(({ start, nudge }) => [start, nudge])).toEqual([
      [0, undefined],
      [0, undefined],
      [480, undefined],
    ]);
    const loose = writtenRound(hand, { step: 240, strength: 0 }, ROOM);
    expect(loose.map(({ start, nudge = 0 }) => start + nudge).sort((a, b) => a - b)).toEqual([-18, 20, 455]);
    // What was played elsewhere is not moved into the stretch that is recorded.
    const punched = { ...ROOM, from: 480, to: 960 };
    expect(writtenRound(hand, { step: 240, strength: 100 }, punched).map(({ pitch }) => pitch)).toEqual([62]);
    const half = writtenRound(hand, { step: 240, strength: 50 }, ROOM);
    expect(half.map(({ start, nudge = 0 }) => start + nudge).sort((a, b) => a - b)).toEqual([-9, 10, 468]);
  });

  it('sound as they were played at no strength, swung or not, inside the room', () => {
    const notes = fc.array(
      fc.record({
        start: fc.integer({ min: -60, max: 2 * BAR - 61 }),
        duration: fc.integer({ min: 1, max: 900 }),
        pitch: fc.integer({ min: 40, max: 44 }),
        velocity: fc.integer({ min: 1, max: 127 }),
        chord: fc.constant(null),
      }),
      { maxLength: 30 },
    );
    fc.assert(
      fc.property(
        notes,
        fc.constantFrom(0, 62),
        fc.constantFrom(120, 160, 240, 480),
        fc.constantFrom(0, 40, 100),
        (hand, swing, step, strength) => {
          const sounds = (at: number): number => swung(at, swing, METRE);
          const written = writtenRound(hand, { step, strength, sounds }, ROOM);
          for (const { start, duration, nudge = 0 } of written) {
            expect(start % step).toBe(0);
            expect(start).toBeGreaterThanOrEqual(ROOM.from);
            expect(start).toBeLessThan(ROOM.to);
            expect(duration).toBeGreaterThan(0);
            if (strength === 100) expect(nudge).toBe(0);
            if (strength === 0) expect(hand.map((played) => played.start)).toContain(sounds(start) + nudge);
          }
          for (const [index, one] of written.entries())
            for (const other of written.slice(index + 1))
              if (one.pitch === other.pitch) expect(other.start).toBeGreaterThanOrEqual(one.start + one.duration);
        },
      ),
    );
  });

  it('become chords where chords were struck, over what was there before', () => {
    const before: ChordSpan[] = [{ start: 0, duration: 2 * BAR, chord: chord('C') }];
    const hand = [
      struck(BAR - 30, { chord: chord('F') }),
      struck(BAR - 20, { chord: chord('F'), pitch: 65 }),
      struck(BAR + 970, { chord: chord('G7') }),
    ];
    const made = chordsPlayed(hand, before, { from: 0, to: 2 * BAR }, 2 * BAR);
    expect(made.map(({ start, duration, chord: each }) => [start, duration, chordSymbol(each!)])).toEqual([
      [0, BAR, 'C'],
      [BAR, 960, 'F'],
      [BAR + 960, 960, 'G7'],
    ]);
    // Where it ended inside a beat, what was there comes back on the next line.
    const ended = chordsPlayed([struck(0, { chord: chord('Am') })], before, { from: 0, to: 961 }, 2 * BAR);
    expect(ended.map(({ start }) => start)).toEqual([0, 1200]);
    expect(chordsPlayed([], before, { from: 0, to: BAR }, 2 * BAR)).toBe(before);
    // What was recorded into the first bar leaves the second as it was.
    const punched = chordsPlayed([struck(0, { chord: chord('Am') })], before, { from: 0, to: BAR }, 2 * BAR);
    expect(punched.map(({ start, chord: each }) => [start, chordSymbol(each!)])).toEqual([
      [0, 'Am'],
      [BAR, 'C'],
    ]);
  });

  it('hold a whole section, over and over: two minutes of it', () => {
    fc.assert(
      fc.property(fc.integer({ min: 60, max: 160 }), fc.integer({ min: 0, max: 30 }), (tempo, jitter) => {
        const quarter = 60 / tempo;
        const beats = Math.floor(110 / quarter);
        const notes = Array.from({ length: beats }, (_, beat) => {
          const at = 3 + beat * quarter + (((beat * 7) % 5) - 2) * (jitter / 2000);
          return { ...note(at), to: at + quarter / 2 };
        });
        const { ticksAt } = foundPulse(
          notes.map(({ from }) => from),
          tempo * 0.9,
        );
        const placed = freelyPlaced(notes, ticksAt, { section: SECTION, occurrence: PLACE, length: 2 * BAR });
        const rounds = roundsOf(placed);
        expect(rounds).toHaveLength(Math.ceil(beats / 8));
        for (const { notes: own } of rounds.slice(0, -1)) {
          const written = writtenRound(own, { step: 480, strength: 100 }, ROOM);
          expect(written.map(({ start }) => start)).toEqual([0, 1, 2, 3, 4, 5, 6, 7].map((beat) => beat * 480));
        }
      }),
      { numRuns: 40 },
    );
  });
});

describe('a tempo in playing', () => {
  const RHYTHM = [0, 0.5, 1, 1.75, 2, 2.5, 3, 3.5];
  const playedAt = (tempo: number, hurry = 0): number[] =>
    [0, 1, 2, 3].flatMap((bar) =>
      RHYTHM.map((beat) => {
        const at = bar * 4 + beat;
        return 10 + (60 / tempo) * (at - (hurry * at * at) / 64);
      }),
    );

  it('is found near the one that is expected, never its double', () => {
    for (const tempo of [66, 84, 96, 118, 140]) {
      const found = foundPulse(playedAt(tempo), tempo * 1.12);
      expect(Math.abs(found.tempo - tempo)).toBeLessThan(1);
      expect(playedAt(tempo).map((at) => Math.round(found.ticksAt(at) / 120) * 120)).toEqual(
        [0, 1, 2, 3].flatMap((bar) => RHYTHM.map((beat) => (bar * 4 + beat) * 480)),
      );
    }
  });

  it('goes with hands that hurry', () => {
    const hand = playedAt(96, 0.15);
    const found = foundPulse(hand, 96);
    expect(hand.map((at) => Math.round(found.ticksAt(at) / 120) * 120)).toEqual(
      [0, 1, 2, 3].flatMap((bar) => RHYTHM.map((beat) => (bar * 4 + beat) * 480)),
    );
  });

  it('is as expected where too little was played, and takes a chord for one stroke', () => {
    expect(foundPulse([], 90).tempo).toBe(90);
    expect(foundPulse([3], 90).ticksAt(3)).toBe(0);
    expect(foundPulse([3, 3.01, 3.02], 120).ticksAt(3.5)).toBe(480);
  });
});

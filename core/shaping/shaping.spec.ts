import fc from 'fast-check';
import { takeSchema, type TakeNote } from '../song/schema';
import { looseTake } from '../song/take';
import { METRES } from '../theory/metre';
import { swung } from '../sounding/groove';
import {
  added,
  copiedTo,
  endsMoved,
  joined,
  moved,
  movedByDegrees,
  removed,
  spliced,
  split,
  startsMoved,
} from './place';
import { everyOne, inBox, ofPitch, startingIn } from './pick';
import { endOf, longestRing, meant, settled, type Ids, type Notes, type Room } from './room';
import { endsQuantised, legato, quantised, reversed } from './time';
import { chanceSet, loudnessMoved, loudnessSet, stemsDrawn, strikesSet } from './touch';

const ROOM: Room = { from: -1920, to: 7680, low: 36, high: 84 };
const C_MINOR = { tonic: 0, scale: 'minor' };

const note = fc.record({
  start: fc.integer({ min: ROOM.from, max: ROOM.to - 1 }),
  duration: fc.integer({ min: 1, max: 1920 }),
  pitch: fc.integer({ min: ROOM.low, max: ROOM.high }),
  velocity: fc.integer({ min: 1, max: 127 }),
});
const lines = fc
  .array(note, { minLength: 1, maxLength: 30 })
  .map((notes) =>
    settled(looseTake({ id: 't', section: 's', length: 7680 }, 'p', notes, { how: 'typed' }).notes, new Set(), ROOM),
  );
const some = (notes: Notes): fc.Arbitrary<Ids> =>
  fc
    .subarray(
      notes.map(({ id }) => id),
      { minLength: 1 },
    )
    .map((ids) => new Set(ids));
const picked = lines.chain((notes) => some(notes).map((ids) => ({ notes, ids })));
const step = fc.constantFrom(60, 120, 160, 240, 480);
const by = fc.record({ ticks: fc.integer({ min: -4000, max: 4000 }), semitones: fc.integer({ min: -30, max: 30 }) });

/** Any edit that a hand can make of some notes. */
const edits: fc.Arbitrary<(notes: Notes, ids: Ids) => Notes> = fc.oneof(
  by.map((way) => (notes: Notes, ids: Ids) => moved(notes, ids, way, ROOM)),
  by.map((way) => (notes: Notes, ids: Ids) => copiedTo(notes, ids, way, ROOM).notes),
  fc
    .integer({ min: -9, max: 9 })
    .map((steps) => (notes: Notes, ids: Ids) => movedByDegrees(notes, ids, steps, C_MINOR, ROOM)),
  by.map(
    ({ ticks }) =>
      (notes: Notes, ids: Ids) =>
        endsMoved(notes, ids, ticks, ROOM),
  ),
  by.map(
    ({ ticks }) =>
      (notes: Notes, ids: Ids) =>
        startsMoved(notes, ids, ticks, ROOM),
  ),
  note.map((one) => (notes: Notes) => added(notes, one, ROOM).notes),
  fc.constant((notes: Notes, ids: Ids) => removed(notes, ids)),
  fc.option(note, { nil: undefined }).map((at) => (notes: Notes, ids: Ids) => split(notes, ids, ROOM, at?.start).notes),
  fc.constant((notes: Notes, ids: Ids) => joined(notes, ids, ROOM).notes),
  fc.tuple(step, fc.integer({ min: 0, max: 100 })).map(
    ([grid, strength]) =>
      (notes: Notes, ids: Ids) =>
        quantised(notes, ids, grid, strength, ROOM, (at) => swung(at, 100, METRES[2]!)),
  ),
  fc.tuple(step, fc.integer({ min: 0, max: 100 })).map(
    ([grid, strength]) =>
      (notes: Notes, ids: Ids) =>
        endsQuantised(notes, ids, grid, strength, ROOM),
  ),
  fc.constant((notes: Notes, ids: Ids) => legato(notes, ids, ROOM)),
  fc.constant((notes: Notes, ids: Ids) => reversed(notes, ids, ROOM)),
  fc
    .integer({ min: -200, max: 200 })
    .map((velocity) => (notes: Notes, ids: Ids) => loudnessMoved(notes, ids, velocity)),
  fc.integer({ min: -20, max: 200 }).map((velocity) => (notes: Notes, ids: Ids) => loudnessSet(notes, ids, velocity)),
  fc.integer({ min: -5, max: 140 }).map((chance) => (notes: Notes, ids: Ids) => chanceSet(notes, ids, chance)),
  fc.integer({ min: 0, max: 30 }).map((strikes) => (notes: Notes, ids: Ids) => strikesSet(notes, ids, strikes)),
);

/** Every note valid, in its room and in order, with an id of its own, and none over the next on its pitch. */
function expectSound(notes: Notes): void {
  const take = looseTake({ id: 't', section: 's', length: 7680 }, 'p', notes, { how: 'typed' });
  expect(takeSchema.safeParse(take).error?.issues).toBeUndefined();
  expect(new Set(notes.map(({ id }) => id)).size).toBe(notes.length);
  const ends = new Map<number, number>();
  let last = Number.NEGATIVE_INFINITY;
  for (const one of notes) {
    expect(one.start).toBeGreaterThanOrEqual(Math.max(last, ROOM.from));
    expect(one.start).toBeLessThan(ROOM.to);
    expect(endOf(one)).toBeLessThanOrEqual(ROOM.to + longestRing(ROOM));
    expect(one.pitch >= ROOM.low && one.pitch <= ROOM.high).toBe(true);
    expect(ends.get(one.pitch) ?? Number.NEGATIVE_INFINITY).toBeLessThanOrEqual(one.start);
    ends.set(one.pitch, endOf(one));
    last = one.start;
  }
}

/** True where an edit touched nothing but what it meant. */
const alone = (before: Notes, after: Notes, ids: Ids): boolean =>
  before.length === after.length &&
  before.every((one) => ids.has(one.id) || after.some((other) => other === one || same(other, one)));
const same = (a: TakeNote, b: TakeNote): boolean => JSON.stringify(a) === JSON.stringify(b);

describe('notes that are shaped', () => {
  it('are valid, in order and apart after any run of edits', () => {
    fc.assert(
      fc.property(lines, fc.array(fc.tuple(edits, fc.array(fc.nat(40))), { maxLength: 12 }), (start, run) => {
        let notes = start;
        for (const [edit, places] of run) {
          const ids = new Set(places.flatMap((place) => notes[place % Math.max(1, notes.length)]?.id ?? []));
          notes = edit(notes, ids);
          expectSound(notes);
        }
      }),
    );
  });

  it('stay where they are, all of those that are not meant, unless something touched begins on their pitch', () => {
    fc.assert(
      fc.property(picked, by, ({ notes, ids }, way) => {
        const after = moved(notes, ids, way, ROOM);
        const touched = new Set(meant(after, ids).map(({ pitch }) => pitch));
        for (const one of notes) if (!ids.has(one.id) && !touched.has(one.pitch)) expect(after).toContainEqual(one);
      }),
    );
  });

  it('come back as they were when an edit is followed by its inverse', () => {
    fc.assert(
      fc.property(picked, by, fc.integer({ min: -6, max: 6 }), ({ notes, ids }, way, steps) => {
        const there = moved(notes, ids, way, ROOM);
        const first = meant(notes, ids)[0]!;
        const went = there.find(({ id }) => id === first.id)!;
        const back = { ticks: first.start - went.start, semitones: first.pitch - went.pitch };
        const whole = meant(notes, ids).every((one) => endOf(one) + way.ticks <= ROOM.to + longestRing(ROOM));
        if (
          whole &&
          alone(notes, there, ids) &&
          meant(there, ids).every((one, index) => one.duration === meant(notes, ids)[index]?.duration)
        )
          expect(moved(there, ids, back, ROOM)).toEqual(notes);
        const up = movedByDegrees(notes, ids, steps, C_MINOR, ROOM);
        const inKey = meant(notes, ids).every(({ pitch }) => [0, 2, 3, 5, 7, 8, 10].includes(pitch % 12));
        if (inKey && alone(notes, up, ids) && up !== notes && meant(up, ids).length === ids.size)
          expect(sameTimes(up, notes) ? movedByDegrees(up, ids, -steps, C_MINOR, ROOM) : notes).toEqual(notes);
      }),
    );
  });

  const sameTimes = (a: Notes, b: Notes): boolean =>
    a.every((one) =>
      b.some(({ id, start, duration }) => id === one.id && start === one.start && duration === one.duration),
    );

  it('are whole again when they are split and joined', () => {
    fc.assert(
      fc.property(lines, fc.nat(40), (notes, place) => {
        const one = notes[place % notes.length]!;
        const cut = split(notes, new Set([one.id]), ROOM);
        expect(cut.notes).toHaveLength(
          notes.length + (one.start + Math.ceil(one.duration / 2) < Math.min(endOf(one), ROOM.to) ? 1 : 0),
        );
        expect(joined(cut.notes, cut.picked, ROOM).notes).toEqual(notes);
      }),
    );
  });

  it('go onto a grid at 100 %, stay at 0 %, and are drawn to the line that they sound nearest to', () => {
    fc.assert(
      fc.property(picked, step, ({ notes, ids }, grid) => {
        for (const one of meant(quantised(notes, ids, grid, 100, ROOM), ids))
          expect(Math.abs(one.start % grid)).toBe(0);
        expect(quantised(notes, ids, grid, 0, ROOM)).toEqual(notes);
      }),
    );
    const late: Notes = [{ id: 0, start: 320, duration: 100, pitch: 60, velocity: 80 }];
    const swing = (at: number): number => swung(at, 100, METRES[2]!);
    // An eighth that was played where the swung one sounds is that eighth, not the sixteenth after it.
    expect(quantised([{ ...late[0]!, start: 240, nudge: 30 }], new Set([0]), 120, 100, ROOM, swing)[0]).toEqual({
      ...late[0],
      start: 240,
    });
    expect(quantised(late, new Set([0]), 120, 50, ROOM)[0]!.start).toBe(340);
  });

  it('take a stretch of another take over, note for note, and stay as they were beside it', () => {
    fc.assert(
      fc.property(lines, lines, fc.nat(7000), fc.integer({ min: 1, max: 4000 }), (notes, other, from, long) => {
        const stretch = { from, to: from + long };
        const after = spliced(notes, other, stretch, ROOM).notes;
        expectSound(after);
        const inside = (list: Notes) => list.filter(({ start }) => start >= stretch.from && start < stretch.to);
        const plain = (list: Notes) => list.map(({ start, pitch, velocity }) => [start, pitch, velocity]);
        expect(plain(inside(after))).toEqual(plain(inside(other)));
        expect(plain(after.filter((one) => !inside(after).includes(one)))).toEqual(
          plain(notes.filter((one) => !inside(notes).includes(one))),
        );
      }),
    );
  });

  it('last until the next one where they are legato, and turn round in time and back', () => {
    const notes = [0, 480, 960].map((start, id) => ({ id, start, duration: 100 + id, pitch: 60 + id, velocity: 80 }));
    const all = everyOne(notes);
    expect(legato(notes, all, ROOM).map(({ duration }) => duration)).toEqual([480, 480, 102]);
    expect(reversed(notes, all, ROOM).map(({ id, start }) => [id, start])).toEqual([
      [2, 0],
      [1, 481],
      [0, 962],
    ]);
    expect(reversed(reversed(notes, all, ROOM), all, ROOM)).toEqual(notes);
  });

  it('get louder evenly, and forget chances and strokes that say nothing', () => {
    const notes = [0, 480, 960].map((start, id) => ({ id, start, duration: 100, pitch: 60, velocity: 80 }));
    const path = [
      { at: 0, value: 40 },
      { at: 960, value: 100 },
    ];
    const ramp = stemsDrawn(notes, everyOne(notes), 'loudness', path, 0);
    expect(ramp.map(({ velocity }) => velocity)).toEqual([40, 70, 100]);
    const all = everyOne(notes);
    expect(chanceSet(chanceSet(notes, all, 30), all, 100)).toEqual(notes);
    expect(strikesSet(strikesSet(notes, all, 4), all, 1)).toEqual(notes);
  });

  it('are picked by pitch, by stretch and by box', () => {
    const notes = [0, 480, 960].map((start, id) => ({ id, start, duration: 400, pitch: 60 + (id % 2), velocity: 80 }));
    expect([...ofPitch(notes, new Set([60]))]).toEqual([0, 2]);
    expect([...startingIn(notes, 480, 960)]).toEqual([1]);
    expect([...inBox(notes, { from: 100, to: 500, low: 60, high: 60 })]).toEqual([0]);
  });
});

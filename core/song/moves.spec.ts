import fc from 'fast-check';
import { readMidi } from '../files/midi/midi-read';
import { controlValue } from '../files/midi/midi-expression';
import { deliverOneTrack, deliverSong, type DeliveryOptions } from '../files/outgoing/deliver';
import { loopCourse, songCourse, type Span } from '../sounding/course';
import { standsAt } from '../sounding/mix-moves';
import { perform } from '../sounding/performance';
import { voicesApart } from '../sounding/voices-apart';
import { scoreWith } from '../testing/scores';
import { musicOf } from '../testing/sounding';
import { scoreProblem } from './check';
import { valueAt } from './curve';
import { moveOccurrence, removePart } from './edit';
import {
  drawMove,
  fadeOut,
  MOVE_KINDS,
  moveAt,
  MOVES,
  movesOf,
  recordMove,
  standing,
  standingAt,
  type Sample,
} from './moves';
import { songTicks } from './resolve';
import { withChoice } from './section';
import { editedTake } from './take';

const { score, takes } = scoreWith(6, 0);
const [melody, bass] = score.parts;
const BAR = 1920;
const END = songTicks(score);

const samples = fc
  .uniqueArray(fc.record({ tick: fc.nat(END - 1), value: fc.integer({ min: 0, max: 100 }) }), {
    selector: ({ tick }) => tick,
    minLength: 1,
    maxLength: 60,
  })
  .map((list): Sample[] => list.sort((a, b) => a.tick - b.tick));

/** The level of a part at a moment of the song, as its places have it. */
function levelAt(own: typeof score, tick: number): number {
  const place = own.order[Math.floor(tick / (2 * BAR))]!;
  return moveAt(place, own.parts[0]!, 'level', tick % (2 * BAR));
}

describe('moves', () => {
  it('follow what was recorded within 1 %, over all places that it went over, and are valid', () => {
    fc.assert(
      fc.property(samples, (list) => {
        const moved = recordMove(score, melody!, 'level', list);
        expect(scoreProblem(moved, takes)).toBeNull();
        const path = list.map(({ tick, value }) => ({ at: tick, value }));
        for (const { tick } of list)
          expect(Math.abs(levelAt(moved, tick) - valueAt(path, tick))).toBeLessThanOrEqual(2);
        // Where nothing was moved, it stands as in the mix.
        const first = list[0]!.tick;
        if (first > 1) expect(Math.abs(levelAt(moved, first - 1) - melody!.level)).toBeLessThanOrEqual(1.01);
        expect(removePart(moved, melody!.id).order.every(({ moves }) => moves === undefined)).toBe(true);
      }),
    );
  });

  it('travel with their place, and are gone with no points', () => {
    const place = score.order[1]!.id;
    const points = [
      { at: 0, value: -100 },
      { at: BAR, value: 100 },
    ];
    const drawn = drawMove(score, place, bass!.id, 'pan', points);
    const elsewhere = moveOccurrence(drawn, place, 2);
    expect(movesOf(elsewhere.order[2]!, bass!.id).pan).toEqual(points);
    expect(drawMove(drawn, place, bass!.id, 'pan', [])).toEqual(score);
  });

  it('sound and are delivered as controllers: a fade goes to nothing and stays there at the end', () => {
    const place = score.order[2]!;
    const faded = fadeOut(score, place, [melody!], 0, 2 * BAR);
    const { events } = perform({ music: musicOf(faded, takes), course: songCourse(faded) });
    const levels = events.filter((event) => event.kind === 'control' && event.control === 'level');
    expect(levels[0]).toMatchObject({ voice: melody!.id, at: 4 * BAR, value: melody!.level });
    expect(levels.length).toBeGreaterThan(40);
    levels.slice(1).forEach((event, index) => {
      const [now, before] = [event, levels[index]!].map((one) => (one.kind === 'control' ? one.value : 0));
      expect(now).toBeLessThanOrEqual(before!);
    });
    expect(levels.at(-1)).toMatchObject({ value: 1 });
    const music = musicOf(faded, takes);
    const one = deliverOneTrack(music);
    expect(one.ok).toBe(true);
    expect(deliverSong(music).bytes.length).toBeGreaterThan(deliverSong(musicOf(score, takes)).bytes.length + 150);
    // In the middle of the song the part stands again as it does in the mix.
    const early = fadeOut(score, score.order[0]!, [melody!], 0, 2 * BAR);
    const after = perform({ music: musicOf(early, takes), course: songCourse(early) }).events.filter(
      (event) => event.kind === 'control',
    );
    expect(after.at(-1)).toMatchObject({ at: 2 * BAR, value: melody!.level });
  });

  it('give the same in two neighbouring windows as in one, and are known at any moment, in loops too', () => {
    fc.assert(
      fc.property(samples, fc.nat(END), (list, cut) => {
        const moved = recordMove(score, melody!, 'level', list);
        const music = musicOf(moved, takes);
        const made = (span: Span) => perform({ music, course: songCourse(moved), span });
        const whole = made({ from: 0, to: END });
        const [first, second] = [made({ from: 0, to: cut }), made({ from: cut, to: END })];
        expect([...first.events, ...second.events]).toEqual(whole.events);
        const stands = second.chase.find((event) => event.kind === 'control' && event.control === 'level');
        if (cut < END) expect(stands).toMatchObject({ value: Math.round(levelAt(moved, cut)) });
        const loop = { from: 2 * BAR, to: 4 * BAR };
        expect(standsAt(moved, moved.parts[0]!, loopCourse(moved, loop), loop.from)).toHaveLength(1);
      }),
      { numRuns: 40 },
    );
  });

  it('of every kind stand as they were set, and say nothing of a tone that is as the instrument has it', () => {
    for (const kind of MOVE_KINDS) {
      const { low, high } = MOVES[kind];
      for (const value of [low, high]) {
        const set = { ...melody!, ...standingAt(melody!, kind, value) };
        expect(standing(set, kind)).toBe(value);
        for (const other of MOVE_KINDS) if (other !== kind) expect(standing(set, other)).toBe(standing(melody!, other));
      }
    }
    const bright = { ...melody!, ...standingAt(melody!, 'brightness', 40) };
    expect({ ...bright, ...standingAt(bright, 'brightness', 0) }.tone).toBeUndefined();
  });

  it('of a tone are played as its controller, and come back to how the part stands', () => {
    const place = score.order[0]!;
    const moved = drawMove(score, place.id, melody!.id, 'brightness', [
      { at: 0, value: -100 },
      { at: BAR, value: 60 },
    ]);
    const { events } = perform({ music: musicOf(moved, takes), course: songCourse(moved) });
    const steps = events.filter((event) => event.kind === 'control').map((event) => controlValue(event, null));
    expect(steps[0]).toEqual({ kind: 'controller', controller: 74, value: 1 });
    expect(steps.at(-1)).toEqual({ kind: 'controller', controller: 74, value: 64 });
    expect(steps.length).toBeGreaterThan(40);
  });

  it('of an ensemble are those of each of its voices, and of a kit those of its channel, where they are apart', () => {
    const [lead] = score.parts;
    const chords = Object.values(takes).find((take) => take.of === 'part' && take.part === lead!.id)!;
    if (chords.of !== 'part') throw new Error('no part');
    const doubled = editedTake('doubled', chords, [
      ...chords.notes,
      ...chords.notes.map((note) => ({ ...note, id: note.id + 1000, pitch: note.pitch - 5 })),
    ]);
    const ensemble = {
      ...score,
      parts: score.parts.map((own) => (own === lead ? { ...own, role: 'ensemble' as const } : own)),
    };
    const sections = ensemble.sections.map((section) => withChoice(section, lead!.id, 'doubled'));
    const faded = fadeOut({ ...ensemble, sections }, score.order[0]!, score.parts, 0, BAR);
    const music = musicOf(faded, { ...takes, doubled });
    const levels = (options: DeliveryOptions) => {
      const reading = readMidi(deliverSong(music, options).bytes);
      if (!reading.ok) throw new Error(reading.reason);
      return reading.file.tracks
        .filter(({ notes }) => notes.length > 0)
        .map(({ name, controllers }) => [name, controllers[7]]);
    };
    const apart = levels({ apart: true, drumsApart: true });
    expect(apart.filter(([name]) => String(name).startsWith(lead!.name)).length).toBeGreaterThan(1);
    const said = perform({ music, course: songCourse(faded) });
    const parted = voicesApart(said, new Set([lead!.id]));
    const steps = (of: typeof said, voice: string) =>
      of.events.filter((event) => event.kind === 'control' && event.voice === voice).map(({ at }) => at);
    expect(steps(parted, `${lead!.id}, voice 2`)).toEqual(steps(said, lead!.id));
  });
});

import fc from 'fast-check';
import { deliverOneTrack, deliverSong } from '../files/deliver';
import { loopCourse, songCourse, type Span } from '../sounding/course';
import { standsAt } from '../sounding/mix-moves';
import { perform } from '../sounding/performance';
import { scoreWith } from '../testing/scores';
import { musicOf } from '../testing/sounding';
import { scoreProblem } from './check';
import { valueAt } from './curve';
import { moveOccurrence, removePart } from './edit';
import { drawMove, fadeOut, MOVES, moveAt, movesOf, recordMove, type Sample } from './moves';
import { songTicks } from './resolve';

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
        expect(standsAt(moved.parts[0]!, loopCourse(moved, loop), loop.from)).toHaveLength(2);
      }),
      { numRuns: 40 },
    );
    expect(Object.keys(MOVES)).toEqual(['level', 'pan']);
  });
});

import fc from 'fast-check';
import { songCourse, tempoOf } from '../sounding/course';
import { perform } from '../sounding/performance';
import { deliverSong } from '../files/outgoing/deliver';
import { readMidi } from '../files/midi/midi-read';
import { conductor } from '../files/midi/tracks';
import { expressive } from '../testing/expressive';
import { scoreWith } from '../testing/scores';
import { musicOf } from '../testing/sounding';
import { scoreProblem } from './check';
import { removePart } from './edit';
import { isOwn, liftedGround, liftPlace, plainPlace, restsIn, restStretches, tellPlace, toggleRest } from './place';
import { isDrumRole } from './roles';

const { score, takes } = scoreWith(4, 0);
const [first, , last] = score.order.map(({ id }) => id);
const drums = score.parts.find(({ role }) => role === 'drums')!;
const BAR = 1920;

describe('a place of the running order', () => {
  it('is lifted with all but its drums, and says its own key in files; the other places of its section stay', () => {
    const lifted = liftPlace(score, last!, 2);
    expect(scoreProblem(lifted, takes)).toBeNull();
    const events = (own: typeof score) => perform({ music: musicOf(own, takes), course: songCourse(own) }).events;
    const roles = new Map(score.parts.map(({ id, role }) => [id, role]));
    const [before, after] = [events(score), events(lifted)];
    expect(after).toHaveLength(before.length);
    const key = (event: (typeof before)[number]) => `${event.at} ${event.voice} ${event.kind}`;
    const pitches = (list: typeof before) =>
      list
        .flatMap((event) => (event.kind === 'note' ? [[key(event), event.pitch] as const] : []))
        .sort(([a, low], [b, high]) => a.localeCompare(b) || low - high);
    pitches(after).forEach(([name, pitch], index) => {
      const [was, old] = pitches(before)[index]!;
      const voice = name.split(' ')[1]!;
      const here = Number(name.split(' ')[0]) >= 4 * BAR && !isDrumRole(roles.get(voice)!);
      expect([was, pitch - old]).toEqual([name, here ? 2 : 0]);
    });
    const course = songCourse(lifted);
    const keys = conductor({ title: '', course, score: lifted, lead: 0, end: 0, markers: false }).events.flatMap(
      (event) => (event.kind === 'key' ? [[event.at, event.accidentals]] : []),
    );
    expect(keys).toEqual([
      [0, 0],
      [4 * BAR, 2],
    ]);
    expect(liftedGround(score.ground, 2)).toBe(liftedGround(score.ground, 2));
  });

  it('lets a part rest in chosen bars, there only, and play again', () => {
    const resting = toggleRest(score, last!, drums.id, [0]);
    expect(restsIn(resting.order[2]!, drums.id, [0])).toBe(true);
    expect(scoreProblem(resting, takes)).toBeNull();
    const hits = (own: typeof score, from: number, to: number) =>
      perform({ music: musicOf(own, takes), course: songCourse(own) }).events.filter(
        ({ kind, voice, at }) => kind === 'note' && voice === drums.id && at >= from && at < to,
      ).length;
    expect(hits(score, 4 * BAR, 5 * BAR)).toBeGreaterThan(0);
    expect(hits(resting, 4 * BAR, 5 * BAR)).toBe(0);
    expect(hits(resting, 5 * BAR, 6 * BAR)).toBe(hits(score, 5 * BAR, 6 * BAR));
    expect(hits(resting, 0, 4 * BAR)).toBe(hits(score, 0, 4 * BAR));
    expect(toggleRest(resting, last!, drums.id, [0])).toEqual(score);
    expect(tellPlace(liftPlace(resting, last!, -1).order[2]!, score.parts)).toEqual([
      '1 semitone down',
      `without ${drums.name} in bar 1`,
    ]);
  });

  it('stays valid through any run of changes, and is plain again by one', () => {
    const change = fc.oneof(
      fc.integer({ min: -12, max: 12 }).map((by) => (own: typeof score) => liftPlace(own, first!, by)),
      fc.tuple(fc.constantFrom(...score.parts), fc.uniqueArray(fc.nat(6), { minLength: 1, maxLength: 4 })).map(
        ([part, bars]) =>
          (own: typeof score) =>
            toggleRest(own, first!, part.id, bars),
      ),
    );
    fc.assert(
      fc.property(fc.array(change, { maxLength: 8 }), (run) => {
        const after = run.reduce((own, step) => step(own), score);
        expect(scoreProblem(after, takes)).toBeNull();
        expect(plainPlace(after, first!)).toEqual(score);
        const without = removePart(after, drums.id);
        expect(scoreProblem(without, takes)).toBeNull();
        for (const place of after.order)
          for (const part of score.parts) {
            const bars = place.rests?.[part.id] ?? [];
            const length = restStretches(place, part.id, score.ground).reduce(
              (sum, { from, to }) => sum + to - from,
              0,
            );
            expect(length).toBe(bars.length * BAR);
          }
        expect(after.order.slice(1).some(isOwn)).toBe(false);
      }),
    );
  });
});

describe('a section that slows down', () => {
  it('takes as long as its tempos say, and its file says the same, note for note', () => {
    fc.assert(
      fc.property(fc.integer({ min: 40, max: 200 }), fc.integer({ min: 0, max: 3000 }), (tempo, at) => {
        const tempos = [
          { at, value: 100 },
          { at: 2 * BAR, value: tempo },
        ];
        const slower = {
          ...score,
          sections: score.sections.map((section, index) => (index === 1 ? { ...section, tempos } : section)),
        };
        expect(scoreProblem(slower, takes)).toBeNull();
        const music = expressive(musicOf(slower, takes), at);
        const { secondsAt } = tempoOf(songCourse(slower), slower);
        const read = readMidi(deliverSong(music).bytes);
        if (!read.ok) throw new Error(read.reason);
        let [seconds, tick, bpm] = [0, 0, read.file.tempos[0]!.bpm];
        for (const change of [...read.file.tempos, { at: 6 * BAR, bpm: 0 }]) {
          seconds += ((change.at - tick) / 480) * (60 / bpm);
          expect(Math.abs(seconds - secondsAt(change.at))).toBeLessThan(0.002);
          [tick, bpm] = [change.at, change.bpm];
        }
      }),
      { numRuns: 40 },
    );
  });
});

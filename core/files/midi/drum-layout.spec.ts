import * as fc from 'fast-check';
import { songCourse } from '../../sounding/course';
import { perform } from '../../sounding/performance';
import { songOf, twists } from '../../testing/songs';
import { scoreWith } from '../../testing/scores';
import { musicOf } from '../../testing/sounding';
import { rounds } from '../../testing/rounds';
import { deliverSong } from '../outgoing/deliver';
import { drumsStruck, FIRST_PAD, laidOut, onPads, withDrumOn, type DrumKeys } from './drum-layout';
import { readMidi } from './midi-read';

const keys = fc.integer({ min: 0, max: 127 });
const kit = [36, 38, 42, 46, 49];

describe('drums on other keys', () => {
  it('strike as often and as loud as before, each on its own key, and pitches stay', () => {
    fc.assert(
      fc.property(twists, (twist) => {
        const music = songOf(twist);
        const whole = perform({ music, course: songCourse(music.score) });
        const struck = drumsStruck(whole);
        const pads = onPads(struck);
        expect(new Set(pads.values()).size).toBe(struck.length);
        const moved = laidOut(whole, pads);
        const kits = new Set(whole.setup.filter(({ drums }) => drums).map(({ id }) => id));
        moved.events.forEach((event, index) => {
          const before = whole.events[index]!;
          if (event.kind !== 'note' || before.kind !== 'note') expect(event).toBe(before);
          else
            expect(event).toEqual({ ...before, pitch: kits.has(event.voice) ? pads.get(before.pitch) : before.pitch });
        });
      }),
      { numRuns: rounds(20) },
    );
  });

  it('stand in the order of a kit from the first pad on', () => {
    expect([...onPads(drumsStruck({ setup: [], events: [] }))]).toEqual([]);
    expect(onPads([36, 38, 42]).get(38)).toBe(FIRST_PAD + 1);
    const { score, takes } = scoreWith(1, 0);
    const music = musicOf(score, takes);
    const struck = drumsStruck(perform({ music, course: songCourse(score) }));
    expect(struck[0]).toBe(36);
    const read = readMidi(deliverSong(music, { drumKeys: onPads(struck) }).bytes);
    if (!read.ok) throw new Error(read.reason);
    const drums = read.file.tracks.flatMap(({ notes }) => notes).filter(({ channel }) => channel === 9);
    expect(new Set(drums.map(({ pitch }) => pitch))).toEqual(new Set(struck.map((_, index) => FIRST_PAD + index)));
  });

  it('never share one, whatever is put where', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.constantFrom(...kit), keys), { maxLength: 12 }), (moves) => {
        const put = moves.reduce<DrumKeys>((own, [drum, key]) => withDrumOn(own, kit, drum, key), new Map());
        expect(new Set(kit.map((drum) => put.get(drum) ?? drum)).size).toBe(kit.length);
        const [drum, key] = moves.at(-1) ?? [36, 36];
        expect(put.get(drum) ?? drum).toBe(key);
      }),
    );
  });
});

import fc from 'fast-check';
import { layOut } from '../song/resolve';
import { songOf, twists } from '../testing/songs';
import { songCourse } from './course';
import { glanceOf } from './glance';
import { perform } from './performance';

describe('a song at a glance', () => {
  it('has a bar for every bar, and plays in one exactly where the part is heard there', () => {
    fc.assert(
      fc.property(twists, (twist) => {
        // Pick-ups, hands and solos move single notes over bar lines; what is compared is where a part plays at all.
        const music = songOf({ ...twist, pickUps: [], humanise: [0], feel: 0, swing: 0, solo: false });
        const placed = layOut(music.score);
        const { events } = perform({ music, course: songCourse(music.score) });
        for (const part of music.score.parts.slice(0, 2)) {
          const places = glanceOf(music, placed, part);
          expect(places.flatMap(({ bars }) => bars)).toHaveLength(
            placed.reduce((sum, own) => sum + own.section.bars, 0),
          );
          const heard = events.filter((event) => event.kind === 'note' && event.voice === part.id);
          for (const { place, bar, bars } of places)
            bars.forEach(({ onsets, loudness }, index) => {
              const from = place.start + index * bar;
              const sounding = heard.some(({ at }) => at >= from && at < from + bar);
              if (sounding) expect(onsets).toBeGreaterThan(0);
              expect(loudness > 0).toBe(onsets > 0);
              expect(loudness).toBeLessThanOrEqual(127);
            });
        }
      }),
      { numRuns: 25 },
    );
  });

  it('leaves out where a part rests in one place only', () => {
    const music = songOf({ ...fc.sample(twists, { numRuns: 1, seed: 3 })[0]!, energy: [], order: [0, 0], muted: 99 });
    const part = music.score.parts.find(({ role }) => role === 'bass') ?? music.score.parts[0]!;
    const order = music.score.order.map((place, index) =>
      index === 1 ? { ...place, rests: { [part.id]: [0] } } : place,
    );
    const resting = { ...music, score: { ...music.score, order } };
    const [first, second] = glanceOf(resting, layOut(resting.score), part);
    expect(first!.bars[0]!.onsets).toBeGreaterThan(0);
    expect(second!.bars[0]).toEqual({ onsets: 0, loudness: 0 });
    expect(second!.bars.slice(1)).toEqual(first!.bars.slice(1));
  });
});

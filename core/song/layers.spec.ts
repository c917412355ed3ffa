import fc from 'fast-check';
import { songCourse } from '../sounding/course';
import { perform } from '../sounding/performance';
import { voiceIdsOf } from '../sounding/setup';
import { scoreWith } from '../testing/scores';
import { musicOf } from '../testing/sounding';
import { scoreProblem } from './check';
import { canLayer, withLayer, withLayerChanged, withoutLayer } from './layers';
import { drawMove } from './moves';
import { MOST_LAYERS, type Part } from './schema';

const { score, takes } = scoreWith(6, 0);
const melody = score.parts[0]!;
const withPart = (change: Partial<Part>) => ({
  ...score,
  parts: score.parts.map((part) => (part === melody ? { ...part, ...change } : part)),
});

describe('instruments that double a part', () => {
  it('come, change and go, at most so many, and the song stays valid', () => {
    const edits = fc.array(
      fc.oneof(
        fc.constantFrom('violin', 'flute').map((instrument) => (part: Part): Part => ({
          ...part,
          ...withLayer(part, instrument),
        })),
        fc
          .record({ at: fc.nat(3), octave: fc.integer({ min: -3, max: 3 }), level: fc.integer({ min: 0, max: 100 }) })
          .map(({ at, ...change }) => (part: Part): Part => ({ ...part, ...withLayerChanged(part, at, change) })),
        fc.nat(3).map((at) => (part: Part): Part => ({ ...part, ...withoutLayer(part, at) })),
      ),
    );
    fc.assert(
      fc.property(edits, (list) => {
        const part = list.reduce((own, edit) => edit(own), melody);
        expect(part.layers?.length ?? 0).toBeLessThanOrEqual(MOST_LAYERS);
        expect(canLayer(part)).toBe((part.layers?.length ?? 0) < MOST_LAYERS);
        expect(scoreProblem(withPart(part), takes)).toBeNull();
      }),
    );
  });

  it('sound every note of it, each in its octave, and move with it at their share of its level', () => {
    const layers = [{ instrument: 'violin', octave: 1, level: 50 }];
    const song = drawMove(withPart({ layers, octave: -1 }), score.order[0]!.id, melody.id, 'level', [
      { at: 0, value: 80 },
      { at: 1920, value: 20 },
    ]);
    const { setup, events } = perform({ music: musicOf(song, takes), course: songCourse(song) });
    const plain = perform({ music: musicOf(score, takes), course: songCourse(score) }).events;
    const [own, layer] = voiceIdsOf(melody.id);
    const notes = (of: typeof events, voice: string) =>
      of.flatMap((event) => (event.kind === 'note' && event.voice === voice ? [[event.at, event.pitch]] : []));
    const written = notes(plain, melody.id);
    expect(notes(events, own!)).toEqual(written.map(([at, pitch]) => [at, pitch! - 12]));
    expect(notes(events, layer!)).toEqual(written);
    const levels = (voice: string) =>
      events.flatMap((event) => (event.kind === 'control' && event.voice === voice ? [event.value] : []));
    expect(levels(layer!)).toEqual(levels(own!).map((level) => level / 2));
    expect(setup.filter(({ line }) => line === melody.id).map(({ name }) => name)).toEqual([
      'Melody',
      'Melody, Violin',
    ]);
  });
});

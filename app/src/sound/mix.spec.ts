import { HARMONY } from '@fendro/core/song/schema';
import { voicesOf } from '@fendro/core/sounding/setup';
import { scoreWith } from '@fendro/core/testing/scores';
import { applyMix } from './mix';
import { stripCount, stripsFor, stripsOf } from './strips';

const { score } = scoreWith(1, 0);

function mixed(alone: readonly string[], change: (index: number) => object = () => ({})) {
  const gains = new Map<number, number>();
  const engine = {
    strips: jest.fn(),
    program: jest.fn(),
    controller: jest.fn(),
    drums: jest.fn(),
    gain: (channel: number, gain: number) => {
      gains.set(channel, gain);
    },
  };
  const changed = { ...score, parts: score.parts.map((part, index) => ({ ...part, ...change(index) })) };
  applyMix(engine, stripsOf(changed), voicesOf(changed), alone);
  return { engine, gains };
}

const gainsOf = ({ gains }: ReturnType<typeof mixed>) =>
  score.parts.map(({ id }) => gains.get(stripsOf(score).get(id)!));

describe('the mix', () => {
  it('lets every part sound that is not quiet', () => {
    expect(gainsOf(mixed([], (index) => ({ muted: index === 1 })))).toEqual(
      score.parts.map((_, index) => (index === 1 ? 0 : 1)),
    );
  });

  it('lets only the parts sound that are heard alone, and none that is quiet, but always the chord line', () => {
    const heard = mixed([score.parts[0]!.id, score.parts[2]!.id], (index) => ({ muted: index === 2 }));
    expect(gainsOf(heard)).toEqual(score.parts.map((_, index) => (index === 0 ? 1 : 0)));
    expect(heard.gains.get(stripsOf(score).get(HARMONY)!)).toBe(1);
  });

  it('gives every line a strip of its own, with its instrument, level and pan, drums or not', () => {
    const { engine } = mixed([], () => ({ level: 100, pan: -100 }));
    const strips = stripsOf(score);
    expect(new Set(strips.values()).size).toBe(score.parts.length + 1);
    expect(engine.strips).toHaveBeenCalledWith(stripCount(strips));
    for (const part of score.parts) {
      const strip = strips.get(part.id)!;
      expect(engine.controller.mock.calls.filter(([own]) => own === strip)).toEqual([
        [strip, 7, 127, false],
        [strip, 10, 1, false],
        ...[74, 73, 72].map((controller) => [strip, controller, 64, false]),
        ...[91, 93].map((controller) => [strip, controller, 0, false]),
      ]);
      expect(engine.drums).toHaveBeenCalledWith(strip, part.role === 'drums');
    }
  });

  it('gives what doubles a part a strip, and both its tone; quiet silences both', () => {
    const doubled = (index: number) =>
      index === 0
        ? { layers: [{ instrument: 'violin', octave: 1, level: 50 }], level: 80, tone: { brightness: -100, room: 50 } }
        : {};
    const { engine, gains } = mixed([], (index) => ({ ...doubled(index), muted: index === 0 }));
    const changed = { ...score, parts: score.parts.map((part, index) => ({ ...part, ...doubled(index) })) };
    const own = stripsFor(stripsOf(changed), score.parts[0]!.id);
    expect(own).toHaveLength(2);
    const said = (strip: number) =>
      (engine.controller.mock.calls as number[][]).filter(([on]) => on === strip).map(([, a, b]) => [a, b]);
    expect(said(own[0]!)).toEqual(
      expect.arrayContaining([
        [7, 102],
        [74, 1],
        [91, 64],
      ]),
    );
    expect(said(own[1]!)).toEqual(
      expect.arrayContaining([
        [7, 51],
        [74, 1],
        [91, 64],
      ]),
    );
    expect(engine.program).toHaveBeenCalledWith(own[1], 40);
    expect(own.map((strip) => gains.get(strip))).toEqual([0, 0]);
  });
});

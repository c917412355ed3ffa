import { channelsOf } from '@fendro/core/sounding/channels';
import { instrumentOf } from '@fendro/core/sounding/instruments';
import { scoreWith } from '@fendro/core/testing/scores';
import { applyMix } from './mix';

const { score } = scoreWith(1, 0);

function mixed(alone: readonly string[], change: (index: number) => object = () => ({})): ReadonlyMap<number, number> {
  const gains = new Map<number, number>();
  const engine = {
    program: jest.fn(),
    controller: jest.fn(),
    drums: jest.fn(),
    gain: (channel: number, gain: number) => {
      gains.set(channel, gain);
    },
  };
  applyMix(
    engine,
    { ...score, parts: score.parts.map((part, index) => ({ ...part, ...change(index) })) },
    alone,
    instrumentOf('grand-piano'),
  );
  return gains;
}

const gainOf = (gains: ReadonlyMap<number, number>, part: number): number | undefined =>
  gains.get(channelsOf(score).get(score.parts[part]!.id)!);

describe('the mix', () => {
  it('lets every part sound that is not quiet', () => {
    const gains = mixed([], (index) => ({ muted: index === 1 }));
    expect(score.parts.map((_, index) => gainOf(gains, index))).toEqual(
      score.parts.map((_, index) => (index === 1 ? 0 : 1)),
    );
  });

  it('lets only the parts sound that are heard alone, and none that is quiet', () => {
    const gains = mixed([score.parts[0]!.id, score.parts[2]!.id], (index) => ({ muted: index === 2 }));
    expect(score.parts.map((_, index) => gainOf(gains, index))).toEqual(
      score.parts.map((_, index) => (index === 0 ? 1 : 0)),
    );
  });
});

import { isDrumRole } from '@fendro/core/song/roles';
import type { Score } from '@fendro/core/song/schema';
import { channelsOf, DRUM_CHANNEL, levelController, panController } from '@fendro/core/sounding/channels';
import { instrumentOf, type Instrument } from '@fendro/core/sounding/instruments';
import { GUIDE_CHANNEL, type SoundEngine } from './engine';

const GUIDE_LEVEL = 62;
const [LEVEL, PAN] = [7, 10];

/**
 * Sets programs, levels, pans and mutes of all channels as the score says.
 *
 * @param alone  parts that are heard by themselves; all where there are none
 * @param guide  what the chord line sounds on
 */
export function applyMix(
  engine: Pick<SoundEngine, 'program' | 'controller' | 'drums' | 'gain'>,
  score: Score,
  alone: readonly string[],
  guide: Instrument,
): void {
  const channels = channelsOf(score);
  engine.program(GUIDE_CHANNEL, guide.program);
  engine.controller(GUIDE_CHANNEL, LEVEL, levelController(GUIDE_LEVEL));
  for (const part of score.parts) {
    const channel = channels.get(part.id) ?? 0;
    if (channel !== DRUM_CHANNEL) engine.drums(channel, isDrumRole(part.role));
    engine.program(channel, instrumentOf(part.instrument).program);
    engine.controller(channel, LEVEL, levelController(part.level));
    engine.controller(channel, PAN, panController(part.pan));
    engine.gain(channel, part.muted || (alone.length > 0 && !alone.includes(part.id)) ? 0 : 1);
  }
}

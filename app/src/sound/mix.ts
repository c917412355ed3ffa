import { HARMONY, type LineId } from '@fendro/core/song/schema';
import type { Voice } from '@fendro/core/sounding/setup';
import type { SoundEngine } from './engine';
import { stripCount, type Strips } from './strips';

/** MIDI controllers. */
export const [LEVEL, PAN] = [7, 10];

/**
 * Sets instruments, levels, pans and mutes of all strips as a performance's setup says.
 *
 * @param alone   parts that are heard by themselves; all where there are none
 * @param moving  lines whose levels and pans events of the queue move
 */
export function applyMix(
  engine: Pick<SoundEngine, 'strips' | 'program' | 'controller' | 'drums' | 'gain'>,
  strips: Strips,
  setup: readonly Voice[],
  alone: readonly string[],
  moving: (line: LineId) => boolean = () => false,
): void {
  engine.strips(stripCount(strips));
  for (const { id, drums, instrument, level, pan, muted } of setup) {
    const strip = strips.get(id);
    if (strip === undefined) continue;
    engine.drums(strip, drums);
    engine.program(strip, instrument.program);
    engine.controller(strip, LEVEL, level, moving(id));
    engine.controller(strip, PAN, pan, moving(id));
    // The chord line sounds where it is asked for, whoever else is heard alone.
    const silent = muted || (id !== HARMONY && alone.length > 0 && !alone.includes(id));
    engine.gain(strip, silent ? 0 : 1);
  }
}

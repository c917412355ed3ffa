import { HARMONY, type LineId } from '@fendro/core/song/schema';
import { controllerOf } from '@fendro/core/files/midi/midi-expression';
import { TONE_KINDS } from '@fendro/core/song/moves';
import type { Voice } from '@fendro/core/sounding/setup';
import { stripCount, type Strips } from './strips';

/** What a mix is set on: the engine that is heard, or what renders files. */
export interface MixDesk {
  strips(count: number): void;
  program(channel: number, program: number): void;
  /** @param moves  true where events of the queue set it too */
  controller(channel: number, controller: number, value: number, moves?: boolean): void;
  drums(channel: number, on: boolean): void;
  gain(channel: number, gain: number): void;
}

/** MIDI controllers. */
const [LEVEL, PAN] = [7, 10];

/**
 * Sets instruments, levels, pans, tones and mutes of all strips as a performance's setup says.
 *
 * @param alone   parts that are heard by themselves; all where there are none
 * @param moving  lines that events of the queue move
 */
export function applyMix(
  engine: MixDesk,
  strips: Strips,
  setup: readonly Voice[],
  alone: readonly string[],
  moving: (line: LineId) => boolean = () => false,
): void {
  engine.strips(stripCount(strips));
  for (const { id, line, drums, instrument, level, pan, tone, muted } of setup) {
    const strip = strips.get(id);
    if (strip === undefined) continue;
    engine.drums(strip, drums);
    engine.program(strip, instrument.program);
    engine.controller(strip, LEVEL, level, moving(line));
    engine.controller(strip, PAN, pan, moving(line));
    for (const kind of TONE_KINDS) {
      const { controller, value } = controllerOf(kind, tone[kind] ?? 0);
      engine.controller(strip, controller, value, moving(line));
    }
    // The chord line sounds where it is asked for, whoever else is heard alone.
    const silent = muted || (line !== HARMONY && alone.length > 0 && !alone.includes(line));
    engine.gain(strip, silent ? 0 : 1);
  }
}

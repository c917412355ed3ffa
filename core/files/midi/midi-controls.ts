import type { CurveKind } from '../../song/schema';
import { EXPRESSION, MODULATION } from './midi-expression';

/** Gathers what the channels of a track do besides their notes, event by event; moments in the file's own ticks. */

interface Moment {
  readonly at: number;
  /** Cents of a bend, % of the others. */
  readonly value: number;
}

interface Channel {
  readonly bend: Moment[];
  readonly vibrato: Moment[];
  readonly swell: Moment[];
  /** The registered parameter that data entry sets now, as its two bytes; −1 where none is open. */
  parameter: [high: number, low: number];
  /** How far a bend goes, in semitones and cents. */
  range: [semitones: number, cents: number];
}

const DATA = 6;
const DATA_FINE = 38;
const PARAMETER_LOW = 100;
const PARAMETER_HIGH = 101;

export class ControlsOfTrack {
  private readonly channels = new Map<number, Channel>();

  private of(channel: number): Channel {
    const known = this.channels.get(channel) ?? {
      bend: [],
      vibrato: [],
      swell: [],
      parameter: [-1, -1] as [number, number],
      range: [2, 0] as [number, number],
    };
    this.channels.set(channel, known);
    return known;
  }

  /** @param value  −8192 to 8191 */
  bent(at: number, channel: number, value: number): void {
    const own = this.of(channel);
    const widest = own.range[0] * 100 + own.range[1];
    own.bend.push({ at, value: (value / (value < 0 ? 8192 : 8191)) * widest });
  }

  controlled(at: number, channel: number, controller: number, value: number): void {
    const own = this.of(channel);
    if (controller === MODULATION) own.vibrato.push({ at, value: (value * 100) / 127 });
    else if (controller === EXPRESSION) own.swell.push({ at, value: (value * 100) / 127 });
    else if (controller === PARAMETER_HIGH) own.parameter[0] = value;
    else if (controller === PARAMETER_LOW) own.parameter[1] = value;
    // Registered parameter 0 is the range of a bend.
    else if (own.parameter[0] === 0 && own.parameter[1] === 0) {
      if (controller === DATA) own.range[0] = value;
      else if (controller === DATA_FINE) own.range[1] = value;
    }
  }

  /** What was gathered, by channel. */
  result(): Readonly<Record<number, Readonly<Record<CurveKind, readonly Moment[]>>>> {
    return Object.fromEntries(
      [...this.channels].map(([channel, { bend, vibrato, swell }]) => [channel, { bend, vibrato, swell }]),
    );
  }
}

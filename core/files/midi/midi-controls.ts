import { CURVE_KINDS } from '../../song/curve';
import { MOVE_KINDS, type MoveKind } from '../../song/moves';
import type { CurveKind } from '../../song/schema';
import { clamp } from '../../theory/units';
import { kindOfController } from './midi-expression';

/** Gathers what the channels of a track do besides their notes, event by event; moments in the file's own ticks. */

/** What a channel does besides its notes: how it is bent and swells, stands in the mix, and when its pedal is down. */
type ControlKind = CurveKind | MoveKind | 'pedal';

interface Moment {
  readonly at: number;
  /** Cents of a bend, −100 to 100 of what goes either way, % of the others; a pedal is down from 50 on. */
  readonly value: number;
}

export type Controls = Readonly<Record<ControlKind, readonly Moment[]>>;

interface Channel {
  readonly moments: Record<ControlKind, Moment[]>;
  /** The registered parameter that data entry sets now, as its two bytes; −1 where none is open. */
  parameter: [high: number, low: number];
  /** How far a bend goes, in semitones and cents. */
  range: [semitones: number, cents: number];
}

const DATA = 6;
const DATA_FINE = 38;
const PEDAL = 64;
const PARAMETER_LOW = 100;
const PARAMETER_HIGH = 101;
/** Lets go of bends, wheels, pedals and expression at once. */
const RESET = 121;

const KINDS: readonly ControlKind[] = [...CURVE_KINDS, ...MOVE_KINDS, 'pedal'];

const noMoments = (): Record<ControlKind, Moment[]> =>
  Object.fromEntries(KINDS.map((kind) => [kind, [] as Moment[]])) as Record<ControlKind, Moment[]>;

/** A channel that does nothing but play notes. */
export const NO_CONTROLS: Controls = noMoments();

export class ControlsOfTrack {
  private readonly channels = new Map<number, Channel>();

  private of(channel: number): Channel {
    const known = this.channels.get(channel) ?? { moments: noMoments(), parameter: [-1, -1], range: [2, 0] };
    this.channels.set(channel, known);
    return known;
  }

  /** @param value  −8192 to 8191 */
  bent(at: number, channel: number, value: number): void {
    const own = this.of(channel);
    const widest = own.range[0] * 100 + own.range[1];
    own.moments.bend.push({ at, value: (value / (value < 0 ? 8192 : 8191)) * widest });
  }

  controlled(at: number, channel: number, controller: number, value: number): void {
    const own = this.of(channel);
    const { moments } = own;
    const kind = kindOfController(controller);
    if (kind)
      moments[kind.kind].push({
        at,
        value: kind.around ? clamp(((value - 64) * 100) / 63, -100, 100) : percent(value),
      });
    else if (controller === PEDAL) moments.pedal.push({ at, value: percent(value) });
    else if (controller === RESET) {
      moments.pedal.push({ at, value: 0 });
      moments.bend.push({ at, value: 0 });
      moments.vibrato.push({ at, value: 0 });
      moments.swell.push({ at, value: 100 });
    } else if (controller === PARAMETER_HIGH) own.parameter[0] = value;
    else if (controller === PARAMETER_LOW) own.parameter[1] = value;
    // Registered parameter 0 is the range of a bend.
    else if (own.parameter[0] === 0 && own.parameter[1] === 0) {
      if (controller === DATA) own.range[0] = value;
      else if (controller === DATA_FINE) own.range[1] = value;
    }
  }

  /** What was gathered, by channel. */
  result(): Readonly<Record<number, Controls>> {
    return Object.fromEntries([...this.channels].map(([channel, { moments }]) => [channel, moments]));
  }
}

const percent = (value: number): number => (value * 100) / 127;

import type { BriefWord } from '../song/brief-words';
import { roleOf } from '../song/roles';
import type { Brief, Role } from '../song/schema';
import { clamp, type MidiNote } from '../theory/units';
import { loudnessBy, shareBy, type Movers } from './moving';

/** A range of pitch, both ends included. */
export interface Limits {
  readonly low: MidiNote;
  readonly high: MidiNote;
}

/** A register that grows narrower keeps at least this many semitones, or as many as it has. */
const ROOM = 12;
/** How far a notch moves a register, in semitones, and how much busier it makes a part. */
const [SEMITONES, BUSIER] = [3, 1.25];
const [BAREST, BUSIEST] = [0.5, 24];

/** A register moved as a whole, as far as an instrument plays. */
function moved({ low, high }: Limits, by: number, limits: Limits): Limits {
  const [down, up] = [Math.min(0, limits.low - low), Math.max(0, limits.high - high)];
  const shift = clamp(by, down, up);
  return { low: low + shift, high: high + shift };
}

/** A register that gives up one end of itself, so that its middle moves. */
function narrowed({ low, high }: Limits, by: number): Limits {
  const most = Math.max(0, high - low - ROOM);
  return by > 0 ? { low: low + Math.min(by, most), high } : { low, high: high - Math.min(-by, most) };
}

type Shares =
  | 'syncopation'
  | 'stride'
  | 'anchoring'
  | 'breath'
  | 'adventure'
  | 'recall'
  | 'length'
  | 'rolls'
  | 'dynamics'
  | 'humanise'
  | 'pickup';

const share =
  (setting: Shares) =>
  (brief: Brief, notches: number): Brief => ({ ...brief, [setting]: shareBy(brief[setting], notches) });

const MOVERS: Required<Omit<Record<BriefWord, (brief: Brief, notches: number) => Brief>, 'register'>> = {
  busyness: (brief, notches) => ({
    ...brief,
    busyness: clamp(Math.round(2 * brief.busyness * BUSIER ** notches) / 2, BAREST, BUSIEST),
  }),
  syncopation: share('syncopation'),
  stride: share('stride'),
  anchoring: share('anchoring'),
  breath: share('breath'),
  adventure: share('adventure'),
  loudness: (brief, notches) => ({ ...brief, loudness: loudnessBy(brief.loudness, notches) }),
  recall: share('recall'),
  length: share('length'),
  voices: (brief, notches) => ({ ...brief, voices: clamp(Math.round(brief.voices + notches), 1, 6) }),
  rolls: share('rolls'),
  dynamics: share('dynamics'),
  humanise: share('humanise'),
  pickup: share('pickup'),
};

/** Settings that mean nothing bar by bar: how a player strays when it sounds, and what comes before the first bar. */
const AS_A_WHOLE: ReadonlySet<string> = new Set(['humanise', 'pickup']);

/** The settings of a role's brief that lean. */
const settingsOf = (role: Role): readonly BriefWord[] => [...roleOf(role).words, ...roleOf(role).further];

const withRegister = (role: Role, move: (register: Limits, by: number) => Limits): Movers<Brief> => {
  const register = ({ low, high, ...brief }: Brief, notches: number): Brief => ({
    ...brief,
    ...move({ low, high }, Math.round(SEMITONES * notches)),
  });
  return Object.fromEntries(
    settingsOf(role).map((setting) => [setting, setting === 'register' ? register : MOVERS[setting]]),
  );
};

/**
 * How the settings of a brief lean when they are moved as a whole.
 *
 * @param limits  what the part's instrument plays
 */
export const briefMovers = (role: Role, limits: Limits): Movers<Brief> =>
  withRegister(role, (register, by) => moved(register, by, limits));

/**
 * How the settings of a brief lean from bar to bar. Its register stays inside itself, as where sections lean it: no
 * drafter leaves what the writer asked for.
 */
export const barMovers = (role: Role): Movers<Brief> =>
  Object.fromEntries(Object.entries(withRegister(role, narrowed)).filter(([setting]) => !AS_A_WHOLE.has(setting)));

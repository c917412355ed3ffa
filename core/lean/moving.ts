import { clamp } from '../theory/units';
import type { LeanMoves, LeanSetting } from '../song/schema';

/**
 * How the settings of a thing are moved by notches, parts of a notch too. A mover never leaves what the thing allows, and
 * gives it back as it was where there is no room.
 */
export type Movers<T> = Readonly<Partial<Record<LeanSetting, (of: T, notches: number) => T>>>;

/** A share moved by some % a notch. */
export const shareBy = (value: number, notches: number, step = 15): number =>
  clamp(Math.round(value + step * notches), 0, 100);

/** A velocity, moved by 8 a notch. */
export const loudnessBy = (velocity: number, notches: number): number =>
  clamp(Math.round(velocity + 8 * notches), 1, 127);

/** A thing leant so far: 0 not at all, 1 all the way. Settings that it does not have stay out of it. */
export const leant = <T>(of: T, moves: LeanMoves, share: number, movers: Movers<T>): T =>
  share === 0 ? of : moves.reduce((now, { setting, by }) => movers[setting]?.(now, by * share) ?? now, of);

/** The settings of a thing that some moves would move now: where there is no room left, nothing is moved. */
export const movedBy = <T>(of: T, moves: LeanMoves, movers: Movers<T>): LeanSetting[] =>
  moves.flatMap(({ setting, by }) => {
    const mover = movers[setting];
    return mover && JSON.stringify(mover(of, by)) !== JSON.stringify(of) ? [setting] : [];
  });

/** What can be leant of a thing. */
export const leanable = <T>(movers: Movers<T>): LeanSetting[] => Object.keys(movers) as LeanSetting[];

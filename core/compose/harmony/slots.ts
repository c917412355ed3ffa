import type { ChordSpan } from '../../song/schema';
import { beatsOf } from '../../theory/metre';
import { range, type Ticks } from '../../theory/units';
import { happens, type Random } from '../../trellis/random';
import type { HarmonyContext } from '../context';
import type { Structure } from './form';

/** A place for a chord. */
export interface Slot {
  readonly start: Ticks;
  readonly duration: Ticks;
  /** The chord that stays here exactly as it is. */
  readonly held?: ChordSpan;
  /** Degrees of the scale that a form wants here. */
  readonly degrees?: readonly string[];
}

/** Bars of a phrase: the one before its last may carry two chords. */
const PHRASE_BARS = 4;

/** Where the second half of a bar begins. */
function middleOf({ metre }: HarmonyContext): Ticks {
  const beats = beatsOf(metre);
  return (beats.find((beat) => beat.role === 'strong') ?? beats.at(-1))?.at ?? 0;
}

/** The chords of a form, bar by bar. */
function slotsOfForm(context: HarmonyContext, degrees: NonNullable<Structure['degrees']>): Slot[] {
  const middle = middleOf(context);
  return degrees.flatMap((bar, index): Slot[] => {
    const start = index * context.barTicks;
    const [first = ['1'], second] = bar;
    if (!second || middle === 0) return [{ start, duration: context.barTicks, degrees: first }];
    return [
      { start, duration: middle, degrees: first },
      { start: start + middle, duration: context.barTicks - middle, degrees: second },
    ];
  });
}

/** One or two chords a bar, or one for two bars; a bar before a cadence may carry two. Units that return return alike. */
export function drawSlots(context: HarmonyContext, structure: Structure, random: Random): Slot[] {
  const { bars, barTicks, brief, style } = context;
  if (structure.degrees) return slotsOfForm(context, structure.degrees);
  // A loop of two bars needs two chords to go round.
  if (brief.pace === 0.5 && structure.unit > 2)
    return range(Math.ceil(bars / 2)).map((index) => {
      const start = index * 2 * barTicks;
      return { start, duration: Math.min(2 * barTicks, bars * barTicks - start) };
    });
  const middle = middleOf(context);
  const splits = new Map<string, boolean>();
  return range(bars).flatMap((bar): Slot[] => {
    const start = bar * barTicks;
    const beforeCadence = bar % PHRASE_BARS === PHRASE_BARS - 2 && bars > 2;
    const name = `${structure.letters[Math.floor(bar / structure.unit)]} ${bar % structure.unit}`;
    const drawn =
      splits.get(name) ??
      (brief.pace === 2 ? happens(random, 85) : beforeCadence && happens(random, style.harmony.splits));
    splits.set(name, drawn);
    const last = bar === bars - 1 && bars > 1;
    return middle > 0 && drawn && !last
      ? [
          { start, duration: middle },
          { start: start + middle, duration: barTicks - middle },
        ]
      : [{ start, duration: barTicks }];
  });
}

/** Puts held chords in their places; drawn slots give way to them and fill what lies between. */
export function withHeld(slots: readonly Slot[], { held, places, length }: HarmonyContext): Slot[] {
  const given = [...held, ...places];
  if (given.length === 0) return [...slots];
  const inHeld = (at: Ticks): boolean => given.some(({ start, duration }) => at >= start && at < start + duration);
  const free = slots.filter(({ start }) => !inHeld(start));
  const after = given
    .map(({ start, duration }) => start + duration)
    .filter((at) => at < length && !inHeld(at) && free.every(({ start }) => start !== at));
  const all: Slot[] = [
    ...held.map((span) => ({ start: span.start, duration: span.duration, held: span })),
    ...places.map(({ start, duration }) => ({ start, duration })),
    ...free,
    ...[...new Set(after)].map((start) => ({ start, duration: 0 })),
  ].sort((a, b) => a.start - b.start);
  return all.map((slot, index) =>
    slot.held ? slot : { ...slot, duration: (all[index + 1]?.start ?? length) - slot.start },
  );
}

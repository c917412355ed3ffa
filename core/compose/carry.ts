import { rested } from '../song/bar-edit';
import { fittedNotes } from '../song/follow-chords';
import { barOf, groundOf, keyOf } from '../song/ground';
import { chordsIn, partTake, sectionTicks, soundingId, type Music } from '../song/resolve';
import { isDrumRole, isLine } from '../song/roles';
import {
  HARMONY,
  type ChordSpan,
  type HarmonyTake,
  type Note,
  type Part,
  type PartTake,
  type Section,
  type TakeId,
} from '../song/schema';
import { chordsTake, voicedTake } from '../song/take';
import { pitchClassOf, type Fifths } from '../theory/pitch';
import { clamp, modulo, range, type Ticks } from '../theory/units';
import { carriedLine } from './carry-line';
import { playOwnPhrase } from './own-phrases';
import { AS_IT_IS } from './phrase';

/** Takes, or some bars of them, carried to another section or another part: fitted to its chords, key, metre and length. */

/** What is carried. */
export interface CarrySource {
  readonly section: Section;
  readonly part: Part;
  readonly take: PartTake;
  /** Counted from 0, `to` not included; null is all of it. */
  readonly bars: { readonly from: number; readonly to: number } | null;
}

/** Where to. */
export interface CarryTarget {
  readonly section: Section;
  readonly part: Part;
  /** The bar that chosen bars begin at, counted from 0; a whole take fills the section. */
  readonly bar: number;
}

export type Carried = { readonly ok: true; readonly take: PartTake } | { readonly ok: false; readonly reason: string };

interface Spanned {
  readonly start: Ticks;
  readonly duration: Ticks;
}

/** What lies in some bars, in bars of another length: what has no room in them is cut. */
function rebarred<T extends Spanned>(items: readonly T[], from: Ticks, to: Ticks): T[] {
  if (from === to) return [...items];
  return items.flatMap((item): T[] => {
    const bar = Math.floor(item.start / from);
    const inBar = item.start - bar * from;
    if (inBar >= to) return [];
    const wholeBars = Math.floor((inBar + item.duration) / from);
    const rest = Math.min(to, (inBar + item.duration) % from);
    const end = wholeBars * to + rest;
    return [{ ...item, start: bar * to + inBar, duration: Math.max(1, end - inBar) }];
  });
}

/** Items as far as they lie in a stretch, from its start. */
const clipped = <T extends Spanned>(items: readonly T[], from: Ticks, to: Ticks): T[] =>
  items
    .filter(({ start, duration }) => start < to && start + duration > from)
    .map((item) => ({
      ...item,
      start: Math.max(item.start, from) - from,
      duration: Math.min(item.start + item.duration, to) - Math.max(item.start, from),
    }));

/** Items said again until a length is full. */
const repeated = <T extends Spanned>(items: readonly T[], once: Ticks, length: Ticks): T[] =>
  clipped(
    range(Math.ceil(length / once)).flatMap((round) =>
      items.map((item) => ({ ...item, start: item.start + round * once })),
    ),
    0,
    length,
  );

/** Notes that begin in a stretch, from its start, cut where it ends. */
const begun = (notes: readonly Note[], from: Ticks, to: Ticks): Note[] =>
  notes
    .filter(({ start }) => start >= from && start < to)
    .map(({ start, duration, pitch, velocity }) => ({
      start: start - from,
      duration: Math.min(start + duration, to) - start,
      pitch,
      velocity,
    }));

/** Semitones from one tonic to another by the shorter way. */
const nearestShift = (from: Fifths, to: Fifths): number => modulo(pitchClassOf(to) - pitchClassOf(from) + 5, 12) - 5;

/** Into a register by octaves, as far as they bring it there. */
function folded(note: Note, { low, high }: Part['brief']): Note {
  let { pitch } = note;
  while (pitch < low && pitch + 12 <= high) pitch += 12;
  while (pitch > high && pitch - 12 >= low) pitch -= 12;
  return pitch === note.pitch ? note : { ...note, pitch };
}

/**
 * Carries a take, or some bars of it, to another section or part. A whole take is said again until the section is full;
 * chosen bars come into what the part plays there, from a bar on.
 *
 * @param id    for the take that is made
 * @param from  what is carried, in words
 * @returns why not, where drums and pitches would have to become each other, or nothing is played
 */
export function carriedTake(
  music: Music,
  { section, part, take, bars }: CarrySource,
  target: CarryTarget,
  id: TakeId,
  from: string,
): Carried {
  const { score, takes, heard } = music;
  if (isDrumRole(part.role) !== isDrumRole(target.part.role))
    return {
      ok: false,
      reason: 'Drums strike and other parts play pitches: neither can take over what the other plays.',
    };
  const [own, bar] = [barOf(score, section), barOf(score, target.section)];
  const span = bars ?? { from: 0, to: section.bars };
  const [start, end] = [span.from * own, Math.min(span.to, section.bars) * own];
  const notes = rebarred(begun(fittedNotes(music, section, take), start, end), own, bar);
  if (notes.length === 0) return { ok: false, reason: 'Nothing is played in what would be carried.' };
  const chords = rebarred(clipped(chordsIn(section, takes, heard), start, end), own, bar);
  const ground = groundOf(score, target.section);
  const length = sectionTicks(score, target.section);
  const at = bars === null ? 0 : Math.min(target.bar, target.section.bars - 1) * bar;
  const room = bars === null ? length : Math.min((span.to - span.from) * bar, length - at);
  const { tonic, scale } = groundOf(score, section);
  const phrase = {
    id: 'carried',
    name: from,
    role: part.role,
    tonic,
    scale,
    bar,
    length: (span.to - span.from) * bar,
    notes,
    // Lines are fitted below, so that they go where they went.
    chords: chords.length > 0 && !isLine(part.role) ? chords : [{ start: 0, duration: length, chord: null }],
  };
  const over = clipped(chordsIn(target.section, takes, heard), at, at + room);
  const register = part.id === target.part.id || isDrumRole(part.role) ? null : target.part.brief;
  const said = playOwnPhrase(phrase, { ground, length: room }, over, AS_IT_IS, register);
  const under = { chords: repeated(chords, phrase.length, room), key: { tonic, scale } };
  const played =
    isLine(part.role) && chords.length > 0 && over.length > 0
      ? carriedLine(said, under, { chords: over, key: keyOf(ground) })
      : said;
  // Without chords on both sides there is nothing to fit to but the key.
  const up = isDrumRole(part.role) || (chords.length > 0 && over.length > 0) ? 0 : nearestShift(tonic, ground.tonic);
  const moved = played
    .map((note) => ({ ...note, start: note.start + at, pitch: clamp(note.pitch + up, 0, 127) }))
    .map((note) => (register === null ? note : folded(note, register)));
  const before = bars === null ? null : partTake(takes, soundingId(target.section, target.part.id, heard));
  const around = before ? rested(fittedNotes(music, target.section, before), { from: at, to: at + room }) : [];
  return {
    ok: true,
    take: voicedTake(
      { id, section: target.section.id, length },
      target.part,
      [...around, ...moved].sort((a, b) => a.start - b.start || a.pitch - b.pitch),
      {
        from,
        parents: [take.id, ...(before ? [before.id] : [])],
        harmony: soundingId(target.section, HARMONY, heard),
        ground,
      },
    ),
  };
}

/**
 * Carries chords to another section: said again until it is full, in its own key.
 *
 * @param id    for the take that is made
 * @param from  what is carried, in words
 */
export function carriedChords(
  { score }: Pick<Music, 'score'>,
  section: Section,
  take: HarmonyTake,
  target: Section,
  id: TakeId,
  from: string,
): HarmonyTake {
  const [own, bar] = [barOf(score, section), barOf(score, target)];
  const chords = rebarred(take.chords, own, bar);
  const [once, length] = [section.bars * bar, target.bars * bar];
  const up = groundOf(score, target).tonic - groundOf(score, section).tonic;
  const moved = (span: ChordSpan): ChordSpan => ({
    ...span,
    chord: span.chord && {
      ...span.chord,
      root: span.chord.root + up,
      ...(span.chord.bass === null ? {} : { bass: span.chord.bass + up }),
    },
  });
  return chordsTake({ id, section: target.id, length }, repeated(chords, once, length).map(moved), {
    how: 'picked',
    from,
    parents: [take.id],
  });
}

import type { Role } from '../../song/schema';
import type { Family } from '../../sounding/instruments';
import { TICKS_PER_QUARTER } from '../../theory/units';
import type { ImportNote } from './file-model';

/** What lines are called where their name says what they do; the first that fits counts. */
const NAMED: readonly (readonly [words: RegExp, role: Role])[] = [
  [/\b(?:counter[- ]?(?:melody|line)?|obbligato)\b/i, 'counter'],
  [/\b(?:melody|melodie|vocals?|vox|lead vocal|sing(?:er|ing)?|voice|tune|theme)\b/i, 'melody'],
  [/\bsolo\b/i, 'solo'],
  [/\b(?:arp|arpeggio|arpeggios|arpeggiator)\b/i, 'arpeggio'],
  [/\b(?:strum|strums|strumming|strummed|rhythm guitar)\b/i, 'strum'],
  [/\b(?:picking|picked|fingerpicking)\b(?! bass)/i, 'picking'],
  [/\bpads?\b/i, 'pad'],
  [/\bostinato\b/i, 'ostinato'],
];
/** Roles of one voice and of several; a name that the notes belie does not count. */
const ALONE: ReadonlySet<Role> = new Set(['melody', 'solo', 'counter', 'bass', 'ostinato', 'arpeggio', 'picking']);

interface Texture {
  /** Notes that begin together, on average. */
  readonly together: number;
  /** Their middle, as a MIDI note. */
  readonly height: number;
  /** How long they are on average, in ticks. */
  readonly length: number;
  /** The share of steps from note to note that are thirds or wider, as broken chords are. */
  readonly wide: number;
  /** The share of steps in time that are as long as most of them. */
  readonly even: number;
  /** The share of notes whose pitch comes back within the next eight notes. */
  readonly back: number;
}

function textureOf(notes: readonly ImportNote[]): Texture {
  const count = Math.max(1, notes.length);
  const mean = (of: (note: ImportNote) => number): number => notes.reduce((sum, note) => sum + of(note), 0) / count;
  const steps = notes.slice(1).map((note, index) => {
    const before = notes[index] as ImportNote;
    return { time: note.start - before.start, width: Math.abs(note.pitch - before.pitch) };
  });
  const times = new Map<number, number>();
  // Hands are not exact: steps in time within a thirty-second are one.
  for (const { time } of steps) times.set(Math.round(time / 60), (times.get(Math.round(time / 60)) ?? 0) + 1);
  const share = (some: number): number => some / Math.max(1, steps.length);
  const returning = notes.filter(({ pitch }, index) =>
    notes.slice(index + 1, index + 9).some((later) => later.pitch === pitch),
  );
  return {
    together: count / Math.max(1, new Set(notes.map(({ start }) => Math.round(start / 30))).size),
    height: mean(({ pitch }) => pitch),
    length: mean(({ duration, held }) => held ?? duration),
    wide: share(steps.filter(({ width }) => width >= 3 && width <= 12).length),
    even: share(Math.max(0, ...times.values())),
    back: returning.length / count,
  };
}

/** A single line that runs evenly through broken chords is an arpeggio and no melody. */
const isBroken = ({ wide, even, back }: Texture): boolean => wide >= 0.7 && even >= 0.7 && back >= 0.6;

const DRUMS_OF_A_KIT: ReadonlySet<number> = new Set([35, 36, 38, 40, 42, 44, 46, 51, 53, 59]);

/** Drums without kick, snare, hat and ride are percussion. */
export const drumRoleFor = (notes: readonly ImportNote[]): Role =>
  notes.length > 0 && notes.every(({ pitch }) => !DRUMS_OF_A_KIT.has(pitch)) ? 'percussion' : 'drums';

/** A likely role: by its name, by register, by how many notes sound together and by how they move. */
export function roleFor(notes: readonly ImportNote[], family: Family, name: string): Role {
  const texture = textureOf(notes);
  const single = texture.together < 1.2;
  const named = NAMED.find(([words]) => words.test(name))?.[1];
  if (named !== undefined && (single || !ALONE.has(named))) return named;
  if (family === 'basses' || (single && texture.height < 50)) return single ? 'bass' : 'comping';
  if (single) return isBroken(texture) ? (family === 'guitars' ? 'picking' : 'arpeggio') : 'melody';
  if (texture.length > 2 * TICKS_PER_QUARTER) return 'pad';
  return family === 'guitars' && texture.together >= 2.5 ? 'strum' : 'comping';
}

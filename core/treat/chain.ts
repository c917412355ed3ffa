import { byStart, endsApart } from '../song/note-ends';
import type { Chain, Note, Only, Treatment } from '../song/schema';
import { arpeggiate } from './arpeggiate';
import { length, legato } from './lengths';
import { invert, voice } from './lines';
import { delay, echo, reverse, strum, time } from './moments';
import { snap } from './snap';
import { stack } from './stack';
import { stray } from './stray';
import { humanise, loudness, thin } from './touches';
import { octave, transpose } from './transpose';
import type { Notes, Treating } from './treating';

function treatedBy(notes: Notes, treatment: Treatment, over: Treating): Notes {
  switch (treatment.does) {
    case 'transpose':
      return transpose(notes, treatment, over);
    case 'octave':
      return octave(notes, treatment, over);
    case 'stack':
      return stack(notes, treatment, over);
    case 'arpeggiate':
      return arpeggiate(notes, treatment, over);
    case 'stray':
      return stray(notes, treatment, over);
    case 'snap':
      return snap(notes, treatment, over);
    case 'length':
      return length(notes, treatment, over);
    case 'delay':
      return delay(notes, treatment, over);
    case 'echo':
      return echo(notes, treatment, over);
    case 'strum':
      return strum(notes, treatment, over);
    case 'thin':
      return thin(notes, treatment, over);
    case 'loudness':
      return loudness(notes, treatment, over);
    case 'humanise':
      return humanise(notes, treatment, over);
    case 'legato':
      return legato(notes, treatment, over);
    case 'time':
      return time(notes, treatment, over);
    case 'reverse':
      return reverse(notes, treatment, over);
    case 'invert':
      return invert(notes, treatment, over);
    case 'voice':
      return voice(notes, treatment, over);
  }
}

const isMeant = (note: Note, { by, low, high }: Only): boolean => {
  const value = by === 'pitch' ? note.pitch : note.velocity;
  return value >= low && value <= high;
};

/** Notes of one pass at most: where treatments multiply each other, the softest go. */
export const MOST_SOUNDING = 6000;

/**
 * What lies in the section, in order, or leads into it by a bar at most: every note ends, a bar after the section at the
 * latest, and before the same pitch begins again.
 */
function settled(notes: Notes, { length: end, bar }: Treating): Note[] {
  const there = notes.flatMap((note): Note[] => {
    if (note.start >= end || note.start < -bar) return [];
    // What is struck again is struck in the section.
    const latest = note.strikes === undefined ? end + bar : end;
    return [note.start + note.duration > latest ? { ...note, duration: latest - note.start } : note];
  });
  const inside =
    there.length > MOST_SOUNDING ? there.sort((a, b) => b.velocity - a.velocity).slice(0, MOST_SOUNDING) : there;
  return endsApart(inside.sort(byStart), (before, after) => (after.velocity > before.velocity ? after : before));
}

/** True where a chain leaves notes as they are: nothing in it is switched on, and nothing sounds meanwhile. */
export const isPlain = (chain: Chain): boolean => chain.length === 1 && !chain.flat().some(({ off }) => !off);

/** One treatment, of the notes that it is for; the others pass it by. */
function treated(notes: Notes, treatment: Treatment, over: Treating): Notes {
  if (treatment.off) return notes;
  const { only } = treatment;
  const meant = only ? notes.filter((note) => isMeant(note, only)) : notes;
  const others = only ? notes.filter((note) => !isMeant(note, only)) : [];
  return settled([...treatedBy(meant, treatment, over), ...others], over);
}

/**
 * Notes as a chain makes them: each branch goes from its first treatment to its last, and all sound together. What
 * chance draws in one place of the chain is independent of all others.
 *
 * @param notes  in order, as they are written or made for the pass
 * @returns in order, inside the section, none over the next on its pitch
 */
export function throughChain(notes: Notes, chain: Chain, over: Treating): Notes {
  const branches = chain.map((branch, place) =>
    branch.reduce<Notes>(
      (now, treatment, step) => treated(now, treatment, { ...over, seed: over.seed + 1000 * place + step }),
      notes,
    ),
  );
  return branches.length === 1 ? (branches[0] ?? notes) : settled(branches.flat(), over);
}

import { fittedNotes } from '../song/follow-chords';
import { barOf, groundOf } from '../song/ground';
import { numberOf, remembering } from '../song/remember';
import { chordsIn, sectionTicks, type Music } from '../song/resolve';
import type { Note, Pattern, PartTake, Section, TakeNote } from '../song/schema';
import { withNoteIds } from '../song/take';
import { drawnNotes } from './drawn';
import { leaningNotes } from './leaning';
import { loopNotes } from './loops';
import type { Over } from './over';
import { wanderingNotes } from './wandering';

/** Passes of one pattern that are remembered: those that a long song holds, and those that are looked back at. */
const KEPT = 64;

const made = remembering<readonly TakeNote[]>(KEPT);

/** What a section gives a pattern to be played over. */
export const overOf = (music: Music, section: Section, pass: number): Over => ({
  chords: chordsIn(section, music.takes, music.heard),
  ground: groundOf(music.score, section),
  length: sectionTicks(music.score, section),
  bar: barOf(music.score, section),
  pass,
});

function notesOf(pattern: Pattern, over: Over): Note[] {
  switch (pattern.of) {
    case 'drawn':
      return drawnNotes(pattern, over);
    case 'loops':
      return loopNotes(pattern, over);
    case 'wandering':
      return wanderingNotes(pattern, over);
  }
}

/**
 * The notes of a pattern in one pass.
 *
 * @returns in order, inside the section, the same list as long as nothing changes
 */
export function patternNotes(pattern: Pattern, over: Over): readonly TakeNote[] {
  const { tonic, scale, weights } = over.ground;
  const name = [over.pass, numberOf(over.chords), over.length, over.bar, tonic, scale, weights?.join(',')].join(' ');
  return made(pattern, name, () => withNoteIds(leaningNotes(pattern, over, notesOf)));
}

/**
 * What a take plays in one pass over the chords that sound: its notes, fitted to them; of one that goes on by itself,
 * those of that pass.
 *
 * @param pass  how often the section was played before
 */
export const passNotes = (music: Music, section: Section, take: PartTake, pass: number): readonly TakeNote[] =>
  take.pattern ? patternNotes(take.pattern, overOf(music, section, pass)) : fittedNotes(music, section, take);

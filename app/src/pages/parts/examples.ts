import type { ChordSpan, Note } from '@fendro/core/song/schema';
import { readChord } from '@fendro/core/theory/read-chord';
import type { Chord } from '@fendro/core/theory/chord';
import type { NoteRole } from '@fendro/core/study/note-roles';
import type { Idea } from '../../ui/idea-list';
import type { SentenceWord } from '../../ui/sentence';

/** Made-up music and words that the small parts are shown with. */

export const chord = (symbol: string): Chord | null => {
  const reading = readChord(symbol);
  return reading.ok ? reading.chord : null;
};

const CHORDS = ['Dm7', 'G7', 'Cmaj7', 'F/A'];
export const BAR = 1920;

export const spans: readonly ChordSpan[] = CHORDS.map((symbol, bar) => ({
  start: bar * BAR,
  duration: BAR,
  chord: chord(symbol),
}));

export const melody: readonly Note[] = [62, 64, 65, 69, 67, 65, 64, 62, 64, 67, 72, 71, 69, 67, 65, 69].map(
  (pitch, place) => ({ start: place * 480, duration: 420, pitch, velocity: 60 + 4 * (place % 4) }),
);

export const drums: readonly Note[] = Array.from({ length: 16 }, (_, place) => place).flatMap((place): Note[] => [
  { start: place * 480, duration: 100, pitch: 42, velocity: 70 },
  ...(place % 4 === 0 ? [{ start: place * 480, duration: 100, pitch: 36, velocity: 100 }] : []),
  ...(place % 4 === 2 ? [{ start: place * 480, duration: 100, pitch: 38, velocity: 95 }] : []),
]);

const ROLES: readonly NoteRole[] = [
  'chord note',
  'passing',
  'neighbour',
  'suspension',
  'anticipation',
  'appoggiatura',
  'colour',
  'escape',
  'free',
];
export const roles: readonly NoteRole[] = melody.map((_, place) => ROLES[place % ROLES.length] ?? 'free');

export const words: readonly SentenceWord[] = [
  { id: 'busyness', label: 'Busyness', text: 'moderate', usual: true },
  { id: 'leaps', label: 'Leaps', text: 'wide leaps', usual: false },
  { id: 'register', label: 'Register', text: 'from D5 to E5', usual: false, blamed: true },
];

const withChord = (symbol: string): Pick<Idea, 'chord'> => {
  const reading = readChord(symbol);
  return reading.ok && reading.chord ? { chord: reading.chord } : {};
};

/** @param theme  begins the ids, since both themes are on one page */
export const ideas = (theme: string): readonly Idea[] => [
  { id: `${theme}-fifth`, ...withChord('G7'), detail: 'falls a fifth, leads to C', marked: 'kept' },
  { id: `${theme}-borrowed`, ...withChord('Bb'), detail: 'borrowed from minor' },
  { id: `${theme}-words`, text: 'Slow turn', detail: 'four bars, ends on the dominant' },
];

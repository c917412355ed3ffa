/**
 * How much one song holds. The check of every edit, the import and the controls that add things all read these, so that
 * nothing can be made that could not be opened again.
 */
export const LIMITS = {
  /** Letters of a song's title, and of the names of sections, parts and takes. */
  title: 120,
  name: 60,
  parts: 24,
  sections: 64,
  /** Places of the running order. */
  places: 256,
  /** Bars of one section. */
  bars: 64,
  energyPoints: 2_000,
  /** Points of a section's tempo. */
  tempoPoints: 64,
  motifs: 32,
  /** Styles of the writer's own that a song carries. */
  styles: 64,
  /** Recordings under the song. */
  guides: 16,
  /** Holds of one line in a section. */
  holds: 256,
  /** Notes and chords of one take. */
  notes: 20_000,
  chords: 2_000,
  /** Drafted takes that nobody has heard, chosen or judged; beyond these the oldest are let go. */
  unheardTakes: 2_000,
} as const;

/** Letters of a chord that could not be read. */
export const LONGEST_UNREAD = 40;

/**
 * Songs that an older Fendro let grow past the limits of parts, sections and places still open, up to this many
 * times.
 */
export const ROOM_FOR_OLDER = 8;

/** “Chorus” of “chorus”. */
export const capitalised = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** “a, b and c”. */
export const listed = (words: readonly string[]): string =>
  words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`;

/** Text cut to a number of letters, never inside a letter that takes two places. */
export function shortened(text: string, most: number): string {
  if (text.length <= most) return text;
  const cut = text.slice(0, most);
  const last = cut.charCodeAt(most - 1);
  return (last >= 0xd800 && last < 0xdc00 ? cut.slice(0, -1) : cut).trimEnd();
}

/** A name with something after it that must stay whole, shortened before it where the two are too long. */
export const withEnding = (name: string, ending: string, most: number): string =>
  shortened(name, most - ending.length) + ending;

/** The name itself, else the first of “name 2”, “name 3” … that is not taken. */
export function numbered(name: string, taken: ReadonlySet<string>, most: number): string {
  let result = shortened(name, most);
  for (let number = 2; taken.has(result); number++) result = withEnding(name, ` ${number}`, most);
  return result;
}

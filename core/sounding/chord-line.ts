import { groundOf } from '../song/ground';
import { chordsIn, type Music } from '../song/resolve';
import type { ChordSetting, ChordSpan, Note, Section } from '../song/schema';
import type { Metre } from '../theory/metre';
import { performChords } from '../voicing/chord-line';

/** What a rhythm leaves to chance is drawn from this, so that it comes out alike wherever the chord line is struck. */
const SEED = 1;

/** Struck once for each progression and setting; neither ever changes. */
const struck = new WeakMap<
  readonly ChordSpan[],
  WeakMap<ChordSetting, { readonly name: string; readonly notes: readonly Note[] }>
>();

/**
 * Chords as a setting voices and strikes them: heard by themselves, handed over and given to a part, they are these
 * notes.
 *
 * @param bars  the section's length
 * @returns notes from the section's start, the same list as long as nothing changes
 */
export function struckChords(
  chords: readonly ChordSpan[],
  setting: ChordSetting,
  metre: Metre,
  bars: number,
): readonly Note[] {
  const name = `${bars} ${metre.beats}/${metre.unit} ${metre.groups.join('+')}`;
  const bySetting = struck.get(chords) ?? new WeakMap<ChordSetting, { name: string; notes: readonly Note[] }>();
  struck.set(chords, bySetting);
  const known = bySetting.get(setting);
  if (known?.name === name) return known.notes;
  const notes = performChords(chords, setting, metre, bars, SEED);
  bySetting.set(setting, { name, notes });
  return notes;
}

/** A section's chord line as it is written under a setting, from the section's start. */
export const chordLineNotes = (
  { score, takes, heard }: Music,
  section: Section,
  setting: ChordSetting,
): readonly Note[] =>
  struckChords(chordsIn(section, takes, heard), setting, groundOf(score, section).metre, section.bars);

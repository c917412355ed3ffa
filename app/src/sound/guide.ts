import { performChords } from '@fendro/core/voicing/chord-line';
import { groundOf } from '@fendro/core/song/ground';
import { chordsIn, type HeardTakes, type Placed, type Takes } from '@fendro/core/song/resolve';
import { ACCOMPANYING } from '@fendro/core/song/roles';
import { HARMONY, type ChordSetting, type LineId, type Note, type Score, type Section } from '@fendro/core/song/schema';
import { soundingNotes } from '@fendro/core/sounding/parts';
import { grooved, type SoundingNote, type Span } from '@fendro/core/sounding/timeline';

/** The chord line is no part; where it is heard by itself it goes by this name. */
export const GUIDE = 'chord guide';

/** What the chord line sounds on, by how it is voiced. */
export const GUIDE_INSTRUMENTS: Readonly<Record<ChordSetting['family'], string>> = {
  keyboard: 'grand-piano',
  guitar: 'steel-guitar',
  ensemble: 'string-ensemble',
};

/** Performed once for each progression and setting; neither ever changes. */
const performed = new WeakMap<
  object,
  WeakMap<ChordSetting, { readonly name: string; readonly notes: readonly Note[] }>
>();

/** A section's chord line as it sounds under a setting. */
export function guideLine(
  score: Score,
  section: Section,
  takes: Takes,
  heard: HeardTakes,
  setting: ChordSetting,
): readonly Note[] {
  const chords = chordsIn(section, takes, heard);
  const { metre } = groundOf(score, section);
  const name = `${section.bars} ${metre.beats}/${metre.unit} ${metre.groups.join('+')}`;
  const bySetting =
    performed.get(chords) ?? new WeakMap<ChordSetting, { readonly name: string; readonly notes: readonly Note[] }>();
  performed.set(chords, bySetting);
  const known = bySetting.get(setting);
  if (known?.name === name) return known.notes;
  const notes = performChords(chords, setting, metre, section.bars, 1);
  bySetting.set(setting, { name, notes });
  return notes;
}

/**
 * True where the chords sound by themselves: while they are in focus, and in a loop in which no part plays them yet.
 * Never in the song as it plays through: that sounds as it is delivered.
 */
export function guideSounds(
  section: Section,
  score: Score,
  takes: Takes,
  heard: HeardTakes,
  line: LineId,
  looping: boolean,
): boolean {
  if (line === HARMONY) return true;
  return (
    looping &&
    score.parts.every(
      (part) => !ACCOMPANYING.includes(part.role) || soundingNotes(score, section, part.id, takes, heard).length === 0,
    )
  );
}

/** The guide's notes in a span of the running order. */
export function guideNotes(
  placed: readonly Placed[],
  score: Score,
  sounds: (section: Section) => boolean,
  settingOf: (section: Section) => ChordSetting,
  takes: Takes,
  heard: HeardTakes,
  span: Span,
): SoundingNote[] {
  return placed
    .filter(({ section, start, length }) => start < span.to && start + length > span.from && sounds(section))
    .flatMap(({ section, start, length }) =>
      grooved(guideLine(score, section, takes, heard, settingOf(section)), groundOf(score, section))
        .filter((note) => note.start < length)
        .map(({ start: from, duration, pitch, velocity }): SoundingNote => ({
          part: GUIDE,
          start: start + from,
          end: start + Math.min(length, from + Math.max(10, duration)),
          pitch,
          velocity,
        })),
    )
    .filter(({ start, end }) => end > span.from && start < span.to && end > start)
    .sort((a, b) => a.start - b.start || a.pitch - b.pitch);
}

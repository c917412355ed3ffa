import fc from 'fast-check';
import { PLAIN_CHORDS } from '../song/briefs';
import { splitChord } from '../song/chord-edit';
import { HARMONY, chordSpanSchema, type HarmonyTake } from '../song/schema';
import { chosenId } from '../song/section';
import { withNoteIds } from '../song/take';
import { struckChords } from '../sounding/chord-line';
import { scoreWith } from '../testing/scores';
import { barTicks } from '../theory/metre';
import { performChords } from '../voicing/chord-line';
import { chordsByThemselves, chordsWithNotes } from './chord-notes';
import { moved, removed } from './place';
import type { Room } from './room';

const { score, takes } = scoreWith(2, 0);
const section = score.sections[0]!;
const { chords } = takes[chosenId(section, HARMONY)!] as HarmonyTake;
const { metre } = score.ground;
const ROOM: Room = { from: 0, to: section.bars * barTicks(metre), low: 21, high: 108 };
const struck = (own: typeof chords) => withNoteIds(struckChords(own, PLAIN_CHORDS, metre, section.bars));
const plain = (notes: readonly { start: number; duration: number; pitch: number }[]) =>
  notes.map(({ start, duration, pitch }) => [start, duration, pitch]).sort((a, b) => a[0]! - b[0]! || a[2]! - b[2]!);

describe('chords as single notes', () => {
  it('keep what an edit made of them with the chord, and leave the others to their rhythm', () => {
    const before = struck(chords);
    const top = before.filter(({ start }) => start === 0).at(-1)!;
    const after = moved(before, new Set([top.id]), { ticks: 0, semitones: 2 }, ROOM);
    const edited = chordsWithNotes(chords, before, after);
    expect(edited.filter(({ voicing }) => voicing?.notes)).toHaveLength(1);
    expect(plain(struck(edited))).toEqual(plain(after));
    for (const span of edited) expect(chordSpanSchema.safeParse(span).success).toBe(true);
    expect(chordsByThemselves(edited, () => true).map(({ voicing }) => voicing?.notes)).toEqual(
      edited.map(() => undefined),
    );
  });

  it('sound as they were shaped, whatever is moved and taken away', () => {
    fc.assert(
      fc.property(
        fc.array(fc.nat(40), { minLength: 1, maxLength: 5 }),
        fc.integer({ min: -6, max: 6 }),
        fc.boolean(),
        (places, by, gone) => {
          const before = struck(chords);
          const ids = new Set(places.map((place) => before[place % before.length]!.id));
          const after = gone ? removed(before, ids) : moved(before, ids, { ticks: 0, semitones: by }, ROOM);
          expect(plain(struck(chordsWithNotes(chords, before, after)))).toEqual(plain(after));
        },
      ),
      { numRuns: 60 },
    );
  });

  it('end where their chord is cut, and its second half strikes in the rhythm', () => {
    const before = struck(chords);
    const edited = chordsWithNotes(chords, before, removed(before, new Set([before[0]!.id])));
    const cut = splitChord(edited, 480, ROOM.to);
    expect(cut[1]!.voicing?.notes).toBeUndefined();
    const notes = performChords(cut, PLAIN_CHORDS, metre, section.bars, 1);
    expect(notes.some(({ start }) => start === 480)).toBe(true);
  });
});

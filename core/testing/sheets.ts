import { usualLead } from '../notation/lead-sheet';
import type { Music } from '../song/resolve';
import type { Part, Take } from '../song/schema';
import { readChord } from '../theory/read-chord';
import { scoreWith } from './scores';
import { musicOf } from './sounding';

/** A section played twice, whose melody ends otherwise the second time; with the part that plays it. */
export function songWithEndings(): { readonly music: Music; readonly melody: Part } {
  const { score: drafted, takes } = scoreWith(5, 0);
  const melody = usualLead(drafted)!;
  const [first] = drafted.sections;
  const take = takes[first!.chosen[melody.id]!.take]!;
  if (take.of !== 'part') throw new Error('no melody');
  const other: Take = {
    ...take,
    id: 'other',
    notes: take.notes.map((note) => (note.start >= 1920 ? { ...note, pitch: note.pitch + 2 } : note)),
  };
  const second = {
    ...first!,
    id: 'section-3',
    chosen: { ...first!.chosen, [melody.id]: { ...first!.chosen[melody.id]!, take: 'other' } },
  };
  const score = {
    ...drafted,
    sections: [...drafted.sections, second],
    order: ['section-1', 'section-3'].map((section) => ({ id: section, section })),
  };
  return { music: musicOf(score, { ...takes, other }), melody };
}

/** A small song whose first section has these chords, a beat each; what is no chord is none. */
export function songOverChords(symbols: readonly string[]): Music {
  const { score, takes } = scoreWith(3, 0);
  const harmony = score.sections[0]!.harmony!;
  const chords = symbols.map((symbol, index) => {
    const reading = readChord(symbol);
    return { start: index * 480, duration: 480, chord: reading.ok ? reading.chord : null };
  });
  return musicOf(score, { ...takes, [harmony]: { ...takes[harmony]!, chords } as Take });
}

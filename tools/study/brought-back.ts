/** Songs that were handed over and brought in again: how much of their harmony is found in their notes alone. */
import { chordsOfFile, keysOfFile } from '@fendro/core/files/incoming/imported-song';
import { readImport } from '@fendro/core/files/incoming/midi-import';
import { deliverSong } from '@fendro/core/files/outgoing/deliver';
import { chordsIn, NOTHING_HEARD } from '@fendro/core/song/resolve';
import type { Chord } from '@fendro/core/theory/chord';
import { barTicks } from '@fendro/core/theory/metre';
import { pitchClassOf } from '@fendro/core/theory/pitch';
import { TICKS_PER_QUARTER } from '@fendro/core/theory/units';
import type { DraftedSong } from './songs';

/** Shares of the eighths in which a chord sounds. */
interface FoundHarmony {
  /** Eighths whose root was found, and all. */
  readonly roots: number;
  readonly thirds: number;
  readonly all: number;
}

const EIGHTH = TICKS_PER_QUARTER / 2;

const third = ({ tones }: Chord): string => tones.find((tone) => ['3', 'b3'].includes(tone)) ?? 'none';

export function foundHarmony({ score: drafted, takes }: DraftedSong): FoundHarmony {
  const order = drafted.sections.map(({ id }, index) => ({ id: `place ${index}`, section: id }));
  const score = { ...drafted, order };
  const reading = readImport(deliverSong({ score, takes, heard: NOTHING_HEARD }).bytes);
  if (!reading.ok) return { roots: 0, thirds: 0, all: 0 };
  const { file } = reading;
  const key = keysOfFile(file)[0]?.key ?? score.ground;
  const found = chordsOfFile(
    file,
    file.lines.map(({ id }) => id),
    key,
  );
  let [roots, thirds, all] = [0, 0, 0];
  score.sections.forEach((section, index) => {
    const meant = chordsIn(section, takes, NOTHING_HEARD);
    for (let at = 0; at < section.bars * barTicks(score.ground.metre); at += EIGHTH) {
      const on = (spans: typeof meant): Chord | null => spans.findLast(({ start }) => start <= at)?.chord ?? null;
      const [right, heard] = [on(meant), on(found[index] ?? [])];
      if (!right) continue;
      all++;
      if (!heard || pitchClassOf(heard.root) !== pitchClassOf(right.root)) continue;
      roots++;
      if (third(heard) === third(right)) thirds++;
    }
  });
  return { roots, thirds, all };
}

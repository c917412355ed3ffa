import { fitNotes } from '../song/fit';
import type { Brief, ChordSpan, Note } from '../song/schema';
import { range } from '../theory/units';
import { happens } from '../trellis/random';
import type { PartContext, PartDraft } from './context';
import { drawVelocities } from './dynamics';
import type { Streams } from './stages';
import { draftMelody } from './melody/melody';

/** How much more a riff's few notes have to say about its stride than a melody's many. */
const WIDENED = 1.6;

const strideOf = ({ stride }: Brief): number => 50 + WIDENED * (stride - 50);

/**
 * Drafts a riff: a cell of one or two bars over the first chord, said again in every bar and re-fitted to each chord by
 * least motion, so that it stays recognisable.
 */
export function draftOstinato(context: PartContext, streams: Streams): PartDraft {
  const { bars, barTicks, brief, chords, key } = context;
  const cellBars = bars >= 4 && happens(streams('plan', 'cell'), 35) ? 2 : 1;
  const home = chords.find(({ chord }) => chord !== null)?.chord ?? null;
  const cellLength = cellBars * barTicks;
  const cellChords: readonly ChordSpan[] = [{ start: 0, duration: cellLength, chord: home }];
  const cell = draftMelody(
    {
      ...context,
      bars: cellBars,
      length: cellLength,
      chords: cellChords,
      brief: {
        ...brief,
        recall: 100,
        breath: 0,
        pickup: 0,
        stride: strideOf(brief),
        adventure: Math.min(100, brief.adventure * 1.25),
      },
    },
    streams,
  );
  if (!cell.ok) return cell;
  const notes = range(Math.ceil(bars / cellBars)).flatMap((round) => {
    const from = round * cellLength;
    const room = Math.min(cellLength, context.length - from);
    const here = cell.notes
      .filter(({ start }) => start < room)
      .map((note): Note => ({
        ...note,
        start: note.start + from,
        duration: Math.min(note.duration, from + room - (note.start + from)),
      }));
    const moved = fitNotes(
      here,
      { chords: [{ start: from, duration: room, chord: home }], key },
      { chords, key },
      { role: 'ostinato', low: brief.low, high: brief.high },
    );
    return [...moved];
  });
  const sorted = notes.sort((a, b) => a.start - b.start || a.pitch - b.pitch);
  const velocities = drawVelocities(
    sorted.map(({ start }) => start),
    brief.loudness,
    context,
    streams('dynamics', 'rounds'),
  );
  return { ok: true, notes: sorted.map((note, index) => ({ ...note, velocity: velocities[index] as number })) };
}

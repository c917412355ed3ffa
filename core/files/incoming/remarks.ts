import { barTicks } from '../../theory/metre';
import type { ReadMidi } from '../midi/midi-read';
import type { Loss } from '../midi/salvage';
import { isUsable, type BarLines } from './bar-lines';
import type { ImportFile } from './file-model';

/** What a writer should know of a file that comes in: what was lost, and what is not as the file has it. */

/** A track as a writer knows it: by its name, else by its number. */
const trackName = ({ tracks }: ReadMidi, track: number): string =>
  tracks[track]?.name ? `“${tracks[track].name}”` : `track ${track + 1}`;

/** The bar in which a track's last note begins, counted from 1. */
function lastBar({ tracks, resolution, metre }: ReadMidi, track: number): number | null {
  const last = tracks[track]?.notes.at(-1);
  if (!last) return null;
  const { beats, unit } = metre && isUsable(metre) ? metre : { beats: 4, unit: 4 };
  return Math.floor(last.start / ((resolution * 4 * beats) / unit)) + 1;
}

function lossInWords(loss: Loss, file: ReadMidi): string {
  if (loss.kind === 'missing')
    return (
      `The file speaks of ${loss.promised} tracks, and ${loss.found} ${loss.found === 1 ? 'is' : 'are'} in it: ` +
      'the others are lost.'
    );
  if (loss.kind === 'resolution')
    return (
      'The file does not say how long a beat is: its tempo was judged by its notes. ' +
      'If bars look wrong, export it once more from where it comes from.'
    );
  if (loss.kind === 'mended') return 'The file was damaged, and could be mended: no note is lost.';
  const name = trackName(file, loss.track);
  if (loss.kind === 'cut') {
    const bar = lastBar(file, loss.track);
    return bar === null
      ? `The file breaks off in ${name}, before its first note.`
      : `The file breaks off in ${name}, in bar ${bar}: what came after is lost.`;
  }
  if (loss.kind === 'late') return `A rest in ${name} was too long to be meant and was left out.`;
  const places = loss.places === 1 ? 'One place' : `${loss.places} places`;
  return `${places} of ${name} could not be read: a few notes are lost there, and what follows may come too early.`;
}

/** Losses in the order in which they are said; what holds of several tracks alike is said once. */
function lossesInWords(file: ReadMidi): readonly string[] {
  const benign = file.lost.some(({ kind }) => kind === 'mended');
  const lost = file.lost.filter(({ kind }) => kind !== 'mended');
  const said = lost.map((loss) => lossInWords(loss, file));
  return said.length === 0 && benign ? [lossInWords({ kind: 'mended' }, file)] : said;
}

const timesOf = (bars: number): string => (bars === 1 ? 'A bar' : `${bars} bars`);

export function remarksOf(file: ReadMidi, bars: BarLines, read: Pick<ImportFile, 'chords'>): readonly string[] {
  const odd = file.metres.find((metre) => !isUsable(metre));
  const [first] = bars.metres;
  const before = first ? Math.floor(bars.first / barTicks(first.metre)) : 0;
  return [
    ...lossesInWords(file),
    ...(file.counting.by === 'second'
      ? ['The file counts film frames and not beats: its bars are laid out by one tempo, and may need another.']
      : []),
    ...(odd
      ? [`A metre of ${odd.beats}/${odd.unit} is not one of Fendro’s; its bars are counted in the metre before.`]
      : []),
    ...(bars.shifted > 0
      ? ['It begins with a pick-up that shifted its bars: they were put where they are heard.']
      : []),
    ...(bars.shifted === 0 && before > 0 ? [`${timesOf(before)} before bar 1 only lead in, and are none of it.`] : []),
    ...(read.chords.length > 0 ? ['Its markers name chords: those are taken, and not judged by its notes.'] : []),
    ...(file.type === 2 ? ['It holds patterns that stand side by side: they follow one another, each a section.'] : []),
  ];
}

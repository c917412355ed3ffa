import type { ChartBar, ChartWord, ChordChart } from '../../notation/chord-chart';
import { chordSymbol, NO_CHORD } from '../../theory/chord';

/** A chord chart as plain text, as it is read back by `readChart`: headings, four bars a line, strokes for beats. */

const BARS_A_LINE = 4;
/** Stands for a chord that sounds on for a beat, and for a whole bar. */
const [ON, ON_FOR_A_BAR] = ['/', '-'] as const;

/** Signs that every keyboard has. */
const plain = (printed: string): string =>
  printed.replaceAll('♯', '#').replaceAll('♭', 'b').replaceAll('𝄪', '##').replaceAll('𝄫', 'bb');

function wordText(word: ChartWord): string {
  if (!word) return ON;
  if (word.unread !== undefined) return word.unread.replaceAll(/\s+/g, '');
  return word.chord ? plain(chordSymbol(word.chord)) : NO_CHORD;
}

const barText = (bar: ChartBar): string => (bar.length === 0 ? ON_FOR_A_BAR : bar.map(wordText).join(' '));

const linesOf = (bars: readonly ChartBar[]): string[] =>
  Array.from(
    { length: Math.ceil(bars.length / BARS_A_LINE) },
    (_, line) =>
      `| ${bars
        .slice(line * BARS_A_LINE, (line + 1) * BARS_A_LINE)
        .map(barText)
        .join(' | ')} |`,
  );

/** A chart as text. */
export const chartText = ({ title, tonic, scale, tempo, metre, blocks }: ChordChart): string =>
  [
    title,
    `Key: ${plain(tonic)} ${scale.toLowerCase()}  Tempo: ${tempo}  ${metre}`,
    ...blocks.flatMap(({ name, own, bars, times }) => [
      '',
      `[${name}]${times > 1 ? ` x${times}` : ''}${own === '' ? '' : ` (${own})`}`,
      ...linesOf(bars),
    ]),
    '',
  ].join('\n');

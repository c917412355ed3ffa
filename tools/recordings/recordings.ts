/**
 * npm run recordings: every style's band, and what it plays on a piano or alone, rendered offline with Fendro's own
 * sounds and listened to as a recording that comes in: tempo, bar lines, chords and notes held against the song. Writes
 * “Recordings” of docs/figures.md. What is rendered and heard is kept in dist/recordings for the next time.
 */
import { CERTAINTIES } from '@fendro/core/listen/certainty';
import { writeFigures } from '../write-figures.mjs';
import { casesOf, type Kind } from './cases';
import { notesFound, scoreOf, soundOf, type Score } from './scores';

const near = (value: number, to: number, by: number): boolean => Math.abs(value - to) < by;
const mean = (values: readonly number[]): number =>
  values.reduce((sum, value) => sum + value, 0) / Math.max(1, values.length);
const short = (value: number): string => value.toFixed(2).replace(/^0/, '');

const rightTempo = ({ tempo }: Score): boolean => near(tempo, 1, 0.006);
const turned = ({ tempo }: Score): boolean => near(tempo, 0.5, 0.003) || near(tempo, 2, 0.012);

async function harmony(kind: Kind): Promise<{ row: string; scores: readonly Score[] }> {
  const scores: Score[] = [];
  for await (const one of casesOf(kind)) {
    const score = scoreOf(one, soundOf(one));
    scores.push(score);
    console.log(score.name, short(score.chords), score.tempo.toFixed(3), score.bars.toFixed(2));
  }
  const right = scores.filter(rightTempo);
  const bars = right.filter((score) => near(score.bars, 0, 0.15)).length;
  const least = scores.reduce((low, score) => (score.chords < low.chords ? score : low));
  const row =
    `| ${kind}, ${scores.length} | ${short(mean(scores.map(({ chords }) => chords)))} (least: ${least.name}, ` +
    `${short(least.chords)}) | ${right.length}, ${scores.filter(turned).length} half or twice | ${bars} |`;
  return { row, scores };
}

async function lines(kind: Kind): Promise<string> {
  const found: { readonly name: string; readonly share: number }[] = [];
  for await (const one of casesOf(kind)) {
    found.push({ name: one.recording.name, share: notesFound(one.recording.notes, soundOf(one)) });
    console.log(found.at(-1)?.name, short(found.at(-1)?.share ?? 0));
  }
  const below = found.filter(({ share }) => share < 0.85).map(({ name }) => name.replace(/^.*?-(?=[a-z-]+$)/, ''));
  return `| ${kind}, ${found.length} | ${short(mean(found.map(({ share }) => share)))} | ${below.join(', ') || 'none'} |`;
}

async function recordings(): Promise<void> {
  const [band, piano] = [await harmony('band'), await harmony('piano')];
  const singles = [await lines('tune on a piano'), await lines('tune'), await lines('bass')];
  const all = [...band.scores, ...piano.scores];
  const words = CERTAINTIES.map((word) => {
    const beats = all.map((score) => score.words[word]);
    const [right, whole] = [
      beats.reduce((sum, beat) => sum + beat.right, 0),
      beats.reduce((sum, beat) => sum + beat.all, 0),
    ];
    return `${word}: ${short(right / Math.max(1, whole))} of ${whole} beats`;
  });
  writeFigures(
    'Recordings',
    [
      "Every style's band over eight bars and its ending, the same without drums on a piano, its tune and its bass " +
        'alone; rendered offline with the shipped sounds, then listened to as recordings. Chords are right where root ' +
        'and third are, per beat; bar lines are counted where the tempo is right.',
      ['| heard | chords | tempo right | bar lines right |', '|---|---|---|---|', band.row, piano.row].join('\n'),
      ['| single lines | notes within 60 ms, F1 | below .85 |', '|---|---|---|', ...singles].join('\n'),
      `Of the chords that are said to be so sure, these are right: ${words.join('; ')}.`,
    ].join('\n\n'),
  );
}

void recordings();

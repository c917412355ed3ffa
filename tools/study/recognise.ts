import type { Note, Part } from '@fendro/core/song/schema';
import { isDrumRole } from '@fendro/core/song/roles';
import type { Style } from '@fendro/core/song/style';
import { barTicks, type Metre } from '@fendro/core/theory/metre';

interface Sample {
  readonly style: Style;
  readonly ground: { readonly tempo: number; readonly metre: Metre };
  readonly parts: readonly { readonly part: Part; readonly notes: readonly Note[] }[];
}

const SLOTS = 12;

/**
 * Onsets by place in the bar for drums' voices, bass and the rest, with density and register; tempo is left out on
 * purpose.
 */
function features({ ground, parts }: Sample): number[] {
  const bar = barTicks(ground.metre);
  const groups: [(part: Part, note: Note) => boolean, number][] = [
    [(part, note) => isDrumRole(part.role) && [35, 36].includes(note.pitch), 1.2],
    [(part, note) => isDrumRole(part.role) && [37, 38, 39, 40].includes(note.pitch), 1.2],
    [(part, note) => isDrumRole(part.role) && note.pitch > 40, 0.7],
    [(part) => part.role === 'bass', 1],
    [(part) => ['comping', 'strum', 'picking', 'arpeggio', 'ostinato'].includes(part.role), 0.8],
    [(part) => part.role === 'melody', 0.3],
  ];
  const bars = 8;
  return groups.flatMap(([test, weight]) => {
    const row = new Array<number>(SLOTS + 2).fill(0);
    let lengths = 0;
    let count = 0;
    for (const { part, notes } of parts) {
      for (const note of notes) {
        if (!test(part, note)) continue;
        const slot = Math.min(SLOTS - 1, Math.floor(((note.start % bar) * SLOTS) / bar));
        row[slot] = (row[slot] ?? 0) + weight / bars;
        lengths += note.duration / 480;
        count++;
      }
    }
    row[SLOTS] = count === 0 ? 0 : (weight * lengths) / count;
    row[SLOTS + 1] = (weight * count) / (bars * 8);
    return row;
  });
}

/** Names the style of the second half of the seeds by the nearest mean of the first half (nearest centroid). */
export function styleMatrix(samples: readonly Sample[]): { readonly accuracy: number; readonly text: string } {
  const styles = [...new Set(samples.map(({ style }) => style))];
  const centroids = styles.map((style) => {
    const own = samples.filter((sample) => sample.style === style);
    const half = own.slice(0, Math.ceil(own.length / 2)).map(features);
    return half[0]?.map((_, index) => half.reduce((sum, row) => sum + (row[index] ?? 0), 0) / half.length) ?? [];
  });
  let right = 0;
  let all = 0;
  const lines = styles.map((style, index) => {
    const own = samples.filter((sample) => sample.style === style);
    const tested = own.slice(Math.ceil(own.length / 2));
    const named = new Map<string, number>();
    for (const sample of tested) {
      const row = features(sample);
      const distances = centroids.map((centroid) =>
        centroid.reduce((sum, value, at) => sum + (value - (row[at] ?? 0)) ** 2, 0),
      );
      const found = distances.indexOf(Math.min(...distances));
      all++;
      if (found === index) right++;
      else named.set(styles[found]?.name ?? '', (named.get(styles[found]?.name ?? '') ?? 0) + 1);
    }
    const mistaken = [...named]
      .sort((a, b) => b[1] - a[1])
      .map(([name, times]) => `${name} ${times}`)
      .join(', ');
    return (
      `| ${style.name} | ${tested.length - [...named.values()].reduce((sum, times) => sum + times, 0)} of ` +
      `${tested.length} | ${mistaken} |`
    );
  });
  return { accuracy: right / all, text: ['| style | named right | taken for |', '|---|---|---|', ...lines].join('\n') };
}

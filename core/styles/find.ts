import type { Style } from '../song/style';
import { STYLES } from './styles';

const textOf = ({ name, family, moods, metres, scales }: Style): string =>
  [name, family, ...moods, ...metres, ...scales].join(' ').toLowerCase();

/** Finds styles by words in any order, each the beginning of one; a number is a tempo that the style likes. */
export function findStyles(query: string, all: readonly Style[] = STYLES): Style[] {
  const words = query
    .toLowerCase()
    .split(/\s+/)
    .filter((word) => word !== '');
  // Those that are called so come before those that are only like it.
  const called = ({ name }: Style): number =>
    words.filter((word) =>
      name
        .toLowerCase()
        .split(/[\s-]+/)
        .some((part) => part.startsWith(word)),
    ).length;
  return all
    .toSorted((a, b) => called(b) - called(a))
    .filter((style) =>
      words.every((word) => {
        const tempo = /^\d{2,3}$/.test(word) ? Number(word) : null;
        if (tempo !== null) return style.tempo.low <= tempo && tempo <= style.tempo.high;
        return (
          textOf(style)
            .split(/[\s-]+/)
            .some((own) => own.startsWith(word)) || textOf(style).includes(word)
        );
      }),
    );
}

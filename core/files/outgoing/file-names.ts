import { shortened } from '../../song/limits';
import { utf8, wellFormed } from '../midi/text';

/** Letters of a file's name with its ending, and bytes: file systems count either. */
const MOST_LETTERS = 100;
const MOST_BYTES = 240;
/** What stays of a title whose file needs the room for what tells it apart. */
const LEAST_OF_TITLE = 20;

/** Characters that some file system forbids, that steer text, or that end lines. */
const FORBIDDEN = /[<>:"/\\|?*\p{Cc}\u00AD\u200B-\u200F\u2028-\u202E\u2060-\u2069\uFEFF\uFFFD]/gu;
/** Names that one widespread system keeps for devices, whatever their ending. */
const RESERVED = /^(?:con|prn|aux|nul|com[0-9¹²³]|lpt[0-9¹²³])(?=\.|$)/i;

/** One piece of a file's name as every file system takes it, in the writer's own letters. */
function clean(text: string): string {
  const plain = wellFormed(text)
    .normalize('NFC')
    .replaceAll(FORBIDDEN, ' ')
    .replaceAll(/\s+/g, ' ')
    .trim()
    .replaceAll(/^[.\s]+|[.\s]+$/g, '');
  return plain.replace(RESERVED, (name) => `${name}_`);
}

/** The longest beginning of a text within some letters and bytes. */
function fitting(text: string, letters: number, bytes: number): string {
  let result = shortened(text, Math.max(1, letters));
  while (result.length > 1 && utf8(result).length > bytes) result = shortened(result, result.length - 1);
  return result.replaceAll(/[.\s]+$/g, '');
}

/**
 * The name of a file from what it holds, the song's title first: every letter that a file system takes, at most 100 of
 * them. Where that is too long, the title gives way.
 *
 * @param ending  with its dot
 */
export function fileNameOf(pieces: readonly string[], ending: string): string {
  const [title = '', ...rest] = pieces.map(clean).filter((piece) => piece !== '');
  const tail = rest.map((piece) => ` - ${piece}`).join('');
  const [letters, bytes] = [MOST_LETTERS - ending.length, MOST_BYTES - ending.length];
  const head = fitting(
    title,
    Math.max(LEAST_OF_TITLE, letters - tail.length),
    Math.max(LEAST_OF_TITLE, bytes - utf8(tail).length),
  );
  return (fitting(head + tail, letters, bytes) || 'untitled') + ending;
}

const alike = (name: string): string => name.normalize('NFC').toLowerCase();

/** The same files under names that differ even where capitals do not count: “name (2).mid”. */
export function withNamesApart<T extends { readonly name: string }>(files: readonly T[]): T[] {
  const taken = new Set<string>();
  return files.map((file) => {
    const dot = file.name.lastIndexOf('.');
    const [stem, ending] = dot < 0 ? [file.name, ''] : [file.name.slice(0, dot), file.name.slice(dot)];
    let name = file.name;
    for (let number = 2; taken.has(alike(name)); number++) {
      const mark = ` (${number})${ending}`;
      name = fitting(stem, MOST_LETTERS - mark.length, MOST_BYTES - mark.length) + mark;
    }
    taken.add(alike(name));
    return name === file.name ? file : { ...file, name };
  });
}

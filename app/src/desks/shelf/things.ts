import { leanLabel } from '@fendro/core/lean/words';
import { listed } from '@fendro/core/song/limits';
import { isDrumRole, roleOf } from '@fendro/core/song/roles';
import { chordRhythmOf, fullnessOf } from '@fendro/core/styles/chord-rhythms';
import { chordSymbol } from '@fendro/core/theory/chord';
import { scaleOf } from '@fendro/core/theory/scale';
import { sayTreatment } from '@fendro/core/treat/words';
import { partsAndSections } from '../../storage/kept-song';
import type { KindedItem } from '../../storage/shelf-file';
import { idOf, itemKey, type ShelfContents, type ShelfItem, type ShelfKind } from '../../storage/shelf-storage';
import { nameIn } from '../../ui/spoken';
import { wordsIn } from '../../ui/words';

export { LABELS } from '../../storage/shelf-storage';

/** The shelf as the writer sees it: what lies on it, of all kinds, with what was noted of each. */

/** What the writer puts there, all of a kind and one of it; what else is kept on the shelf belongs to this machine. */
const SEEN_KINDS = {
  progressions: ['Progressions', 'progression'],
  rhythms: ['Rhythms', 'rhythm'],
  // Each says itself which of the two it is.
  phrases: ['Phrases and drum patterns', ''],
  patterns: ['Patterns', 'pattern'],
  briefs: ['Briefs', 'brief'],
  leanings: ['Leanings', 'leaning'],
  chains: ['Treatments', 'treatments'],
  styles: ['Styles', 'style'],
  bands: ['Band set-ups', 'band set-up'],
  starts: ['Song starts', 'song start'],
  scales: ['Scales', 'scale'],
  keys: ['Keys', 'keys'],
} as const satisfies Partial<Record<ShelfKind, readonly [all: string, one: string]>>;
export type SeenKind = keyof typeof SEEN_KINDS;

export const SEEN = Object.keys(SEEN_KINDS) as readonly SeenKind[];

/** What things of a kind are called together. */
export const nameOfKind = (kind: SeenKind): string => SEEN_KINDS[kind][0];

/** One thing on the shelf. */
export interface Thing {
  /** Its place on the shelf: see itemKey. */
  readonly key: string;
  readonly kind: SeenKind;
  readonly id: string;
  readonly name: string;
  /** What more there is to say of it. */
  readonly says: string;
  readonly tags: readonly string[];
  readonly folder: string | null;
  readonly kept: boolean;
}

interface Said extends Pick<Thing, 'id' | 'name' | 'says'> {
  /** From whom it came, where that is known. */
  readonly source?: string;
}

const bars = (count: number): string => `${count} ${count === 1 ? 'bar' : 'bars'}`;
const role = (id: ShelfItem<'briefs'>['role']): string => roleOf(id).name.toLowerCase();
/** Treatments of no part in particular speak of notes by their plain names. */
const anyPitch = (pitch: number): string => nameIn({ tonic: 0, scale: 'major' }, pitch);

/** What each kind says of a thing. */
const SAYS: { readonly [K in Exclude<SeenKind, 'keys'>]: (item: ShelfItem<K>) => Said } = {
  progressions: ({ id, name, bars: count, chords, scale }) => ({
    id,
    name,
    says: `${bars(count)}, ${scaleOf(scale).name.toLowerCase()}: ${chords
      .slice(0, 12)
      .map(({ chord }) => (chord ? chordSymbol(chord) : 'N.C.'))
      .join(' ')}${chords.length > 12 ? ' …' : ''}`,
  }),
  rhythms: (id) => {
    const rhythm = chordRhythmOf(id);
    return { id, name: rhythm?.name ?? 'A rhythm', says: rhythm ? `${fullnessOf(rhythm.steps)}, ${rhythm.metre}` : '' };
  },
  phrases: ({ id, name, role: of, bar, length, from }) => ({
    id,
    name,
    says: [
      of === 'drums' ? 'drum pattern' : isDrumRole(of) ? `${role(of)} pattern` : `${role(of)} phrase`,
      bars(Math.max(1, Math.round(length / bar))),
      ...(from ? [from.source, from.licence] : []),
    ]
      .filter((text) => text !== '')
      .join(', '),
    ...(from && from.source !== '' ? { source: from.source } : {}),
  }),
  patterns: ({ id, name, role: of, pattern }) => ({ id, name, says: `${role(of)}, ${PATTERN_WORDS[pattern.of]}` }),
  briefs: ({ id, name, role: of }) => ({ id, name, says: role(of) }),
  leanings: ({ id, name, moves }) => ({
    id,
    name,
    says: moves
      .map(({ setting, by }) => `${leanLabel(setting).toLowerCase()} ${by > 0 ? '+' : '−'}${Math.abs(by)}`)
      .join(', '),
  }),
  chains: ({ id, name, chain }) => ({
    id,
    name,
    says: chain
      .map((branch) => branch.map((treatment) => sayTreatment(treatment, anyPitch)).join(', then '))
      .join('; meanwhile '),
  }),
  styles: ({ id, name, family, moods, metres, tempo }) => ({
    id,
    name,
    says: `${family.toLowerCase()}; ${moods.join(', ')}; ${metres[0]}, ${tempo.low}–${tempo.high}`,
  }),
  bands: ({ id, name, song }) => ({ id, name, says: listed(partsAndSections(song).parts) }),
  starts: ({ id, name, song }) => {
    const { parts, sections } = partsAndSections(song);
    return { id, name, says: `${listed(sections)}; ${listed(parts)}` };
  },
  scales: (id) => ({ id, name: scaleOf(id).name, says: scaleOf(id).degrees.join(' ') }),
};

const PATTERN_WORDS = { drawn: 'drawn step by step', loops: 'loops', wandering: 'wandering' } as const;

/** Everything that the writer put on the shelf; keys of one's own are one thing together. */
export function thingsOf(contents: ShelfContents): readonly Thing[] {
  const labels = new Map(contents.labels.map((label) => [label.id, label]));
  const favourites = new Set(contents.favourites);
  const noted = (kind: SeenKind, { source, ...said }: Said): Thing => {
    const key = itemKey(kind, said.id);
    const label = labels.get(key);
    // A bank is a folder until the writer puts its phrases elsewhere.
    const folder = label?.folder ?? source ?? null;
    return { key, kind, ...said, tags: label?.tags ?? [], folder, kept: favourites.has(said.id) };
  };
  const ofKind = (kind: Exclude<SeenKind, 'keys'>): readonly Thing[] => {
    const items: readonly ShelfItem<ShelfKind>[] = contents[kind];
    return items.map((item) => noted(kind, SAYS[kind](item as never)));
  };
  const count = contents.keys.length;
  return SEEN.flatMap((kind) =>
    kind !== 'keys'
      ? ofKind(kind)
      : count === 0
        ? []
        : [
            noted(kind, {
              id: KEY_SET,
              name: 'Keys of my own',
              says: `for ${count} ${count === 1 ? 'command' : 'commands'}`,
            }),
          ],
  );
}

/** What all keys of one's own are called together. */
const KEY_SET = 'set';

/** The items behind a thing, with what was noted of it. */
export function itemsOf(contents: ShelfContents, { key, kind, id }: Pick<Thing, 'key' | 'kind' | 'id'>): KindedItem[] {
  const items: readonly ShelfItem<ShelfKind>[] = contents[kind];
  return [
    ...items.filter((item) => kind === 'keys' || idOf(item) === id).map((item): KindedItem => ({ kind, item })),
    ...contents.labels.filter((label) => label.id === key).map((item): KindedItem => ({ kind: 'labels', item })),
  ];
}

/** What is looked for on the shelf; null where it does not matter. */
export interface Looked {
  readonly query: string;
  readonly kind: SeenKind | null;
  readonly folder: string | null;
  readonly keptOnly: boolean;
}

/** Things that are of a kind, lie in a folder, and say every word that is asked for. */
export function found(things: readonly Thing[], { query, kind, folder, keptOnly }: Looked): readonly Thing[] {
  const words = wordsIn(query);
  return things.filter((thing) => {
    if ((kind !== null && thing.kind !== kind) || (folder !== null && thing.folder !== folder)) return false;
    if (keptOnly && !thing.kept) return false;
    if (words.length === 0) return true;
    const text = [thing.name, detailOf(thing), thing.folder ?? ''].join(' ').toLowerCase();
    return words.every((word) => text.includes(word));
  });
}

/** What is said of a thing under its name. */
export const detailOf = ({ kind, says, tags }: Thing): string =>
  [SEEN_KINDS[kind][1], says, ...tags].filter((text) => text !== '').join(' · ');

/** Every folder that something lies in, in the order of the alphabet. */
export const foldersOf = (things: readonly Thing[]): readonly string[] =>
  [...new Set(things.flatMap(({ folder }) => folder ?? []))].sort((a, b) => a.localeCompare(b));

/** Tags as they are typed, one after a comma; each once, as long and as many as are kept. */
export const tagsIn = (text: string, limits: { readonly tag: number; readonly tags: number }): readonly string[] =>
  [
    ...new Set(
      text
        .split(',')
        .map((tag) => tag.trim().slice(0, limits.tag).trim())
        .filter((tag) => tag !== ''),
    ),
  ].slice(0, limits.tags);

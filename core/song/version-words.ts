import { barOf, groundOf } from './ground';
import { LIMITS, numbered } from './limits';
import { chordsIn, partTake, soundingId, type Music } from './resolve';
import { isDrumRole } from './roles';
import type { Part, Score, Section } from './schema';
import { groupOf } from './section';
import { placedSections, versionsOf } from './versions';
import { metreText } from '../theory/metre';
import { printedName } from '../theory/pitch';
import type { Ticks } from '../theory/units';

/** What versions of a section are called where nobody named them: by what sets each apart from the first. */

const FIRST = 'as first heard';
/** By this share of notes fewer a version is barer, by its inverse fuller. */
const BARER = 0.75;

interface Played {
  readonly part: Part;
  /** Where notes begin and what they are, for comparing. */
  readonly text: string;
  readonly count: number;
  readonly onset: Ticks;
}

function playedIn({ score, takes, heard }: Music, section: Section): readonly Played[] {
  return score.parts.map((part) => {
    const notes = partTake(takes, soundingId(section, part.id, heard))?.notes ?? [];
    return {
      part,
      text: notes.map(({ start, duration, pitch }) => `${start} ${duration} ${pitch}`).join(),
      count: notes.length,
      onset: notes.reduce((first, { start }) => Math.min(first, start), Infinity),
    };
  });
}

function groundWords(score: Score, first: Section, section: Section): string[] {
  const [before, now] = [groundOf(score, first), groundOf(score, section)];
  return [
    ...(before.tonic === now.tonic && before.scale === now.scale ? [] : [`in ${printedName(now.tonic)}`]),
    ...(before.tempo === now.tempo ? [] : [now.tempo > before.tempo ? 'faster' : 'slower']),
    ...(metreText(before.metre) === metreText(now.metre) ? [] : [`in ${metreText(now.metre)}`]),
  ];
}

/** What one part does otherwise; null where it does the same. */
function partWord(before: Played, now: Played, bar: Ticks): string | null {
  if (before.text === now.text) return null;
  const name = before.part.name.toLowerCase();
  if (now.count === 0) return `without ${name}`;
  if (before.count === 0) return `with ${name}`;
  return now.onset >= before.onset + bar ? `late ${name}` : `other ${name}`;
}

/** What sets a section apart from another, what tells most first. */
function differences(music: Music, first: Section, section: Section, bar: Ticks): readonly string[] {
  const { score, takes, heard } = music;
  const [before, now] = [playedIn(music, first), playedIn(music, section)];
  const parts = before.flatMap((played, index) => {
    const other = now[index];
    const word = other ? partWord(played, other, bar) : null;
    return word === null ? [] : [word];
  });
  // Drum strokes would outweigh everything that is played beside them.
  const total = (all: readonly Played[]): number =>
    all.reduce((sum, { part, count }) => sum + (isDrumRole(part.role) ? count / 4 : count), 0);
  const share = total(now) / Math.max(1, total(before));
  const density = parts.length < 2 ? [] : share <= BARER ? ['barer'] : share >= 1 / BARER ? ['fuller'] : [];
  // One part more or less says more than how much is played; where several come or go, it is the other way round.
  const presence = parts.filter((word) => /^with(out)? /.test(word));
  const single = presence.length === 1 ? presence : [];
  const chordText = (of: Section): string => JSON.stringify(chordsIn(of, takes, heard));
  const chords = chordText(first) === chordText(section) ? [] : ['other chords'];
  const length = first.bars === section.bars ? [] : [section.bars > first.bars ? 'longer' : 'shorter'];
  return [...new Set([...length, ...groundWords(score, first, section), ...single, ...density, ...chords, ...parts])];
}

/** How many differences a name tells where one does not tell it from the others. */
const TOLD = 2;

/** The shortest name that tells what differs and is free. */
function nameFor(differing: readonly string[], taken: ReadonlySet<string>): string {
  const [first = 'the same'] = differing;
  const names = [first, differing.slice(0, TOLD).join(', ')];
  return names.find((name) => name !== '' && !taken.has(name)) ?? numbered(first, taken, LIMITS.name);
}

/**
 * The names of the versions of a section, by their ids: the writer's own, else what sets each apart from the first. No
 * two are the same.
 *
 * @param versions  of one group, in their order
 * @param bar       one bar, in ticks
 */
export function versionNames(music: Music, versions: readonly Section[], bar: Ticks): ReadonlyMap<string, string> {
  const [first] = versions;
  const names = new Map<string, string>();
  const taken = new Set<string>(versions.flatMap(({ version }) => version?.name ?? []));
  for (const section of versions) {
    const own = section.version?.name ?? null;
    if (own !== null || !first) {
      names.set(section.id, own ?? FIRST);
      continue;
    }
    const name = nameFor(section === first ? [FIRST] : differences(music, first, section, bar), taken);
    taken.add(name);
    names.set(section.id, name);
  }
  return names;
}

/**
 * What a section is called among the others of the song: by its name, and where other versions of it sound as well, by
 * what the version is called.
 */
export function nameApart(music: Music, section: Section): string {
  if (section.version === null) return section.name;
  const group = groupOf(section);
  const sounding = placedSections(music.score).filter((other) => groupOf(other) === group);
  return sounding.length < 2 ? section.name : wholeName(music, section);
}

/** A section's name with that of its version, where it has several. */
export function wholeName(music: Music, section: Section): string {
  const { score } = music;
  if (section.version === null) return section.name;
  const name = versionNames(music, versionsOf(score, section), barOf(score, section)).get(section.id);
  return name === undefined ? section.name : `${section.name}, ${name}`;
}

import { NO_PLAN } from '../../song/plan';
import { harmonyBriefFor, PLAIN_CHORDS } from '../../song/briefs';
import { freeName } from '../../song/edit';
import { LIMITS, shortened } from '../../song/limits';
import { own } from '../../song/look-up';
import {
  SECTION_KINDS,
  type ChordSpan,
  type Ground,
  type Occurrence,
  type Part,
  type Score,
  type Section,
  type SectionKind,
  type Take,
  type OccurrenceId,
  HARMONY,
} from '../../song/schema';
import { inferChords } from '../../study/infer/chords';
import { inferKeys, type KeyGuess } from '../../study/infer/key';
import { semitonesBetween, type Key } from '../../theory/key';
import { pitchClassOf } from '../../theory/pitch';
import { barTicks, metreName } from '../../theory/metre';
import type { Ticks } from '../../theory/units';
import { styleIn } from '../../styles/styles';
import { briefFor, pitchedNotes, type ImportFile, type ImportLine, type ImportSection } from './midi-import';
import { cutOut, fewestOf, soundingIn, withinRoom, type Cut, type Move } from './stretches';
import { type Place, looseTake, chordsTake } from '../../song/take';
import { withChoices } from '../../song/section';

/** What happens to the music of a file that stands in another key than the song it goes into. */
export type KeyChoice = 'leave' | 'move the notes' | 'move the song';

export interface ImportChoice {
  /** Lines to bring in, by id. */
  readonly lines: readonly string[];
  /** The key of the file, as found or as the writer corrected it. */
  readonly key: Key;
  readonly move: KeyChoice;
  /** Lines that go into parts that are there already, by the part's id; all others make new ones. */
  readonly into?: Readonly<Record<string, string>>;
  readonly file: string;
}

export interface Imported {
  readonly score: Score;
  readonly takes: readonly Take[];
  /** The first place of the running order that came in. */
  readonly occurrence: OccurrenceId;
}

/** The keys that a file may be in, by its notes and by the chords that it begins and ends with. */
export function keysOfFile({ lines, sections }: ImportFile): KeyGuess[] {
  const notes = pitchedNotes(lines);
  const rootsOf = (section: ImportSection | undefined): number[] => {
    if (!section) return [];
    // Any key will do here: it only tips the scales between chords that are equally likely.
    return inferChords(
      soundingIn(section, notes),
      { tonic: 0, scale: 'chromatic' },
      section.metre,
      section.bars * barTicks(section.metre),
    ).flatMap(({ chord }) => (chord ? [pitchClassOf(chord.root)] : []));
  };
  return inferKeys(notes, { first: rootsOf(sections[0])[0] ?? null, last: rootsOf(sections.at(-1)).at(-1) ?? null });
}

/** A section's kind by its marker, where the marker names one. */
function kindOf(name: string): SectionKind {
  const plain = name.toLowerCase();
  return SECTION_KINDS.toSorted((a, b) => b.length - a.length).find((kind) => plain.includes(kind)) ?? 'verse';
}

/** The chords of every section of a file, from the lines that are picked. Takes a while for long files: for workers. */
export function chordsOfFile(file: ImportFile, picked: readonly string[], key: Key): ChordSpan[][] {
  const notes = pitchedNotes(file.lines.filter(({ id }) => picked.includes(id)));
  return file.sections.map((section) =>
    inferChords(soundingIn(section, notes), key, section.metre, section.bars * barTicks(section.metre)),
  );
}

/** Lines of a file that make parts of their own. */
const linesThatCome = ({ lines }: ImportFile, choice: ImportChoice): ImportLine[] =>
  lines.filter(({ id }) => choice.lines.includes(id));

/**
 * Why lines of a file cannot come into a score as they are picked, in plain words and with what to do, or null.
 */
export function importProblem(
  into: Pick<Score, 'parts' | 'sections' | 'order'>,
  file: ImportFile,
  choice: Pick<ImportChoice, 'lines' | 'into'>,
): string | null {
  const targets = choice.into ?? {};
  const room = LIMITS.parts - into.parts.length;
  const come = file.lines.filter(({ id }) => choice.lines.includes(id) && own(targets, id) === undefined).length;
  if (come > room) {
    const there = into.parts.length === 0 ? '' : ` and ${into.parts.length} are there`;
    const else_ = into.parts.length === 0 ? '' : ', or let some go into parts that are there';
    return `A song holds up to ${LIMITS.parts} parts${there}; ${come} would come. Pick at most ${room} lines${else_}.`;
  }
  const sections = Math.min(LIMITS.sections - into.sections.length, LIMITS.places - into.order.length);
  if (sections < 1)
    return (
      `A song holds up to ${LIMITS.sections} sections in ${LIMITS.places} places, and this one is full. ` +
      'Take some out first, or bring the file in as a song of its own.'
    );
  const fewest = fewestOf(file.sections);
  if (fewest > sections)
    return (
      `This file changes its metre ${fewest - 1} times, and a song holds up to ${LIMITS.sections} ` +
      `sections; there is room for ${sections}. Cut the file into shorter ones.`
    );
  return null;
}

/**
 * Brings lines of a file into a score: parts, sections by markers, the chords that were found, each as a take. The
 * score's own music is untouched.
 *
 * @param into    the score that takes it in; for a song of its own, one without parts and sections
 * @param chords  the chords of each section, in the file's key
 * @param newId   makes ids
 */
export function importInto(
  into: Score,
  file: ImportFile,
  chords: readonly (readonly ChordSpan[])[],
  choice: ImportChoice,
  newId: (kind: string) => string,
): Imported {
  const lines = linesThatCome(file, choice);
  const songKey: Key = { tonic: into.ground.tonic, scale: into.ground.scale };
  const moves = choice.move === 'move the notes';
  const move: Move = moves
    ? { shift: semitonesBetween(choice.key, songKey), fifths: songKey.tonic - choice.key.tonic }
    : { shift: 0, fifths: 0 };
  const key: Key = moves ? { tonic: songKey.tonic, scale: choice.key.scale } : choice.key;
  const { cuts, print } = withinRoom(
    file.sections.map((section, index) => ({ section, chords: chords[index] ?? [] })),
    (stretch) => cutOut(stretch, lines, move),
    { sections: LIMITS.sections - into.sections.length, places: LIMITS.places - into.order.length },
  );
  const parts = lines.map(
    (line, index) =>
      into.parts.find(({ id }) => id === own(choice.into, line.id)) ??
      partFrom(line, newId('part'), into.parts.length + index),
  );
  let score: Score = { ...into, parts: [...into.parts, ...parts.filter((part) => !into.parts.includes(part))] };
  const takes: Take[] = [];
  const known = new Map<string, string>();
  const occurrences: Occurrence[] = [];
  for (const cut of cuts) {
    const likeness = print(cut);
    let id = known.get(likeness);
    if (id === undefined) {
      id = newId('section');
      known.set(likeness, id);
      const made = sectionFrom(cut, id, parts, score, key, choice.file, newId);
      takes.push(...made.takes);
      score = { ...score, sections: [...score.sections, made.section] };
    }
    occurrences.push({ id: newId('occurrence'), section: id });
  }
  return { score: { ...score, order: [...score.order, ...occurrences] }, takes, occurrence: occurrences[0]?.id ?? '' };
}

function partFrom(line: ImportLine, id: string, colour: number): Part {
  return {
    id,
    name: line.name,
    role: line.role,
    instrument: line.instrument,
    colour: colour % 10,
    level: line.drums ? 76 : 72,
    pan: 0,
    muted: false,
    swaps: {},
    style: null,
    brief: briefFor(line),
  };
}

function sectionFrom(
  { section, lines, chords }: Cut,
  id: string,
  parts: readonly Part[],
  score: Score,
  key: Key,
  file: string,
  newId: (kind: string) => string,
): { section: Section; takes: Take[] } {
  const length: Ticks = section.bars * barTicks(section.metre);
  const place = (): Place => ({ id: newId('take'), section: id, length });
  const source = { how: 'imported', from: shortened(file, 200) } as const;
  const takes: Take[] = lines.flatMap(({ notes }, index): Take[] => {
    const part = parts[index];
    return part && notes.length > 0 ? [looseTake(place(), part.id, notes.slice(0, LIMITS.notes), source)] : [];
  });
  const harmony: Take[] = chords.some(({ chord }) => chord !== null) ? [chordsTake(place(), chords, source)] : [];
  const kind = kindOf(section.name);
  const empty: Section = {
    id,
    version: null,
    kind,
    name: freeName(score, section.name || 'Part'),
    bars: section.bars,
    harmony: null,
    harmonyBrief: harmonyBriefFor(kind, styleIn(score, score.ground.style).harmony),
    ground: ownGround(section, key, score.ground),
    chordSetting: PLAIN_CHORDS,
    plan: NO_PLAN,
    solos: [],
    holds: {},
    chosen: {},
  };
  const made = [...harmony, ...takes];
  const chosen = made.map((take) => [take.of === 'part' ? take.part : HARMONY, take.id] as const);
  return { section: withChoices(empty, chosen), takes: [...takes, ...harmony] };
}

/** Only what differs from the song. */
function ownGround(section: ImportSection, key: Key, ground: Ground): Section['ground'] {
  const sameKey = key.tonic === ground.tonic && key.scale === ground.scale;
  return {
    ...(sameKey ? {} : { tonic: key.tonic, scale: key.scale }),
    ...(metreName(section.metre) === metreName(ground.metre) ? {} : { metre: section.metre }),
    ...(Math.abs(section.tempo - ground.tempo) < 0.01 ? {} : { tempo: section.tempo }),
  };
}

/** The ground of a song that begins with a file. */
export function groundOfFile(file: ImportFile, key: Key, style: string): Ground {
  const first = file.sections[0];
  // A file's notes stand where they sound: swing and a style's feel would move them once more.
  return {
    tonic: key.tonic,
    scale: key.scale,
    tempo: first?.tempo ?? 120,
    metre: first?.metre ?? { beats: 4, unit: 4, groups: [2, 2] },
    swing: 0,
    style,
    feel: 0,
  };
}

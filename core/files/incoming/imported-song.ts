import { freeName } from '../../song/edit';
import { LIMITS, shortened } from '../../song/limits';
import { own } from '../../song/look-up';
import {
  type ChordSpan,
  type Ground,
  type Occurrence,
  type Part,
  type Score,
  type Section,
  type Take,
  type OccurrenceId,
  HARMONY,
} from '../../song/schema';
import { inferChords } from '../../study/infer/chords';
import { inferKeys, type KeyGuess } from '../../study/infer/key';
import { isSameKey, semitonesBetween, tonicsFor, type Key } from '../../theory/key';
import { pitchClassOf } from '../../theory/pitch';
import { barTicks, metreName } from '../../theory/metre';
import type { Ticks } from '../../theory/units';
import { newSection } from '../../styles/band';
import { styleIn } from '../../styles/styles';
import type { ImportFile, ImportLine, ImportSection } from './file-model';
import { briefFor, pitchedNotes } from './midi-import';
import { withMovesOf } from './moves-of-file';
import { namedIn } from './chord-names';
import { kindOf } from './section-kind';
import { cutOut, fewestOf, soundingIn, withinRoom, type Cut, type Move } from './stretches';
import { type Place, looseTake, chordsTake } from '../../song/take';
import { withChoices } from '../../song/section';
import { fewTempos } from '../../song/tempos';

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

/** The keys that a file may be in: the one that it states, then by its notes and the chords that it begins and ends with. */
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
  const guesses = inferKeys(notes, {
    first: rootsOf(sections[0])[0] ?? null,
    last: rootsOf(sections.at(-1)).at(-1) ?? null,
  });
  const stated = sections[0]?.key;
  if (!stated) return guesses;
  return [{ key: stated, confidence: 100 }, ...guesses.filter(({ key }) => !isSameKey(key, stated))];
}

/** The key of a stretch: the one that it states, unless that is the file's own, which the writer may have corrected. */
function keyOfStretch({ sections }: ImportFile, { key: stated }: ImportSection, key: Key): Key {
  const own = sections[0]?.key;
  return stated && own && !isSameKey(stated, own) ? stated : key;
}

/**
 * The chords of every section of a file: those that it names, else what is heard in the lines that are picked. Takes a
 * while for long files: for workers.
 */
export function chordsOfFile(file: ImportFile, picked: readonly string[], key: Key): ChordSpan[][] {
  const notes = pitchedNotes(file.lines.filter(({ id }) => picked.includes(id)));
  return file.sections.map((section) => {
    const length = section.bars * barTicks(section.metre);
    return (
      namedIn(file.chords, section.start, length) ??
      inferChords(soundingIn(section, notes), keyOfStretch(file, section, key), section.metre, length)
    );
  });
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
  const move: Move = {
    shift: moves ? semitonesBetween(choice.key, songKey) : 0,
    fifths: moves ? songKey.tonic - choice.key.tonic : 0,
    ...reachOf(file.sections),
  };
  const keyOf = (section: ImportSection): Key => movedKey(keyOfStretch(file, section, choice.key), move.fifths);
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
      const made = sectionFrom(cut, id, parts, score, keyOf(cut.section), choice.file, newId);
      takes.push(...made.takes);
      score = { ...score, sections: [...score.sections, made.section] };
    }
    occurrences.push({ id: newId('occurrence'), section: id });
  }
  score = { ...score, order: [...score.order, ...occurrences] };
  const placed = cuts.map(({ section }, index) => ({ section, place: occurrences[index]?.id ?? '' }));
  const moving = lines.map((line, index) => ({ line, part: parts[index] }));
  // Parts that were there keep their own place in the mix.
  const made = moving.filter(({ part }) => part !== undefined && !into.parts.includes(part));
  return {
    score: made.reduce((song, { line, part }) => (part ? withMovesOf(song, line, part, placed) : song), score),
    takes,
    occurrence: occurrences[0]?.id ?? '',
  };
}

/** Where the stretches of a file begin and end. */
function reachOf(sections: readonly ImportSection[]): Pick<Move, 'first' | 'last'> {
  const last = sections.at(-1);
  return { first: sections[0]?.start ?? 0, last: last ? last.start + last.bars * barTicks(last.metre) : 0 };
}

/** A key moved along the line of fifths, on the tonic that is easiest to read. */
const movedKey = ({ tonic, scale }: Key, fifths: number): Key =>
  fifths === 0 ? { tonic, scale } : { tonic: tonicsFor(scale)[pitchClassOf(tonic + fifths)] ?? tonic, scale };

function partFrom(line: ImportLine, id: string, colour: number): Part {
  return {
    id,
    name: line.name,
    role: line.role,
    instrument: line.instrument,
    colour: colour % 10,
    level: line.level ?? (line.drums ? 76 : 72),
    pan: line.pan ?? 0,
    ...(line.tone === undefined ? {} : { tone: line.tone }),
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
  const named = newSection(
    styleIn(score, score.ground.style),
    kindOf(section.name),
    id,
    freeName(score, section.name || 'Part'),
  );
  const empty: Section = { ...named, bars: section.bars, ground: ownGround(section, key, score.ground) };
  const made = [...harmony, ...takes];
  const chosen = made.map((take) => [take.of === 'part' ? take.part : HARMONY, take.id] as const);
  return { section: withTemposOf(section, withChoices(empty, chosen)), takes: [...takes, ...harmony] };
}

/** A section with how the tempo goes on its way. */
function withTemposOf({ tempos, tempo }: ImportSection, section: Section): Section {
  const few = fewTempos(tempos, tempo);
  return few.length === 0 ? section : { ...section, tempos: few };
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
